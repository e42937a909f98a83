<script setup lang="ts">
import { computed } from 'vue'
import { useRoute } from 'vue-router'
import { minutesDone, numeral, steps } from '@/plans/model'
import { usePlanAtHand } from '@/plans/use'
import { useRepositoryId } from './repository'

const repository = useRepositoryId()
const route = useRoute()
const { plan } = usePlanAtHand(repository)
const chapters = computed(() => plan.data.value?.in_order.filter((c) => c.passages.length) ?? [])
const place = computed(() =>
  route.name === 'guide' && typeof route.query.passage === 'string' ? route.query.passage : plan.data.value?.place,
)
const read = computed(() => (plan.data.value ? minutesDone(plan.data.value) : 0))
const done = computed(() => new Set(plan.data.value?.done_ids))
const numberOf = computed(() => new Map(plan.data.value ? steps(plan.data.value).map((s) => [s.passage.id, s.number]) : []))
const to = (passage: string) => ({ name: 'guide', params: { repository: repository.value, plan: plan.data.value!.id }, query: { passage } })
</script>

<template>
  <footer aria-label="The plan at hand">
    <template v-if="plan.data.value">
      <router-link class="title plain" :to="{ name: 'guide', params: { repository, plan: plan.data.value.id } }">{{
        plan.data.value.title
      }}</router-link>
      <div class="strip">
        <div
          v-for="(c, i) in chapters"
          :key="c.id"
          class="chapter"
          :style="{ flexGrow: c.passages.reduce((n, p) => n + Math.max(1, p.minutes), 0) }"
        >
          <a-tooltip
            v-for="p in c.passages"
            :key="p.id"
            :title="`${numberOf.get(p.id)}. ${p.title} · ${p.minutes} min${done.has(p.id) ? ' · done' : p.id === place ? ' · you are here' : ''}`"
          >
            <router-link
              class="passage"
              :class="{ done: done.has(p.id), here: p.id === place }"
              :style="{ flexGrow: Math.max(1, p.minutes) }"
              :to="to(p.id)"
              :aria-label="`Chapter ${numeral(i + 1)}, passage ${numberOf.get(p.id)}: ${p.title}, ${p.minutes} minutes${done.has(p.id) ? ', done' : ''}`"
            />
          </a-tooltip>
        </div>
        <span v-if="!chapters.length" class="soft">No passages yet. Select a file, lines, a folder or a lead, and press <kbd>a</kbd>.</span>
      </div>
      <span v-if="chapters.length" class="soft sum">{{ read }} of {{ plan.data.value.minutes }} min read</span>
    </template>
    <template v-else-if="plan.isFetched.value || !plan.isFetching.value">
      <span class="soft"
        >No plan yet. Select a file, lines, a folder or a lead, and press <kbd>a</kbd> to begin one; it shows here, passage by
        passage.</span
      >
    </template>
  </footer>
</template>

<style scoped>
footer {
  flex: none;
  height: var(--ribbon);
  display: flex;
  align-items: center;
  gap: 18px;
  padding: 0 var(--gap);
  background: var(--sheet);
  border-top: 1px solid var(--rule);
}
.title {
  font: 600 14px/1.2 var(--serif);
  max-width: 300px;
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
  flex: none;
}
.strip {
  flex: 1;
  display: flex;
  gap: 12px;
  min-width: 0;
}
.chapter {
  display: flex;
  gap: 2px;
  flex: 1 1 0;
  min-width: 0;
}
.passage {
  height: 20px;
  flex: 1 1 0;
  min-width: 3px;
  background: var(--plum-pale);
}
.passage:hover {
  outline: 1px solid var(--plum);
}
.passage.done {
  background: var(--plum);
}
.passage.here {
  background: repeating-linear-gradient(-45deg, var(--plum) 0 4px, var(--sheet) 4px 7px);
}
.sum {
  flex: none;
  white-space: nowrap;
}
</style>
