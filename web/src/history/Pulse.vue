<script setup lang="ts">
import { computed } from 'vue'

/** Counts over equal parts of time, as small bars. */
const props = defineProps<{ counts: readonly number[]; title: string }>()
const most = computed(() => Math.max(1, ...props.counts))
const width = 144
const height = 22
const bars = computed(() =>
  props.counts.map((n, i) => {
    const h = n ? Math.max(2, (height * n) / most.value) : 0
    return { x: (i * width) / props.counts.length, y: height - h, h }
  }),
)
</script>

<template>
  <svg :width="width" :height="height + 1" role="img" :aria-label="title">
    <title>{{ title }}</title>
    <rect v-for="(b, i) in bars" :key="i" :x="b.x" :y="b.y" :width="width / counts.length - 1" :height="b.h" />
    <line x1="0" :x2="width" :y1="height + 0.5" :y2="height + 0.5" />
  </svg>
</template>

<style scoped>
rect {
  fill: var(--ochre-mid);
}
line {
  stroke: var(--rule);
}
</style>
