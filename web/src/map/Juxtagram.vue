<script setup lang="ts">
import { useVirtualizer } from '@tanstack/vue-virtual'
import { computed, nextTick, ref, watch } from 'vue'
import { count } from '@/words/format'
import type { ScaleName } from './address'
import type { Chart } from './chart'
import type { Line } from './layout'
import Mark from './Mark.vue'
import type { Aggregate } from './measures'
import { bars, together, type Picture } from './picture'
import type { TiesByRow } from './ties'

const props = defineProps<{
  chart: Chart
  picture: Picture
  scale: ScaleName
  folders: Aggregate
  flat: boolean
  selected: number // index of the line; -1: none
  ties: TiesByRow | null
}>()
const emit = defineEmits<{ select: [index: number]; toggle: [index: number]; open: [index: number]; hover: [index: number] }>()

const pane = ref<HTMLElement | null>(null)
const rowHeight = 25
/** Lines that left the view are used again for others: more than are ever drawn at once. */
const slots = 160
const virtual = useVirtualizer(
  computed(() => ({ count: props.picture.lines.length, getScrollElement: () => pane.value, estimateSize: () => rowHeight, overscan: 16 })),
)
const leftBar = computed(() => bars(props.scale, props.picture.leftTop))
const rightBar = computed(() => bars(props.scale, props.picture.rightTop))
const room = (share: number) => `calc((100% - 74px) * ${share.toFixed(4)})`

/** The marks that any row has: each has a place of its own. */
const markKinds = computed(() => {
  const m = props.picture.marks
  const columns = { start: m.starts, test: m.tests, tagged: m.tagged, plan: m.planned, read: m.read }
  return (Object.keys(columns) as (keyof typeof columns)[]).filter((k) => columns[k].some((n) => n > 0))
})

/** A mark's count on a line: of its row, or of all its siblings. */
function marksOf(l: Line) {
  const m = props.picture.marks
  const sum = (list: Int32Array) => (l.rows ? l.rows.reduce((n, r) => n + list[r]!, 0) : list[l.row]!)
  return {
    start: l.open ? 0 : sum(m.starts),
    test: l.open ? 0 : sum(m.tests),
    tagged: l.open ? 0 : sum(m.tagged),
    plan: l.open ? 0 : sum(m.planned),
    read: l.open ? 0 : sum(m.read),
  }
}

function view(index: number) {
  const l = props.picture.lines[index]!
  const p = props.picture
  const of = (v: Float64Array, whole: 'sum' | 'max' | 'min' | 'people') => (l.rows ? together(v, l.rows, props.folders, whole) : v[l.row]!)
  const left = of(p.left, p.leftMeasure.whole)
  const right = of(p.right, p.rightMeasure.whole)
  const all = p.whole ? of(p.whole, p.rightMeasure.whole) : right
  const shown = Number.isNaN(all) ? 0 : rightBar.value(all)
  const part = Number.isNaN(right) ? 0 : rightBar.value(right)
  const path = props.flat ? props.chart.path(l.row) : ''
  const cut = path.lastIndexOf('/') + 1
  return {
    index,
    line: l,
    name: l.rows ? `${count(l.rows.length)} more` : props.chart.name(l.row),
    folder: path.slice(0, cut),
    left: leftBar.value(left),
    leftText: Number.isNaN(left) ? '' : p.leftMeasure.write(left),
    right: shown,
    part: shown ? Math.min(1, part / shown) : 0,
    rightText: Number.isNaN(right)
      ? ''
      : p.whole
        ? `${p.rightMeasure.write(right)} of ${p.rightMeasure.write(all)}`
        : p.rightMeasure.write(right),
    marks: marksOf(l),
    tie: props.ties?.of(l) ?? null,
    dim: p.dim && p.keep !== null && !p.keep[l.row],
  }
}
// what a line shows is reckoned once for each picture, and again only when it comes into view
const views = computed(() => {
  void [props.picture, props.scale, props.folders, props.ties, props.flat]
  return new Map<number, ReturnType<typeof view>>()
})
function viewOf(index: number) {
  const held = views.value.get(index)
  if (held) return held
  const made = view(index)
  if (views.value.size > 4000) views.value.clear()
  views.value.set(index, made)
  return made
}
const items = computed(() => virtual.value.getVirtualItems().filter((v) => v.index < props.picture.lines.length))

watch(
  () => [props.selected, props.picture.lines.length],
  () => void nextTick(() => props.selected >= 0 && virtual.value.scrollToIndex(props.selected)),
  { immediate: true },
)
defineExpose({ focus: () => pane.value?.focus({ preventScroll: true }) })
</script>

