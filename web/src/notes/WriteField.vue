<script setup lang="ts">
import { computed, ref, useTemplateRef } from 'vue'
import { useAttaching } from './attach'
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
const { sending, paste, drop, choose } = useAttaching(
  () => props.repository,
  text,
  () => field.value?.querySelector('textarea'),
)
const over = ref(false)
const holds = (e: DragEvent) => e.dataTransfer?.types.includes('Files')
</script>

<template>
  <div
    ref="field"
    class="field"
    data-first
    :class="{ over }"
    @paste="paste"
    @dragover="(e) => holds(e) && (e.preventDefault(), (over = true))"
    @dragleave="over = false"
    @drop="(e) => ((over = false), drop(e))"
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
