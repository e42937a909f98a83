<script setup lang="ts">
import type { Stretch } from './use'

/** A path, lines of it, and a word about them. */
const props = defineProps<{ stretch: Stretch; name: string; says?: boolean }>()
const emit = defineEmits<{ set: [to: Stretch] }>()
const value = (e: Event) => (e.target as HTMLInputElement).value.trim()
/** "12-20", "12" or nothing. */
function setLines(e: Event) {
  const m = /^(\d+)(?:\s*[-–]\s*(\d+))?$/.exec(value(e))
  const start = m ? Number(m[1]) : undefined
  emit('set', { ...props.stretch, start, end: m ? Number(m[2] ?? m[1]) : undefined })
}
const shown = () => (props.stretch.start ? `${props.stretch.start}-${props.stretch.end ?? props.stretch.start}` : '')
</script>

<template>
  <div class="stretch">
    <input
      class="mono"
      :name="`${name}-path`"
      :value="stretch.path"
      aria-label="Path"
      @change="(e) => emit('set', { ...stretch, path: value(e) })"
    />
    <input class="mono lines" :name="`${name}-lines`" :value="shown()" placeholder="all" aria-label="Lines, as 12-20" @change="setLines" />
    <input
      v-if="says"
      :name="`${name}-says`"
      :value="stretch.says ?? ''"
      placeholder="a word about it"
      @change="(e) => emit('set', { ...stretch, says: value(e) || undefined })"
    />
  </div>
</template>

<style scoped>
.stretch {
  flex: 1;
  display: flex;
  gap: 6px;
  min-width: 0;
}
input {
  flex: 1;
  min-width: 0;
  font: inherit;
  color: var(--ink);
  background: var(--sheet);
  border: 1px solid var(--rule);
  border-radius: var(--radius);
  padding: 2px 8px;
}
.mono {
  font: 12.5px/1.5 var(--mono);
}
.lines {
  flex: 0 0 78px;
}
</style>
