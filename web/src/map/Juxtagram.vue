<script setup lang="ts">
import { useVirtualizer } from '@tanstack/vue-virtual'
import { useElementSize } from '@vueuse/core'
import { computed, nextTick, ref, watch } from 'vue'
import { count } from '@/words/format'
import type { ScaleName } from './address'
import type { Chart } from './chart'
import './marks.css'
import type { Aggregate } from './measures'
import { shapes, type Shape } from './shapes'
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
const around = 16
const { height } = useElementSize(pane)
/** As many lines as are drawn at most: one that leaves the view is used again for
 * the one that comes, where it stands in the document. */
const slots = computed(() => Math.ceil(height.value / rowHeight) + 2 * around + 3)
const virtual = useVirtualizer(
  computed(() => ({
    count: props.picture.lines.length,
    getScrollElement: () => pane.value,
    estimateSize: () => rowHeight,
    overscan: around,
  })),
)
const leftBar = computed(() => bars(props.scale, props.picture.leftTop))
const rightBar = computed(() => bars(props.scale, props.picture.rightTop))
const share = (of: number) => `calc((100% - 82px) * ${of.toFixed(4)})`

/** The marks that any row has: each has a place of its own. */
const markKinds = computed<Shape[]>(() => {
  const m = props.picture.marks
  const columns = {
    start: [m.starts],
    test: [m.tests],
    tagged: [m.tagged],
    written: [m.written],
    plan: [m.planned, m.open, m.aside],
    read: [m.read],
  }
  const found = (Object.keys(columns) as (keyof typeof columns)[]).filter((k) => columns[k].some((list) => list.some((n) => n > 0)))
  return props.ties?.circle ? ['circle', ...found] : found
})
/** The bar of a plan has four forms in one place: all decided and read, some of it
 * open, all open, set aside. */
const barForms = computed<Shape[]>(() => {
  const m = props.picture.marks
  return [m.open, m.aside].some((list) => list.some((n) => n > 0)) ? ['plan', 'half', 'undecided', 'aside'] : ['plan']
})
const drawnIn = (k: Shape): Shape[] => (k === 'plan' ? barForms.value : [k])

