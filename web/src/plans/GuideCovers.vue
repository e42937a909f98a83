<script setup lang="ts">
import { ref } from 'vue'
import { count } from '@/words/format'
import { kindTitles, useCoverage } from './covering'
import type { Plan } from './use'

/** What a plan has one read of all that the survey found, for whoever asks. */
const props = defineProps<{ repository: number; plan: Plan }>()
const open = ref(false)
const { data: coverage } = useCoverage(
  () => props.repository,
  () => props.plan.id,
  () => (props.plan.edition ? String(props.plan.edition) : 'draft'),
  () => props.plan.seq,
  open,
)
</script>

<template>
  <details class="covers" @toggle="(e) => (open = (e.target as HTMLDetailsElement).open)">
    <summary>What it covers</summary>
    <p v-if="!coverage" class="soft">counting …</p>
    <p v-for="k in coverage?.kinds ?? []" :key="k.kind" class="kind">
      <span>{{ kindTitles[k.kind] ?? k.kind }}</span>
      <i aria-hidden="true"><u :style="{ width: `${100 * k.share}%` }" /></i>
      <span class="n" :title="`${count(k.here)} of ${count(k.total)}; ${count(k.elsewhere)} in other plans, ${count(k.aside)} set aside`"
        >{{ count(k.here) }} of {{ count(k.total) }}</span
      >
    </p>
  </details>
</template>

<style scoped>
.covers {
  margin: 18px 0 8px;
  font: 12px/1.4 var(--sans);
  color: var(--ink-soft);
}
summary {
  cursor: pointer;
}
.kind {
  display: grid;
  grid-template-columns: 104px minmax(0, 1fr) auto;
  gap: 8px;
  align-items: center;
  margin: 3px 0 0;
}
.kind i {
  height: 6px;
  background: var(--plum-pale);
}
.kind u {
  display: block;
  height: 100%;
  background: var(--plum);
}
.n {
  text-align: right;
}
</style>
