<script setup lang="ts">
import { useVirtualizer } from '@tanstack/vue-virtual'
import { computed, nextTick, onMounted, ref, watch } from 'vue'
import { count, date, many } from '@/words/format'
import { draw, laneWidth, mostLanes, rowHeight, widthOf } from './lanes'
import type { LogRow } from './useLog'

/** Commits as rows: their day, their lanes, what they say, who, and how much
 * they changed. */
const props = defineProps<{
  total: number
  row: (n: number) => LogRow | undefined
  lanes: boolean
  selected: string
  /** The row to stand on top at first. */
  top: number
}>()
const emit = defineEmits<{ select: [id: string]; open: [id: string]; want: [from: number, to: number]; top: [row: number] }>()

const pane = ref<HTMLElement | null>(null)
const virtual = useVirtualizer(
  computed(() => ({
    count: props.total,
    getScrollElement: () => pane.value,
    estimateSize: () => rowHeight,
    overscan: 20,
  })),
)
const items = computed(() => virtual.value.getVirtualItems())
watch(
  () => [items.value[0]?.index ?? 0, items.value.at(-1)?.index ?? 0, props.total] as const,
  ([from, to]) => props.total && emit('want', from, to),
  { immediate: true },
)
let told: ReturnType<typeof setTimeout> | undefined
function scrolled() {
  clearTimeout(told)
  told = setTimeout(() => pane.value && emit('top', Math.round(pane.value.scrollTop / rowHeight)), 250)
}
const rows = computed(() => items.value.map((v) => ({ v, w: props.row(v.index) })))
const width = ref(laneWidth + 8)
watch(
  rows,
  (list) => {
    if (props.lanes) width.value = Math.max(width.value, widthOf(list.flatMap((x) => (x.w ? [x.w] : []))))
  },
  { immediate: true },
)
watch(
  () => props.lanes,
  () => (width.value = laneWidth + 8),
)
const days = (a: LogRow | undefined, b: LogRow | undefined) => !a || !b || date(a.time) !== date(b.time)
/** The bar's share of its field: lines by their logarithm, 5,000 and more fill it. */
const share = (w: LogRow) => (w.added < 0 ? 0 : Math.min(1, Math.log1p(w.added + w.deleted) / Math.log1p(5000)))
const size = (w: LogRow) =>
  w.merge ? 'a merge' : w.added < 0 ? many(w.files, 'file') : `${many(w.files, 'file')}, +${count(w.added)} −${count(w.deleted)} lines`
/** The rows in sight, each with its lines drawn once. */
const shown = computed(() => rows.value.map(({ v, w }) => ({ v, w, d: w && props.lanes ? draw(w, width.value) : null })))
async function show(n: number, align: 'auto' | 'center' | 'start' = 'auto') {
  await nextTick()
  virtual.value.scrollToIndex(n, { align })
}
onMounted(() => props.top && show(props.top, 'start'))
defineExpose({ show, focus: () => pane.value?.focus() })
</script>

