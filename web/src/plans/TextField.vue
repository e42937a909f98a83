<script setup lang="ts">
import { nextTick, useTemplateRef, watch } from 'vue'
import { useAttaching } from '@/notes'
import { LeftBehind, Questions, useKeptText } from '@/typing'
import { count } from '@/words/format'

/** A text of a plan that is saved while it is written: see useKeptText. */
const props = withDefaults(
  defineProps<{
    name: string
    label: string
    placeholder?: string // where it differs from the label
    value: string
    /** Under which it is kept on this machine: the plan, the part and the field. */
    kept: string
    rows?: number
    most?: number // characters
    repository?: number // pictures and files may go with it
    by?: string // who else changed it last
    held?: boolean // it is not saved for now
    save: (from: string, to: string) => Promise<unknown>
  }>(),
  { placeholder: undefined, rows: 1, most: 20_000, repository: 0, by: '' },
)
const area = useTemplateRef<HTMLTextAreaElement>('area')
const {
  text,
  dirty,
  excess,
  questions,
  left,
  typed,
  save,
  answer,
  putBack,
  drop: forget,
} = useKeptText({
  name: () => props.kept,
  value: () => props.value,
  by: () => props.by,
  most: props.most,
  save: (from, to) => props.save(from, to),
  held: () => props.held,
  moved: (to) => {
    const a = area.value
    if (!a || document.activeElement !== a) return
    const [start, end] = [to(a.selectionStart), to(a.selectionEnd)]
    void nextTick(() => a.setSelectionRange(start, end))
  },
})
// words that could not be saved meanwhile
watch(
  () => props.held,
  (held) => !held && void save(),
)
const { sending, paste, drop } = useAttaching(
  () => props.repository,
  text,
  () => area.value,
)
// what is attached is kept like what is typed
watch(sending, (name) => !name && typed())
const press = (e: KeyboardEvent) => {
  if (e.key === 'Enter' && (props.rows === 1 || e.ctrlKey || e.metaKey)) {
    e.preventDefault()
    void save()
    ;(e.target as HTMLElement).blur()
  }
}
defineExpose({ text, dirty })
</script>

<template>
  <div class="kept">
    <LeftBehind v-if="left" :text="left.value.text" :at="left.at" @back="putBack" @drop="forget" />
    <Questions :questions="questions" @answer="answer" />
    <textarea
      ref="area"
      v-model="text"
      :name="name"
      :rows="rows"
      :aria-label="label"
      :aria-invalid="excess > 0"
      :placeholder="placeholder ?? label"
      @input="typed"
      @blur="save"
      @keydown="press"
      v-on="repository ? { paste, drop } : {}"
    />
    <p v-if="excess" class="fault" role="alert">
      {{ count(excess) }} characters too many: {{ count(most) }} are the most. It is kept on this machine and saved once it is shorter.
    </p>
    <p v-if="sending" class="soft" role="status">attaching {{ sending }} …</p>
  </div>
</template>

<style scoped>
textarea {
  display: block;
  width: calc(100% + 6px);
  margin-left: -6px;
  padding: 2px 6px;
  font: inherit;
  color: var(--ink);
  background: none;
  border: 1px solid transparent;
  border-radius: var(--radius);
  resize: none;
  field-sizing: content;
  max-height: 40vh;
}
textarea:hover,
textarea:focus {
  border-color: var(--rule);
  background: var(--sheet);
}
textarea::placeholder {
  color: var(--ink-soft);
  opacity: 1;
}
</style>
