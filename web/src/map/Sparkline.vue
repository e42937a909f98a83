<script setup lang="ts">
import { computed } from 'vue'

/** Counts in equal parts of a time, as bars; the last quarter stands out. */
const props = defineProps<{ counts: number[]; label: string; height?: number }>()
const h = computed(() => props.height ?? 26)
const most = computed(() => Math.max(1, ...props.counts))
const n = computed(() => props.counts.length || 1)
const tall = (c: number) => (c ? Math.max(2, (c / most.value) * (h.value - 1)) : 0)
</script>

<template>
  <svg class="spark" :viewBox="`0 0 ${n * 4} ${h}`" preserveAspectRatio="none" :style="{ height: `${h}px` }" role="img" :aria-label="label">
    <rect
      v-for="(c, i) in counts"
      :key="i"
      :x="i * 4 + 0.4"
      width="3.2"
      :y="h - tall(c)"
      :height="tall(c)"
      :class="{ late: i >= n * 0.75 }"
    />
    <title>{{ label }}</title>
  </svg>
</template>

<style scoped>
.spark {
  display: block;
  width: 100%;
  border-bottom: 1px solid var(--rule);
}
rect {
  fill: var(--ochre-mid);
}
.late {
  fill: var(--ochre);
}
</style>