<template>
  <div ref="pane" class="rows" tabindex="0" role="grid" aria-label="Commits, newest first" @scroll.passive="scrolled">
    <div :style="{ height: `${virtual.getTotalSize()}px` }" class="all">
      <div
        v-for="{ v, w, d } in shown"
        :key="v.index"
        class="row"
        :class="{ on: w && w.id === selected, merge: w?.merge, pin: w?.pin }"
        role="row"
        :aria-selected="w?.id === selected"
        :data-row="v.index"
        :style="{ transform: `translateY(${v.start}px)`, height: `${rowHeight}px` }"
        @click="w && emit('select', w.id)"
        @dblclick="w && emit('open', w.id)"
      >
        <template v-if="w">
          <span class="day">{{ days(w, row(v.index - 1)) ? date(w.time) : '' }}</span>
          <svg v-if="d" :width="width" :height="rowHeight" aria-hidden="true">
            <path class="side" :d="d.sides" />
            <path class="trunk" :d="d.trunk" />
            <circle :cx="d.x" :cy="rowHeight / 2" :r="w.trunk ? 4 : 3.2" :class="{ node: true, ontrunk: w.trunk, ring: w.merge }" />
            <text v-if="d.hidden" x="0" :y="rowHeight / 2 + 4" class="beyond">+{{ d.hidden }}</text>
          </svg>
          <svg v-else width="21" :height="rowHeight" aria-hidden="true">
            <circle cx="12" :cy="rowHeight / 2" :r="3.2" :class="{ node: true, ontrunk: true, ring: w.merge }" />
          </svg>
          <span class="says">
            <span v-if="w.pin" class="flag thepin">the pin</span>
            <span v-for="r in w.refs.slice(0, 3)" :key="r.kind + r.name" class="flag" :class="r.kind" :title="`${r.kind} ${r.name}`">{{
              r.name
            }}</span>
            <span v-if="w.refs.length > 3" class="soft flags">and {{ w.refs.length - 3 }} more</span>
            <span class="subject" :title="w.subject">{{ w.subject || '(no message)' }}</span>
            <span v-if="w.cut_off" class="soft flags">what came before is not here</span>
          </span>
          <span class="who">{{ w.person }}</span>
          <span class="size" :title="size(w)"
            ><i :style="{ width: `${(100 * share(w)).toFixed(1)}%` }" /><span class="sr">{{ size(w) }}</span></span
          >
        </template>
        <span v-else class="soft waiting">…</span>
      </div>
    </div>
    <p class="sr">Lines further out than {{ mostLanes }} lanes are counted at the left.</p>
  </div>
</template>

<style scoped>
.rows {
  height: 100%;
  overflow: auto;
  contain: strict;
}
.rows:focus-visible {
  outline-width: 1px;
  outline-offset: -1px;
}
.all {
  position: relative;
}
.row {
  position: absolute;
  top: 0;
  left: 0;
  right: 0;
  display: grid;
  grid-template-columns: 92px auto minmax(0, 1fr) 118px 74px;
  align-items: center;
  padding: 0 14px 0 var(--gap);
  cursor: pointer;
}
.row:hover {
  background: var(--hover);
}
.row.on {
  background: var(--ochre-pale);
}
.day,
.who {
  color: var(--ink-soft);
  font-size: 12.5px;
  white-space: nowrap;
  overflow: hidden;
  text-overflow: ellipsis;
}
svg {
  display: block;
}
.side {
  fill: none;
  stroke: var(--ink-soft);
  stroke-width: 1;
}
.trunk {
  fill: none;
  stroke: var(--ochre);
  stroke-width: 2.5;
}
.node {
  fill: var(--ink);
}
.node.ontrunk {
  fill: var(--ochre);
}
.node.ring {
  fill: var(--paper);
  stroke: var(--ink);
  stroke-width: 1.5;
}
.node.ring.ontrunk {
  stroke: var(--ochre);
}
.beyond {
  font: 10px var(--sans);
  fill: var(--ink-soft);
}
.says {
  display: flex;
  align-items: baseline;
  gap: 8px;
  min-width: 0;
  padding-left: 4px;
}
.subject {
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
}
.merge .subject {
  color: var(--ink-soft);
}
.flag {
  flex: none;
  max-width: 170px;
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
  font-size: 12px;
  line-height: 1.4;
}
.flag.branch {
  font: italic 600 13.5px/1.3 var(--serif);
}
.flag.tag {
  border-bottom: 1px solid var(--ink);
  font-family: var(--mono);
}
.flag.thepin {
  background: var(--ink);
  color: var(--paper);
  padding: 0 6px;
}
.flags {
  flex: none;
  font-size: 12px;
}
.size {
  height: 8px;
  border-left: 1px solid var(--rule);
}
.size i {
  display: block;
  height: 8px;
  background: var(--ochre-mid);
}
.row.on .size i {
  background: var(--ochre);
}
.waiting {
  grid-column: 3;
}
.sr {
  position: absolute;
  clip-path: inset(50%);
  width: 1px;
  height: 1px;
  overflow: hidden;
}
</style>