function view(index: number) {
  const l = props.picture.lines[index]!
  const p = props.picture
  const of = (v: Float64Array, whole: 'sum' | 'max' | 'min' | 'people') => (l.rows ? together(v, l.rows, props.folders, whole) : v[l.row]!)
  const left = of(p.left, p.leftMeasure.whole)
  const right = of(p.right, p.rightMeasure.whole)
  const all = p.whole ? of(p.whole, p.rightMeasure.whole) : right
  const path = props.flat ? props.chart.path(l.row) : ''
  const tie = props.ties?.of(l) ?? null
  const has = (list: Int32Array) => !l.open && (l.rows ?? [l.row]).some((r) => list[r]! > 0)
  const planned = has(p.marks.planned)
  const undecided = has(p.marks.open)
  const flags = {
    open: l.open,
    dim: p.dim && p.keep !== null && !p.keep[l.row],
    start: has(p.marks.starts),
    test: has(p.marks.tests),
    tagged: has(p.marks.tagged),
    written: has(p.marks.written),
    plan: planned && !undecided,
    half: planned && undecided,
    undecided,
    aside: !planned && !undecided && has(p.marks.aside),
    read: has(p.marks.read),
    leans: !!tie?.leans,
    used: !!tie?.used,
    circle: !!tie?.circle,
  }
  return {
    kind: l.kind,
    level: l.depth + 1,
    expanded: l.kind === 'folder' ? l.open : undefined,
    classes: `line ${l.kind} ${Object.entries(flags)
      .filter(([, on]) => on)
      .map(([name]) => name)
      .join(' ')}`,
    name: l.rows ? `${count(l.rows.length)} more` : props.chart.name(l.row) + (l.kind === 'folder' ? '/' : ''),
    folder: path.slice(0, path.lastIndexOf('/') + 1),
    indent: `${14 + Math.min(9, l.depth) * 15}px`,
    left: share(leftBar.value(left)),
    leftText: Number.isNaN(left) ? '' : p.leftMeasure.write(left),
    right: share(rightBar.value(all)),
    part: `${(100 * Math.min(1, rightBar.value(right) / (rightBar.value(all) || 1))).toFixed(2)}%`,
    rightText: Number.isNaN(right)
      ? ''
      : p.whole
        ? `${p.rightMeasure.write(right)} of ${p.rightMeasure.write(all)}`
        : p.rightMeasure.write(right),
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
const items = computed(() => {
  const list = virtual.value.getVirtualItems().filter((v) => v.index < props.picture.lines.length)
  const n = Math.max(slots.value, list.length)
  return list.map((v) => ({ v, w: viewOf(v.index), slot: v.index % n })).sort((a, b) => a.slot - b.slot)
})

watch(
  () => [props.selected, props.picture.lines.length],
  () => void nextTick(() => props.selected >= 0 && virtual.value.scrollToIndex(props.selected)),
  { immediate: true },
)
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
        v-for="{ v, w, slot } in items"
        :id="`line-${v.index}`"
        :key="slot"
        v-memo="[w, v.index, v.index === selected]"
        :class="v.index === selected ? `${w.classes} at` : w.classes"
        role="row"
        :aria-rowindex="v.index + 1"
        :aria-level="w.level"
        :aria-expanded="w.expanded"
        :aria-selected="v.index === selected"
        :style="{ top: `${v.start}px` }"
        @click="emit('select', v.index)"
        @dblclick="emit('open', v.index)"
        @mouseenter="emit('hover', v.index)"
      >
        <span class="wing left" role="gridcell"
          ><i :style="{ width: w.left }" /><span class="n">{{ w.leftText }}</span></span
        >
        <span class="spine" role="rowheader">
          <svg v-if="ties" class="mark slots" width="26" height="12" aria-hidden="true">
            <path class="leans" :d="shapes.leans(0)" />
            <path class="used" :d="shapes.used(14)" />
          </svg>
          <span class="name" :style="{ paddingLeft: w.indent }"
            ><button class="fold" tabindex="-1" :aria-label="`Fold or unfold ${w.name}`" @click.stop="emit('toggle', v.index)"></button
            ><span class="text"
              >{{ w.name }}<span class="soft in">{{ w.folder && ` ${w.folder}` }}</span></span
            ></span
          >
          <svg class="mark slots" :width="14 * markKinds.length" height="12" aria-hidden="true">
            <template v-for="(k, i) in markKinds" :key="k">
              <path v-for="s in drawnIn(k)" :key="s" :class="s" :d="shapes[s](14 * i)" />
            </template>
          </svg>
        </span>
        <span class="wing right" role="gridcell"
          ><i :style="{ width: w.right }"><b :style="{ width: w.part }" /></i><span class="n">{{ w.rightText }}</span></span
        >
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
  /* opaque and by itself: scrolling then neither repaints nor lays out what is around */
  background: var(--paper);
  contain: strict;
  outline-offset: -2px;
}
.all {
  position: relative;
  contain: layout style;
}
.line {
  position: absolute;
  left: 0;
  right: 0;
  height: 25px;
  display: grid;
  grid-template-columns: var(--wings);
  align-items: stretch;
  cursor: default;
  contain: strict;
}
.line.at {
  box-shadow: inset 3px 0 var(--ink);
}
.line.dim {
  opacity: 0.32;
}
.wing {
  /* nothing in a row is positioned: each such box would be painted by itself */
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
.line:hover,
.line.at {
  background: var(--hover);
}
i {
  height: 15px;
  flex: none;
  background: var(--teal);
}
.right i {
  background: var(--ochre-pale);
}
b {
  display: block;
  height: 100%;
  background: var(--ochre);
}
.more .left i {
  background: var(--teal-pale);
}
.folder i {
  height: 9px;
  background: linear-gradient(var(--teal), var(--teal)) center / 100% 2px no-repeat;
}
.folder .left i {
  border-left: 2px solid var(--teal);
}
.folder .right i {
  background-image: linear-gradient(var(--ochre-pale), var(--ochre-pale));
  border-right: 2px solid var(--ochre);
}
.folder b {
  background: linear-gradient(var(--ochre), var(--ochre)) center / 100% 2px no-repeat;
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
.slots path {
  visibility: hidden;
}
.line.start .start,
.line.test .test,
.line.tagged .tagged,
.line.written .written,
.line.plan .plan,
.line.half .half,
.line.undecided .undecided,
.line.aside .aside,
.line.read .read,
.line.leans .leans,
.line.used .used,
.line.circle .circle {
  visibility: visible;
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
  white-space: pre;
}
.folder .text {
  font: 600 14px var(--serif);
}
.more .text {
  color: var(--ink-soft);
}
.in {
  font-size: 11.5px;
}
.fold {
  border: 0;
  background: none;
  padding: 0;
  margin-left: -14px;
  width: 14px;
  flex: none;
  text-align: left;
  cursor: pointer;
  color: inherit;
}
.fold::before {
  content: '';
  display: block;
  width: 0;
  border: 4.5px solid transparent;
  border-left: 6px solid var(--ink);
  border-right: 0;
}
.open .fold::before {
  border: 4.5px solid transparent;
  border-top: 6px solid var(--ink);
  border-bottom: 0;
}
.file .fold {
  visibility: hidden;
}
</style>
