<script setup lang="ts">
import { computed } from 'vue'
import type { Schemas } from '@/api/client'
import { count, month } from '@/words/format'

/** Where in a file, and when, its lines changed: the text from top to bottom,
 * time from left to right. */
const props = defineProps<{ heat: readonly Schemas['HeatPart'][]; lines: number; from: string; to: string }>()
const emit = defineEmits<{ part: [start: number, end: number] }>()
const parts = 24
const times = 12
const most = computed(() => Math.max(1, ...props.heat.map((h) => h.lines)))
const startOf = (p: number) => 1 + Math.floor((p * Math.max(1, props.lines)) / parts)
const byPart = computed(() =>
  Array.from({ length: parts }, (_, p) => {
    const start = startOf(p)
    const end = Math.max(start, startOf(p + 1) - 1)
    const cells = Array.from({ length: times }, (_, t) => props.heat.find((h) => h.part === p && h.when === t)?.lines ?? 0)
    return { p, start, end, cells, total: cells.reduce((a, b) => a + b, 0) }
  }).filter((x) => x.start <= Math.max(1, props.lines)),
)
const busiest = computed(() => Math.max(1, ...byPart.value.map((x) => x.total)))
const strength = (n: number) => (n ? 0.18 + 0.82 * Math.sqrt(n / most.value) : 0)
</script>

<template>
  <div class="heat" role="img" :aria-label="`Where its ${count(lines)} lines changed, and when`">
    <div class="grid">
      <button
        v-for="x in byPart"
        :key="x.p"
        class="part"
        :title="`lines ${x.start} to ${x.end}: ${count(x.total)} changed lines in all`"
        @click="emit('part', x.start, x.end)"
      >
        <span class="number">{{ x.p % 4 === 0 ? x.start : '' }}</span>
        <i v-for="(n, t) in x.cells" :key="t" :style="{ opacity: strength(n) }" :class="{ on: n }" />
        <span class="sum"><b :style="{ width: `${((100 * x.total) / busiest).toFixed(1)}%` }" /></span>
      </button>
    </div>
    <p class="soft axis">
      <span>{{ month(from) }}</span><span>{{ month(to) }}</span
      ><span class="all">in all</span>
    </p>
  </div>
</template>

<style scoped>
.part {
  display: grid;
  grid-template-columns: 40px repeat(12, 1fr) 90px;
  width: 100%;
  height: 8px;
  padding: 0;
  border: 0;
  background: none;
  cursor: pointer;
}
.part:hover {
  background: var(--hover);
}
.number {
  font: 9.5px/8px var(--mono);
  color: var(--ink-soft);
  text-align: right;
  padding-right: 6px;
}
i {
  margin: 0.5px;
  background: var(--ochre);
}
i:not(.on) {
  background: none;
}
.sum {
  border-left: 1px solid var(--rule);
  margin-left: 6px;
}
.sum b {
  display: block;
  height: 6px;
  margin-top: 1px;
  background: var(--ochre-mid);
}
.axis {
  display: grid;
  grid-template-columns: 1fr auto 90px;
  padding-left: 40px;
  font-size: 11.5px;
}
.all {
  padding-left: 7px;
}
</style>