<template>
  <div
    ref="pane"
    class="pane"
    role="treegrid"
    tabindex="0"
    aria-label="Files and folders, with what they are on the left and what happened to them on the right"
    :aria-rowcount="picture.lines.length"
    :aria-activedescendant="selected >= 0 ? `line-${selected}` : undefined"
    @mouseleave="emit('hover', -1)"
  >
    <div class="all" :style="{ height: `${virtual.getTotalSize()}px` }">
      <div
        v-for="v in items"
        :id="`line-${v.index}`"
        :key="v.index % slots"
        v-memo="[viewOf(v.index), v.index === selected]"
        class="line"
        :class="[viewOf(v.index).line.kind, { at: v.index === selected, dim: viewOf(v.index).dim }]"
        role="row"
        :aria-rowindex="v.index + 1"
        :aria-level="viewOf(v.index).line.depth + 1"
        :aria-expanded="viewOf(v.index).line.kind === 'folder' ? viewOf(v.index).line.open : undefined"
        :aria-selected="v.index === selected"
        :style="{ transform: `translateY(${v.start}px)` }"
        @click="emit('select', v.index)"
        @dblclick="emit('open', v.index)"
        @mouseenter="emit('hover', v.index)"
      >
        <span class="wing left" role="gridcell">
          <i :style="{ width: room(viewOf(v.index).left) }" />
          <span class="n">{{ viewOf(v.index).leftText }}</span>
        </span>
        <span class="spine" role="rowheader">
          <span v-if="ties" class="ties">
            <Mark v-if="viewOf(v.index).tie?.leans" kind="leans" />
            <span v-else class="slot" />
            <Mark v-if="viewOf(v.index).tie?.used" kind="used" />
            <span v-else class="slot" />
          </span>
          <span class="name" :style="{ paddingLeft: `${Math.min(9, viewOf(v.index).line.depth) * 15}px` }">
            <button
              v-if="viewOf(v.index).line.kind !== 'file'"
              class="fold"
              tabindex="-1"
              :aria-label="`${viewOf(v.index).line.open ? 'Fold' : 'Unfold'} ${viewOf(v.index).name}`"
              @click.stop="emit('toggle', v.index)"
            >
              <svg width="9" height="9" viewBox="0 0 9 9" aria-hidden="true">
                <path :d="viewOf(v.index).line.open ? 'M0.5 2 H8.5 L4.5 7.5 Z' : 'M2 0.5 V8.5 L7.5 4.5 Z'" />
              </svg>
            </button>
            <span class="text"
              >{{ viewOf(v.index).name }}<template v-if="viewOf(v.index).line.kind === 'folder'">/</template
              ><span v-if="viewOf(v.index).folder" class="soft in">{{ viewOf(v.index).folder }}</span></span
            >
          </span>
          <span class="marks">
            <template v-if="ties?.circle">
              <Mark v-if="viewOf(v.index).tie?.circle" kind="circle" />
              <span v-else class="slot" />
            </template>
            <template v-for="k in markKinds" :key="k">
              <Mark v-if="viewOf(v.index).marks[k]" :kind="k" />
              <span v-else class="slot" />
            </template>
          </span>
        </span>
        <span class="wing right" role="gridcell">
          <i :style="{ width: room(viewOf(v.index).right) }"><b :style="{ width: `${100 * viewOf(v.index).part}%` }" /></i>
          <span class="n">{{ viewOf(v.index).rightText }}</span>
        </span>
      </div>
    </div>
  </div>
</template>

<style scoped>
.pane {
  overflow-y: scroll;
  scrollbar-gutter: stable;
  min-height: 0;
  flex: 1;
  outline-offset: -2px;
}
.all {
  position: relative;
  contain: layout style;
}
.line {
  position: absolute;
  inset: 0 0 auto;
  height: 25px;
  display: grid;
  grid-template-columns: var(--wings);
  align-items: stretch;
  cursor: default;
  contain: strict;
}
.line:hover {
  background: var(--hover);
}
.line.at {
  background: var(--hover);
  box-shadow: inset 3px 0 var(--ink);
}
.line.dim {
  opacity: 0.32;
}
.wing {
  display: flex;
  align-items: center;
  gap: 6px;
  min-width: 0;
}
.wing.left {
  flex-direction: row-reverse;
  padding-right: 8px;
  border-right: 2px solid var(--axis);
}
.wing.right {
  padding-left: 8px;
  border-left: 2px solid var(--axis);
}
.wing i {
  height: 15px;
  flex: none;
  background: var(--teal);
}
.wing.right i {
  background: var(--ochre-pale);
}
.wing.right b {
  display: block;
  height: 100%;
  background: var(--ochre);
}
.more .left i {
  background: var(--teal-pale);
}
.folder .wing i {
  height: 9px;
  background: none;
  position: relative;
  border-left: 2px solid var(--teal);
}
.folder .wing.left i::before,
.folder .wing.right i::before,
.folder .wing.right b {
  content: '';
  position: absolute;
  inset: 3.5px 0 auto;
  height: 2px;
  background: var(--teal);
}
.folder .wing.right i {
  border-left: 0;
  border-right: 2px solid var(--ochre);
}
.folder .wing.right i::before {
  background: var(--ochre-pale);
}
.folder .wing.right b {
  right: auto;
  background: var(--ochre);
}
.n {
  font-size: 11.5px;
  color: var(--ink-soft);
  white-space: nowrap;
}
.spine {
  display: flex;
  align-items: center;
  gap: 4px;
  padding: 0 6px 0 4px;
  min-width: 0;
}
.ties,
.marks {
  display: flex;
  flex: none;
  gap: 2px;
}
.slot {
  width: 12px;
}
.name {
  flex: 1;
  min-width: 0;
  display: flex;
  align-items: center;
}
.text {
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
}
.folder .text {
  font: 600 14px var(--serif);
}
.more .text {
  color: var(--ink-soft);
}
.in {
  font-size: 11.5px;
  margin-left: 6px;
}
.fold {
  border: 0;
  background: none;
  padding: 0 5px 0 0;
  margin-left: -14px;
  width: 14px;
  cursor: pointer;
  color: inherit;
}
.fold path {
  fill: var(--ink);
}
.name {
  margin-left: 14px;
}
</style>
