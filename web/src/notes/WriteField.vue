<script setup lang="ts">
import { computed, nextTick, ref, useTemplateRef } from 'vue'
import { useAttach } from './attach'
import { useMentions } from './use'

/** A field to write in, with completion of people. Pictures and files are pasted,
 * dropped or chosen. */
const text = defineModel<string>({ required: true })
const props = defineProps<{ repository: number; label: string; rows?: number; name: string }>()
const emit = defineEmits<{ save: [] }>()
const { options } = useMentions(() => props.repository)
const empty = computed(() => !text.value.trim())
function press(e: KeyboardEvent) {
  if (e.key !== 'Enter' || !(e.ctrlKey || e.metaKey)) return
  e.preventDefault()
  if (!empty.value) emit('save')
}

const field = useTemplateRef<HTMLElement>('field')
const chooser = useTemplateRef<HTMLInputElement>('chooser')
const { sending, attach } = useAttach(() => props.repository, insert)
const over = ref(false)
/** Writes at the cursor. */
function insert(markdown: string) {
  const area = field.value?.querySelector('textarea')
  const at = area?.selectionStart ?? text.value.length
  const before = text.value.slice(0, at)
  const piece = (before && !/\s$/.test(before) ? ' ' : '') + markdown
  text.value = before + piece + text.value.slice(area?.selectionEnd ?? at)
  void nextTick(() => area?.setSelectionRange(at + piece.length, at + piece.length))
}
function paste(e: ClipboardEvent) {
  const files = [...(e.clipboardData?.files ?? [])]
  // a piece of a table is copied as words and as a picture: the words are meant
  if (!files.length || e.clipboardData?.types.includes('text/plain')) return
  e.preventDefault()
  void attach(files)
}
function drop(e: DragEvent) {
  over.value = false
  void attach([...(e.dataTransfer?.files ?? [])])
}
function choose(e: Event) {
  const input = e.target as HTMLInputElement
  const files = [...(input.files ?? [])]
  input.value = ''
  void attach(files)
}
const holds = (e: DragEvent) => e.dataTransfer?.types.includes('Files')
</script>

<template>
  <div
    ref="field"
    class="field"
    :class="{ over }"
    @paste="paste"
    @dragover="(e) => holds(e) && (e.preventDefault(), (over = true))"
    @dragleave="over = false"
    @drop.prevent="drop"
  >
    <a-mentions
      v-model:value="text"
      :options="options"
      prefix="@"
      :rows="rows ?? 3"
      :name="name"
      :aria-label="label"
      :placeholder="label"
      autofocus
      @keydown="press"
    />
    <p class="soft files">
      <span v-if="sending" role="status">attaching {{ sending }} …</span>
      <template v-else>
        <button class="link" type="button" @click="chooser?.click()">attach a file</button> or paste or drop it: pictures are shown, up to
        20 MB
      </template>
    </p>
    <input ref="chooser" type="file" multiple hidden :name="name + '-files'" @change="choose" />
  </div>
</template>

<style scoped>
.field.over {
  outline: 2px dashed var(--ink-soft);
  outline-offset: 2px;
}
.files {
  font-size: 12px;
}
</style>
