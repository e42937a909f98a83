<script setup lang="ts">
import { computed } from 'vue'
import { many } from '@/words/format'
import type { Proposal } from './proposing'

/** How much of what matters a proposal covers, and how it reads. */
const props = defineProps<{ proposal: Proposal }>()
const f = computed(() => props.proposal.figures)
const covered = computed(() => figures.value.filter((x) => !(props.proposal.lacks as string[]).includes(x.key)))
const figures = computed(() => [
  { key: 'entry_points', share: f.value.entry_points, what: 'of where it starts', why: 'entry points, by their weight; tests aside' },
  {
    key: 'hotspots',
    share: f.value.hotspots,
    what: 'of where it moves',
    why: 'hotspots of the code, by their score and how much of each is shown',
  },
  {
    key: 'centrality',
    share: f.value.centrality,
    what: 'of what holds it together',
    why: 'the centrality of all sources, by how much of each is shown',
  },
])
const percent = (x: number) => `${Math.round(100 * x)} %`
const passages = computed(() => props.proposal.chapters.reduce((n, c) => n + c.passages.filter((x) => x.state !== 'out').length, 0))
const surprises = computed(() =>
  f.value.surprises === 0
    ? 'nothing comes before what introduces it'
    : props.proposal.goal.direction === 'inside-out'
      ? `${percent(f.value.surprises)} of what files lean on here comes later`
      : `${percent(f.value.surprises)} of the files come without one that leads to them`,
)
</script>

<template>
  <div class="figures">
    <span class="sum"
      ><b>{{ proposal.minutes }} min</b> {{ many(passages, 'passage') }}</span
    >
    <span v-for="c in covered" :key="c.what" class="share" :title="c.why">
      <i aria-hidden="true"><u :style="{ width: `${100 * c.share}%` }" /></i>
      <span
        ><b>{{ percent(c.share) }}</b> {{ c.what }}</span
      >
    </span>
    <span class="soft reads">{{ surprises }}; {{ percent(f.jumps) }} of the steps jump</span>
  </div>
</template>

<style scoped>
.figures {
  display: grid;
  grid-template-columns: auto repeat(3, minmax(0, 1fr));
  gap: 6px 22px;
  align-items: end;
  padding: 10px 0;
  border-top: 1px solid var(--rule);
  border-bottom: 1px solid var(--rule);
  font: 12.5px/1.4 var(--sans);
}
.sum b {
  display: block;
  font: 600 19px/1.2 var(--serif);
  color: var(--plum);
}
.share i {
  display: block;
  height: 6px;
  margin-bottom: 4px;
  background: var(--plum-pale);
}
.share u {
  display: block;
  height: 100%;
  background: var(--plum);
}
.reads {
  grid-column: 1 / -1;
  font-size: 12px;
}
</style>
