<script setup lang="ts">
import { where } from './model'
import { initials } from './reading'
import type { Passage } from './use'

/** A passage in the composer's list. Its properties are plain values, so that only
 * rows that changed are drawn anew. */
const props = defineProps<{
  passage: Passage
  at: boolean
  chosen: boolean
  reads: string
  readsWhole: string
  who: string
  reachable: boolean
}>()
const emit = defineEmits<{ choose: [passage: string, how: 'one' | 'also' | 'range'] }>()
function click(e: MouseEvent) {
  emit('choose', props.passage.id, e.shiftKey ? 'range' : e.ctrlKey || e.metaKey ? 'also' : 'one')
}
</script>

<template>
  <div
    class="passage"
    :class="{ at, chosen }"
    :data-passage="passage.id"
    role="button"
    :tabindex="reachable ? 0 : -1"
    :aria-pressed="chosen"
    @click="click"
    @focus="(e) => (e.target as HTMLElement).matches(':focus-visible') && !at && emit('choose', passage.id, 'one')"
  >
    <span class="grip" title="Drag to reorder; or Alt with the arrow keys" aria-hidden="true">⋮⋮</span>
    <span class="what"
      ><b>{{ passage.title || 'without a title' }}</b
      ><span class="mono soft">{{ where(passage.target) }}</span></span
    >
    <span class="soft reads" :title="readsWhole">{{ reads }}</span>
    <span class="who"
      ><template v-if="who"
        ><b v-for="name in who.split('\n')" :key="name" :title="`${name} is writing here`">{{ initials(name) }}</b></template
      ></span
    >
    <span class="soft">{{ passage.minutes }} min{{ passage.optional ? ' ·' : '' }}</span>
  </div>
</template>

<style scoped>
.passage {
  display: grid;
  grid-template-columns: 16px minmax(0, 1fr) auto auto auto;
  gap: 8px;
  align-items: center;
  padding: 4px 6px 4px 0;
  border-bottom: 1px solid var(--rule-soft);
  cursor: pointer;
}
.passage:hover,
.passage.chosen {
  background: var(--hover);
}
.passage.at {
  box-shadow: inset 3px 0 var(--plum);
}
.passage .soft {
  font-size: 12px;
}
.grip {
  cursor: grab;
  color: var(--ink-soft);
  text-align: center;
  letter-spacing: -2px;
}
.what {
  min-width: 0;
}
.what b {
  display: block;
  font-weight: 500;
}
.what b,
.what .mono {
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
}
.what .mono {
  display: block;
  font-size: 11.5px;
}
.who b {
  padding: 0 4px;
  border: 1px solid var(--plum);
  border-radius: 9px;
  color: var(--plum);
  font: 600 10px/14px var(--sans);
}
</style>
