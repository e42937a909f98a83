<script setup lang="ts">
import { computed } from 'vue'
import { useMentions } from './use'

/** A field to write in, with completion of people. */
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
</script>

<template>
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
</template>
