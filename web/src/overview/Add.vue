<script setup lang="ts">
import { onMounted, onUnmounted, useTemplateRef } from 'vue'
import { useAdding, type Candidate } from '@/plans/adding'

/** Adds what its line tells of to the plan. The line is the nearest element with
 * the class "line"; pointing at it, or tabbing into it, selects it for the key. */
const props = defineProps<{ of: Candidate }>()
const adding = useAdding()
const button = useTemplateRef<HTMLButtonElement>('button')
let line: Element | null = null
const select = () => (adding.selected.value = props.of)
onMounted(() => {
  line = button.value?.closest('.line') ?? null
  line?.addEventListener('mouseenter', select)
  line?.addEventListener('focusin', select)
})
onUnmounted(() => {
  line?.removeEventListener('mouseenter', select)
  line?.removeEventListener('focusin', select)
  if (adding.selected.value?.path === props.of.path) adding.selected.value = null
})
</script>

<template>
  <button
    ref="button"
    class="add"
    :aria-label="`Add ${of.title} to the plan`"
    title="Add to the plan (a)"
    @click.stop="adding.current.value = of"
  >
    + plan
  </button>
</template>

<style scoped>
.add {
  border: 0;
  background: none;
  padding: 0 2px;
  font: 500 11.5px var(--sans);
  color: var(--plum);
  cursor: pointer;
  white-space: nowrap;
  opacity: 0;
}
.add:focus-visible,
.line:hover .add,
.line:focus-within .add {
  opacity: 1;
}
@media (hover: none) {
  .add {
    opacity: 1;
  }
}
</style>
