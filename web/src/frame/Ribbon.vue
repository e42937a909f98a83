<script setup lang="ts">
import { computed, ref } from 'vue'
import { useRoute } from 'vue-router'
import { useAdding } from '@/plans/adding'
import { minutesDone, numeral, steps } from '@/plans/model'
import { usePlaces } from '@/plans/reading'
import { usePlanAtHand } from '@/plans/use'
import { useRepositoryId } from './repository'
import RibbonPassage from './RibbonPassage.vue'

const repository = useRepositoryId()
const route = useRoute()
const { id: atHand, plan } = usePlanAtHand(repository)
const places = usePlaces(repository, atHand)
const { carried, current } = useAdding()
const over = ref(false)
function drop() {
  over.value = false
  if (carried.value) current.value = carried.value
  carried.value = null
}
const others = (passage: string) => places.value.filter((p) => p.passage === passage)
function told(p: { id: string; title: string; minutes: number }): string {
  const state = done.value.has(p.id) ? ' · done' : skipped.value.has(p.id) ? ' · left out' : ''
  const who = others(p.id).map((x) => x.name)
  return `${numberOf.value.get(p.id)}. ${p.title} · ${p.minutes} min${state}${p.id === place.value ? ' · you are here' : ''}${who.length ? ` · ${who.slice(0, 5).join(', ')} ${who.length > 1 ? 'are' : 'is'} here` : ''}`
}
/** The strip is one stop of the Tab key; the arrows lead along it. */
function along(e: KeyboardEvent) {
  const by = e.key === 'ArrowRight' ? 1 : e.key === 'ArrowLeft' ? -1 : 0
  if (!by) return
  e.preventDefault()
  e.stopPropagation()
  const all = [...(e.currentTarget as HTMLElement).querySelectorAll<HTMLElement>('a.passage')]
  all[all.indexOf(e.target as HTMLElement) + by]?.focus()
}
const chapters = computed(() => plan.data.value?.in_order.filter((c) => c.passages.length) ?? [])
const place = computed(() =>
  route.name === 'guide' && typeof route.query.passage === 'string' ? route.query.passage : plan.data.value?.place,
)
const stop = computed(() => {
  const all = chapters.value.flatMap((c) => c.passages)
  return (all.find((p) => p.id === place.value) ?? all[0])?.id
})
const read = computed(() => (plan.data.value ? minutesDone(plan.data.value) : 0))
const done = computed(() => new Set(plan.data.value?.done_ids))
const skipped = computed(() => new Set(plan.data.value?.skipped.map((x) => x.passage)))
const numberOf = computed(() => new Map(plan.data.value ? steps(plan.data.value).map((s) => [s.passage.id, s.number]) : []))
</script>

<template>
  <footer
    aria-label="The plan at hand"
    :class="{ open: carried, over }"
    @dragover="(e) => carried && (e.preventDefault(), (over = true))"
    @dragleave="over = false"
    @drop.prevent="drop"
  >
    <template v-if="plan.data.value">
      <router-link class="title plain" :to="{ name: 'guide', params: { repository, plan: plan.data.value.id } }">{{
        plan.data.value.title
      }}</router-link>
      <div class="strip" @keydown="along">
        <div
          v-for="(c, i) in chapters"
          :key="c.id"
          class="chapter"
          :style="{ flexGrow: c.passages.reduce((n, p) => n + Math.max(1, p.minutes), 0) }"
        >
          <RibbonPassage
            v-for="p in c.passages"
            :key="p.id"
            :repository="repository"
            :plan="plan.data.value.id"
            :passage="p.id"
            :minutes="p.minutes"
            :title="told(p)"
            :label="`Chapter ${numeral(i + 1)}, passage ${told(p)}`"
            :done="done.has(p.id)"
            :here="p.id === place"
            :skipped="skipped.has(p.id)"
            :other="others(p.id).length > 0"
            :stop="p.id === stop"
          />
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
footer.open {
  border-top-style: dashed;
  border-top-color: var(--plum);
}
footer.over {
  background: var(--plum-pale);
}
.sum {
  flex: none;
  white-space: nowrap;
}
@media print {
  footer {
    display: none;
  }
}
@media (max-width: 700px) {
  footer {
    gap: 10px;
    padding: 0 12px;
  }
  .title,
  .sum {
    display: none;
  }
  .strip {
    gap: 5px;
  }
}
</style>
