<script setup lang="ts">
import { useResizeObserver } from '@vueuse/core'
import { computed, onBeforeUnmount, ref, useTemplateRef, watch } from 'vue'
import { arcs } from './model'
import type { Plan } from './use'

/** What passages need, as arcs beside the list: from what must be read before to
 * what needs it. Those of the passage at hand are strong; those that go backwards
 * are dashed. */
const props = defineProps<{ plan: Plan; at: string }>()
const svg = useTemplateRef<SVGSVGElement>('svg')
const wide = 28
const drawn = ref<{ d: string; near: boolean; back: boolean; key: string }[]>([])
const tall = ref(0)
const list = computed(() => arcs(props.plan))
function draw() {
  const box = svg.value?.parentElement
  if (!box) return
  tall.value = 0 // the list's own height counts, not the drawing's
  const top = box.getBoundingClientRect().top
  const middle = new Map<string, number>()
  for (const row of box.querySelectorAll<HTMLElement>('[data-passage]')) {
    const r = row.getBoundingClientRect()
    middle.set(row.dataset.passage!, r.top - top + r.height / 2)
  }
  tall.value = box.scrollHeight
  drawn.value = list.value.flatMap((a) => {
    const [from, to] = [middle.get(a.from), middle.get(a.to)]
    if (from === undefined || to === undefined) return []
    const reach = Math.min(wide - 4, 6 + Math.abs(to - from) / 22)
    const d = `M ${wide} ${from} C ${wide - reach} ${from}, ${wide - reach} ${to}, ${wide} ${to}`
    return [{ d, near: a.from === props.at || a.to === props.at, back: to < from, key: `${a.from} ${a.to}` }]
  })
}
/** Drawn once what a person did is on the screen: measuring the rows takes a while. */
let due = 0
function soon() {
  clearTimeout(due)
  due = window.setTimeout(() => requestAnimationFrame(draw), 60)
}
watch([list, () => props.at], soon, { immediate: true, flush: 'post' })
onBeforeUnmount(() => clearTimeout(due))
useResizeObserver(
  computed(() => svg.value?.parentElement as HTMLElement | undefined),
  soon,
)
</script>

<template>
  <svg ref="svg" :width="wide" :height="tall" aria-hidden="true">
    <path v-for="a in drawn" :key="a.key" :d="a.d" :class="{ near: a.near, back: a.back }" />
  </svg>
</template>

<style scoped>
svg {
  position: absolute;
  left: 0;
  top: 0;
  pointer-events: none;
}
path {
  fill: none;
  stroke: var(--rule);
  stroke-width: 1.2;
}
path.near {
  stroke: var(--plum);
  stroke-width: 1.6;
}
path.back {
  stroke-dasharray: 3 3;
  stroke: var(--ink-soft);
}
</style>
