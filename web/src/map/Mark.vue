<script setup lang="ts">
/** The shapes that stand on the spine; each is told apart without its colour. */
defineProps<{ kind: 'start' | 'test' | 'tagged' | 'plan' | 'read' | 'leans' | 'used' | 'circle' }>()
</script>

<template>
  <svg width="12" height="12" viewBox="0 0 12 12" class="mark" :class="kind" aria-hidden="true">
    <path v-if="kind === 'start'" d="M4 1 A5 5 0 0 1 4 11 Z" />
    <rect v-else-if="kind === 'test'" x="2" y="2" width="8" height="8" />
    <path v-else-if="kind === 'tagged'" d="M6 1 L11 6 L6 11 L1 6 Z" />
    <rect v-else-if="kind === 'plan'" x="1" y="4" width="10" height="4.5" />
    <path v-else-if="kind === 'read'" d="M2 6.5 L5 9.5 L10 3" />
    <path v-else-if="kind === 'leans'" d="M2 1.5 L10 6 L2 10.5 Z" />
    <path v-else-if="kind === 'used'" d="M10 1.5 L2 6 L10 10.5 Z" />
    <path v-else d="M9.6 3.2 A4.4 4.4 0 1 0 10.4 6.4 M10.4 1 L9.9 3.6 L7.4 3.1" />
  </svg>
</template>

<style scoped>
.mark {
  flex: none;
  fill: none;
  stroke-width: 1.5;
}
.start {
  fill: var(--ink);
}
.test {
  stroke: var(--ink);
}
.tagged {
  stroke: var(--ochre);
}
.plan {
  fill: var(--plum);
}
.read {
  stroke: var(--ink-soft);
}
.leans {
  fill: var(--teal);
}
.used {
  stroke: var(--teal);
}
.circle {
  stroke: var(--fault);
}
</style>
