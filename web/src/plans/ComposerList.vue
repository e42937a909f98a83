<script setup lang="ts">
import { useQuery } from '@tanstack/vue-query'
import { computed, ref, watch } from 'vue'
import { VueDraggable } from 'vue-draggable-plus'
import { api, data } from '@/api/client'
import Arcs from './Arcs.vue'
import type { Composer } from './composing'
import type { Draft } from './draft'
import { keyAt, numeral } from './model'
import PassageRow from './PassageRow.vue'
import TextField from './TextField.vue'
import type { Chapter, Op, Passage, Plan } from './use'

/** The chapters and passages of a draft, to be chosen and dragged. What a passage
 * needs is drawn as arcs at the left. */
const props = defineProps<{
  repository: number
  plan: Plan
  draft: Draft
  at: string
  chosen: ReadonlySet<string>
  here: readonly Composer[]
}>()
const emit = defineEmits<{
  choose: [passage: string, how: 'one' | 'also' | 'range']
  apply: [ops: Op[]]
  drop: [chapter: string, index: number]
  join: [chapter: string]
}>()
/** Drag moves within these copies; the plan itself changes by the operation. */
const lists = ref<{ id: string; passages: Passage[] }[]>([])
watch(
  () => props.plan,
  (p) => (lists.value = p.in_order.map((c) => ({ id: c.id, passages: [...c.passages] }))),
  { immediate: true },
)
const { data: readers } = useQuery({
  queryKey: computed(() => ['plans', props.repository, props.plan.id, 'readers']),
  queryFn: ({ signal }) =>
    data(
      api.GET('/api/repositories/{repository}/plans/{plan}/readers', {
        params: { path: { repository: props.repository, plan: props.plan.id } },
        signal,
      }),
    ),
  enabled: computed(() => !props.plan.private),
})
const how = computed(() => new Map(readers.value?.passages.map((p) => [p.passage, p])))
function told(p: Passage): { short: string; long: string } {
  const h = how.value.get(p.id)
  if (!h) return { short: '', long: '' }
  const long = [
    h.done && `${h.done} of ${readers.value!.readers} done`,
    h.skipped &&
      `${h.skipped} left it out${h.reasons.length ? `: ${h.reasons.slice(0, 5).join('; ')}${h.reasons.length > 5 ? `; and ${h.reasons.length - 5} more reasons` : ''}` : ''}`,
    h.minutes && `half stayed ${h.minutes.toFixed(1)} min or longer`,
    h.questions && `${h.questions} open questions`,
  ].filter((x) => x)
  const short = [h.questions && `${h.questions}?`, h.skipped && `${h.skipped} out`, h.minutes > p.minutes * 1.5 && 'lingers'].filter(
    (x) => x,
  )
  return { short: short.join(' '), long: long.join(' · ') }
}
/** The row that Tab leads to: the one at hand, else the first. */
const reachable = computed(() => {
  const all = props.plan.in_order.flatMap((c) => c.passages)
  return (all.find((p) => p.id === props.at) ?? all[0])?.id
})
/** Names of the others who write in a passage. */
const who = (passage: string) =>
  props.here
    .filter((o) => o.passage === passage)
    .map((o) => o.name)
    .join('\n')
