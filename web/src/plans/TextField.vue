<script setup lang="ts">
import { computed, onBeforeUnmount, ref, useTemplateRef, watch } from 'vue'
import { ProblemError, words } from '@/api/client'
import { notice } from '@/frame/notice'
import { useAttach } from '@/notes'
import { merge } from '@/words/merge'
import { many } from '@/words/format'

/** A text that is kept while it is written. Where somebody else changed it
 * meanwhile, both changes are put together and shown before anything is kept. */
const props = withDefaults(
  defineProps<{
    name: string
    label: string
    value: string
    rows?: number
    most?: number // characters
    repository?: number // pictures and files may go with it
    save: (from: string, to: string) => Promise<unknown>
  }>(),
  { rows: 1, most: 20_000, repository: 0 },
)
const text = ref(props.value)
const base = ref(props.value) // what the text is a change of
const met = ref<{ theirs: string; mine: string; both: number } | null>(null)
const dirty = computed(() => text.value !== base.value)
let timer = 0
let busy = false
watch(
  () => props.value,
  (now) => {
    if (busy || now === base.value) return
    if (!dirty.value) text.value = now
    else meet(now)
    base.value = now
  },
)
function meet(theirs: string) {
  const { text: together, both } = merge(base.value, text.value, theirs)
  met.value = together === text.value ? null : { theirs, mine: text.value, both }
  text.value = together
}
async function keep() {
  clearTimeout(timer)
  if (!dirty.value || busy || met.value) return
  const [from, to] = [base.value, text.value]
  busy = true
  base.value = to
  try {
    await props.save(from, to)
  } catch (e) {
    const current = e instanceof ProblemError ? e.problem.current : undefined
    base.value = from
    if (typeof current === 'string') {
      meet(current)
      base.value = current
    } else {
      notice(words(e), { fault: true })
    }
  } finally {
    busy = false
  }
}
function typed() {
  clearTimeout(timer)
  timer = window.setTimeout(() => void keep(), 1500)
}
function agree(to?: string) {
  if (to !== undefined) text.value = to
  met.value = null
  void keep()
}
onBeforeUnmount(() => void keep())

const area = useTemplateRef<HTMLTextAreaElement>('area')
const { sending, attach } = useAttach(
  () => props.repository,
  (markdown) => {
    const at = area.value?.selectionStart ?? text.value.length
    const before = text.value.slice(0, at)
    text.value = before + (before && !/\s$/.test(before) ? ' ' : '') + markdown + text.value.slice(at)
    typed()
  },
)
function paste(e: ClipboardEvent) {
  const files = [...(e.clipboardData?.files ?? [])]
  if (!props.repository || !files.length || e.clipboardData?.types.includes('text/plain')) return
  e.preventDefault()
  void attach(files)
}
function drop(e: DragEvent) {
  const files = [...(e.dataTransfer?.files ?? [])]
  if (!props.repository || !files.length) return
  e.preventDefault()
  void attach(files)
}
const press = (e: KeyboardEvent) => {
  if (e.key === 'Enter' && (props.rows === 1 || e.ctrlKey || e.metaKey)) {
    e.preventDefault()
    void keep()
    ;(e.target as HTMLElement).blur()
  }
}
</script>

<template>
  <div class="kept">
    <p v-if="met" class="met" role="alert">
      Somebody changed this meanwhile: <q>{{ met.theirs }}</q>
      {{
        met.both
          ? ` Both are put together; in ${many(met.both, 'place')} you changed the same words, and both are kept, yours first.`
          : ' Both changes are put together.'
      }}
      <button class="link" @click="agree()">keep this</button> <button class="link" @click="agree(met.mine)">yours alone</button>
      <button class="link" @click="agree(met.theirs)">theirs</button>
    </p>
    <textarea
      ref="area"
      v-model="text"
      :name="name"
      :rows="rows"
      :maxlength="most"
      :aria-label="label"
      :placeholder="label"
      @input="typed"
      @blur="keep"
      @keydown="press"
      @paste="paste"
      @drop="drop"
    />
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
.met {
  padding: 6px 10px;
  background: var(--hover);
  font-size: 12.5px;
}
.met button {
  margin-right: 8px;
}
</style>