const choose = (p: string, how: 'one' | 'also' | 'range') => emit('choose', p, how)
function begun(e: { item: HTMLElement }) {
  const p = e.item.dataset.passage ?? ''
  if (!props.chosen.has(p)) emit('choose', p, 'one')
}
/** Where among the passages that stay the dragged ones were let go. */
function dropped(e: { item: HTMLElement; to: HTMLElement; newIndex?: number }) {
  const c = lists.value.find((x) => x.id === e.to.dataset.chapter)
  const moved = e.item.dataset.passage ?? ''
  if (!c || e.newIndex === undefined) return
  const before = c.passages
    .slice(
      0,
      c.passages.findIndex((p) => p.id === moved),
    )
    .filter((p) => p.id !== moved && !props.chosen.has(p.id))
  emit('drop', c.id, before.length)
}
function moveChapter(i: number, by: -1 | 1) {
  const chapters = props.plan.in_order
  const c = chapters[i]
  if (!c || i + by < 0 || i + by >= chapters.length) return
  const others = chapters.filter((x) => x.id !== c.id)
  emit('apply', [{ kind: 'move-chapter', id: c.id, order: keyAt(others, i + by) }])
}
/** What a text field of a chapter needs. */
const kept = (c: Chapter, field: 'title' | 'intent') => ({
  name: `chapter-${field}`,
  value: c[field] ?? '',
  kept: `plan.${props.plan.id}.${c.id}.${field}`,
  by: props.draft.writer(c.id, field),
  save: (from: string, to: string) => props.draft.apply([{ kind: 'set-chapter', id: c.id, field, from, to }]),
})
</script>

<template>
  <div class="all">
    <Arcs :plan="plan" :at="at" />
    <div v-for="(c, i) in plan.in_order" :key="c.id" class="chapter">
      <div class="chapter-head">
        <span class="numeral">{{ numeral(i + 1) }}</span>
        <TextField
          class="chapter-title"
          v-bind="kept(c, 'title')"
          :label="`Title of chapter ${numeral(i + 1)}`"
          placeholder="title"
          :most="200"
        />
        <span class="soft">{{ c.passages.reduce((n, p) => n + p.minutes, 0) }} min</span>
        <a-dropdown :trigger="['click']" transition-name="">
          <button class="link" :aria-label="`What to do with chapter ${numeral(i + 1)}`">…</button>
          <template #overlay>
            <a-menu>
              <a-menu-item v-if="i > 0" @click="moveChapter(i, -1)">move up</a-menu-item>
              <a-menu-item v-if="i < plan.in_order.length - 1" @click="moveChapter(i, 1)">move down</a-menu-item>
              <a-menu-item v-if="i > 0" @click="emit('join', c.id)">join with the one above</a-menu-item>
              <a-menu-item @click="emit('apply', [{ kind: 'remove-chapter', id: c.id }])"
                >remove{{ c.passages.length ? ' with its passages' : '' }}</a-menu-item
              >
            </a-menu>
          </template>
        </a-dropdown>
      </div>
      <TextField
        class="intent"
        v-bind="kept(c, 'intent')"
        :label="`What chapter ${numeral(i + 1)} is for`"
        placeholder="what this chapter is for"
        :most="2000"
      />
      <VueDraggable
        v-if="lists[i]"
        v-model="lists[i]!.passages"
        group="passages"
        handle=".grip"
        :animation="120"
        class="passages"
        :data-chapter="c.id"
        @start="begun"
        @end="dropped"
      >
        <PassageRow
          v-for="p in lists[i]!.passages"
          :key="p.id"
          :passage="p"
          :at="p.id === at"
          :chosen="chosen.has(p.id)"
          :reachable="p.id === reachable"
          :reads="told(p).short"
          :reads-whole="told(p).long"
          :who="who(p.id)"
          @choose="choose"
        />
      </VueDraggable>
      <p v-if="!c.passages.length" class="soft none">No passages yet; drag one here, or add with <kbd>a</kbd> from anywhere.</p>
    </div>
  </div>
</template>

<style scoped>
.all {
  position: relative;
  padding-left: 30px;
}
.chapter {
  margin-top: 14px;
}
.chapter-head {
  display: flex;
  gap: 8px;
  align-items: baseline;
  border-bottom: 1px solid var(--rule);
}
.chapter-title {
  flex: 1;
  min-width: 0;
  font: 600 15.5px/1.3 var(--serif);
}
.chapter-head .soft {
  font-size: 12px;
}
.intent {
  font-size: 12.5px;
  color: var(--ink-soft);
}
.numeral {
  color: var(--plum);
  font: 600 15px var(--serif);
  width: 22px;
}
.passages {
  min-height: 8px;
}
.none {
  padding: 6px 0 0 24px;
  font-size: 12.5px;
}
</style>
