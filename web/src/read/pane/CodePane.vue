<script setup lang="ts">
import { EditorState } from '@codemirror/state'
import { EditorView } from '@codemirror/view'
import { useResizeObserver } from '@vueuse/core'
import { computed, onBeforeUnmount, onMounted, ref, shallowRef, useTemplateRef, watch } from 'vue'
import { words } from '@/api/client'
import { nonce } from '@/nonce'
import { byteColumn, nameAt, namesOn, runeColumn, type NamePlace } from '@/told'
import { count, size } from '@/words/format'
import { select, type Range } from '@/words/range'
import { colours } from './colours'
import { foldAt, folds, lineShown, setFolding, type Marks } from './folds'
import { lines, setMarked, setRoom, type Hit } from './lines'
import { opening, revealing, type Skim } from './skim'
import { scrolling } from './scroll'
import { useText, type FileAt } from './text'
import { filling, theme } from './theme'
import { setWing, wing as agesOfLines, type Wing } from './wing'

const props = defineProps<{
  file: FileAt
  range: Range | null
  marks?: Marks
  skim?: Skim | null // null: none yet; left out: nothing folds
  open?: Uint8Array // the regions of the skim that are open
  fixed?: boolean // the range is not the reader's to change
  name?: NamePlace | null // the name that is asked for
  hits?: readonly Hit[] // of a search
  hit?: number
  room?: { line: number; element: HTMLElement } | null
  wing?: Wing | null // the line history; left out: no room for it
  top?: number // the first line to show where no range says more
}>()
const emit = defineEmits<{
  select: [range: Range | null]
  loaded: [total: number, text: string]
  name: [place: NamePlace]
  fold: [regions: number[], open: boolean]
  reveal: [regions: number[]] // so that lines that were gone to are seen
  line: [line: number] // the line at hand
  moved: [] // lines stand elsewhere now
  screen: [lines: number] // how many lines fit
}>()

const rowHeight = 21
const { data: info, error } = useText(() => props.file)
const host = useTemplateRef<HTMLElement>('host')
const view = shallowRef<EditorView | null>(null)
const total = computed(() => info.value?.total ?? 0)
const clipped = computed(() => info.value?.clipped ?? [])
const anchor = ref(1)
const head = ref(1)

onMounted(show)
onBeforeUnmount(() => view.value?.destroy())

function extensions() {
  return [
    EditorState.lineSeparator.of('\n'),
    EditorState.readOnly.of(true),
    EditorState.tabSize.of(4),
    EditorView.editable.of(false),
    scrolling,
    EditorView.cspNonce.of(nonce),
    EditorView.contentAttributes.of({ tabindex: '0', role: 'document', 'aria-label': `Code of ${props.file.path}`, spellcheck: 'false' }),
    folds(),
    lines,
    theme,
    filling,
    props.wing === undefined ? [] : agesOfLines,
    info.value && info.value.total && !info.value.unshown ? colours({ ...props.file }) : [],
    EditorView.updateListener.of((u) => u.geometryChanged && emit('moved')),
    EditorView.domEventHandlers({
      scroll: () => emit('moved'),
      keydown: key,
      mousedown: (e) => press(e),
      click: (e) => click(e),
      mouseup: () => dragged(),
    }),
  ]
}

let shown = ''
/** Puts the text into the pane and goes to its place, once for each file. */
function show() {
  const i = info.value
  if (!host.value || !i) return
  const key = `${props.file.repository} ${props.file.path} ${i.commit}`
  if (shown === key) return
  shown = key
  anchor.value = head.value = props.range?.start ?? 1
  const state = EditorState.create({ doc: i.text, extensions: extensions() })
  const effects = [setFolding.of(folding()), setMarked.of(marked()), setRoom.of(props.room ?? null), setWing.of(props.wing ?? null)]
  const { state: ready } = state.update({ effects })
  if (view.value) view.value.setState(ready)
  else view.value = new EditorView({ parent: host.value, state: ready })
  view.value.elementAtHeight(0) // the pane is measured now: its lines are drawn in one go
  emit('loaded', i.total, i.text)
  if (props.range) goTo(props.range.start)
  else if (props.top && props.top > 1) goTo(props.top, 0)
  else view.value.scrollDOM.scrollTop = 0
}
// the pane has its size once it is shown
watch(info, show, { flush: 'post' })

const folding = () => ({ skim: props.skim ?? null, open: props.open ?? new Uint8Array(), marks: props.marks ?? new Map() })
function fold() {
  const v = view.value
  if (!v) return
  const at = topLine()
  v.dispatch({ effects: setFolding.of(folding()) })
  if (at > 1 && Math.abs(topLine() - at) > 2) goTo(at, 0)
}
watch(
  () => [props.skim, props.open, props.marks] as const,
  ([skim], [before]) => {
    fold()
    // the folds came after the text: the lines that were gone to must not hide in them
    if (skim && !before && props.range) goTo(props.range.start)
  },
)

const marked = () => ({ range: props.range, word: word.value, hits: props.hits ?? [], hit: props.hit ?? -1 })
const mark = () => view.value?.dispatch({ effects: setMarked.of(marked()) })
const stepped = ref<NamePlace | null>(null)
watch([() => props.name, () => props.file.path], () => (stepped.value = null))
const word = computed(() => {
  const at = stepped.value ?? props.name
  if (!at || !info.value) return null
  const text = lineText(at.line)
  const found = nameAt(text, runeColumn(text, at.column))
  return found ? { line: at.line, ...found } : null
})
watch([() => props.range, () => props.hits, () => props.hit, word], mark)
watch(
  () => props.room,
  (r) => view.value?.dispatch({ effects: setRoom.of(r ?? null) }),
)
watch(
  () => props.wing,
  (w) => view.value?.dispatch({ effects: setWing.of(w ?? null) }),
)
// also where another search has its first hit elsewhere
watch(
  () => props.hits?.[props.hit ?? -1]?.from,
  (from) => {
    if (from !== undefined && view.value) goTo(view.value.state.doc.lineAt(from).number)
  },
)
// a range that comes from the address is brought into sight
watch(
  () => props.range,
  (r) => {
    if (!r || r.start === anchor.value || r.start === head.value) return
    anchor.value = head.value = r.start
    goTo(r.start)
  },
)

function lineText(n: number) {
  const doc = view.value?.state.doc
  return doc && n >= 1 && n <= doc.lines ? doc.line(n).text : ''
}

/** Brings a line into sight, some lines below the top unless it is there
 * already; what hides it is opened. */
function goTo(line: number, above?: number) {
  const v = view.value
  if (!v || line < 1) return
  const doc = v.state.doc
  const n = Math.min(line, doc.lines)
  const end = props.range && props.range.start === line ? Math.min(props.range.end, doc.lines) : n
  if (above === undefined && props.skim && props.open) {
    const hidden = revealing(props.skim, props.open, n, end)
    if (hidden.length) emit('reveal', hidden)
  }
  // a range that fits is seen whole
  const rows = Math.floor(v.scrollDOM.clientHeight / rowHeight)
  const margin = above ?? Math.max(0, Math.min(6, Math.floor(rows / 3), Math.max(1, rows - (end - n + 2))))
  if (above === undefined && inSight(n) && inSight(end)) return
  v.dispatch({ effects: EditorView.scrollIntoView(doc.line(n).from, { y: 'start', yMargin: margin * rowHeight }) })
}
function inSight(line: number) {
  const v = view.value!
  const block = v.lineBlockAt(v.state.doc.line(line).from)
  const top = v.scrollDOM.scrollTop
  return v.scrollDOM.clientHeight > 0 && block.top >= top && block.bottom <= top + v.scrollDOM.clientHeight
}
/** The first line in sight. */
function topLine() {
  const v = view.value
  if (!v || !v.scrollDOM.scrollTop) return 1
  return lineShown(v.state, v.lineBlockAtHeight(v.scrollDOM.scrollTop).from)
}
/** How far below the top of the pane a line stands, in pixels; below zero: above it. */
function topOf(line: number) {
  const v = view.value
  if (!v || line > v.state.doc.lines) return 0
  return v.lineBlockAt(v.state.doc.line(Math.max(1, line)).from).top - v.scrollDOM.scrollTop
}
/** Where a line begins in the text. */
function positionOf(line: number) {
  const doc = view.value?.state.doc
  return doc && line >= 1 && line <= doc.lines ? doc.line(line).from : 0
}
const scrollBy = (top: number) => view.value?.scrollDOM.scrollBy({ top })
const scrollTop = () => view.value?.scrollDOM.scrollTop ?? 0
defineExpose({
  topOf,
  topLine,
  goTo,
  lineText,
  positionOf,
  scrollBy,
  scrollTop,
  focus: () => view.value?.contentDOM.focus({ preventScroll: true }),
}) // lines may be wider than the pane

/** Where the text's visible column lies, for what is shown between its lines. */
function measure() {
  const v = view.value
  if (!v || !host.value) return
  const gutters = [...v.scrollDOM.querySelectorAll<HTMLElement>('.cm-gutters')]
  const width = (after: boolean) =>
    gutters.filter((g) => g.classList.contains('cm-gutters-after') === after).reduce((n, g) => n + g.offsetWidth, 0)
  host.value.style.setProperty('--pane-left', `${width(false)}px`)
  host.value.style.setProperty('--pane-width', `${v.scrollDOM.clientWidth - width(false) - width(true) - 2}px`)
}
watch(() => props.room, measure, { flush: 'post' })
useResizeObserver(host, () => {
  const v = view.value
  measure()
  if (v && host.value) emit('screen', Math.max(5, Math.floor(host.value.clientHeight / rowHeight) - 1))
})

function choose(n: number, extend: boolean) {
  if (props.fixed) return
  if (!extend) anchor.value = n
  head.value = n
  emit('select', select(props.range, anchor.value, n, extend))
  emit('line', n)
}

/** The line that stands so many visual lines below another. */
function neighbour(line: number, by: number) {
  const v = view.value!
  const block = v.lineBlockAt(v.state.doc.line(Math.min(line, v.state.doc.lines)).from)
  const at = by > 0 ? block.to + 1 : block.from - 1
  if (at < 0 || at > v.state.doc.length) return line
  return lineShown(v.state, v.lineBlockAt(at).from)
}
function move(by: number, extend: boolean) {
  const v = view.value!
  if (props.fixed) {
    v.scrollDOM.scrollBy({ top: by * rowHeight })
    return
  }
  const n = props.range || extend ? neighbour(head.value, by) : head.value
  if (!extend) anchor.value = n
  head.value = n
  emit('select', { start: Math.min(anchor.value, n), end: Math.max(anchor.value, n) })
  emit('line', n)
  v.dispatch({ effects: EditorView.scrollIntoView(v.state.doc.line(n).from, { y: 'nearest', yMargin: 3 * rowHeight }) })
}
/** Steps from name to name on the line at hand. */
function step(by: number) {
  const n = props.range ? head.value : (props.name?.line ?? head.value)
  const text = lineText(n)
  const all = namesOn(text)
  if (props.fixed || !all.length) return
  const from = stepped.value?.line === n ? stepped.value : props.name?.line === n ? props.name : null
  const at = from ? all.findIndex((w) => byteColumn(text, w.start) === from.column) : by > 0 ? -1 : all.length
  const next = all[Math.min(all.length - 1, Math.max(0, at + by))]!
  stepped.value = { line: n, column: byteColumn(text, next.start) }
}
function key(e: KeyboardEvent) {
  if (e.ctrlKey || e.metaKey || e.altKey) return false
  switch (e.key) {
    case 'ArrowDown':
    case 'ArrowUp':
      move(e.key === 'ArrowDown' ? 1 : -1, e.shiftKey)
      break
    case 'ArrowRight':
    case 'ArrowLeft':
      step(e.key === 'ArrowRight' ? 1 : -1)
      break
    case 'Enter': {
      const v = view.value!
      const region = foldAt(v.state, v.lineBlockAt(v.state.doc.line(Math.min(head.value, v.state.doc.lines)).from).from)
      if (stepped.value) emit('name', stepped.value)
      else if (region && props.range) toggle(region, true)
      else return false
      break
    }
    case 'PageDown':
    case 'PageUp':
      view.value!.scrollDOM.scrollBy({ top: (e.key === 'PageDown' ? 1 : -1) * (view.value!.scrollDOM.clientHeight - 2 * rowHeight) })
      break
    default:
      return false
  }
  e.preventDefault()
  return true
}
function toggle(region: number, open: boolean) {
  if (props.skim) emit('fold', open ? opening(props.skim, region) : [region], open)
}

const regionOf = (e: Event) => (e.target as HTMLElement).closest<HTMLElement>('[data-region]')?.dataset.region
let pressedAt: { x: number; y: number } | null = null
function press(e: MouseEvent) {
  pressedAt = { x: e.clientX, y: e.clientY }
  return false
}
/** A click on a name asks what it means, one on a number chooses the line; a
 * drag selects text as ever. */
function click(e: MouseEvent) {
  const still = pressedAt && Math.abs(e.clientX - pressedAt.x) + Math.abs(e.clientY - pressedAt.y) < 4
  const v = view.value
  if (!v || !still || e.button !== 0 || regionOf(e) || props.fixed) return false
  const at = v.posAtCoords({ x: e.clientX, y: e.clientY })
  if (at === null) return false
  const line = v.state.doc.lineAt(at)
  const left = v.coordsAtPos(at, -1)?.left ?? v.coordsAtPos(at)?.left
  const found = nameAt(line.text, at - line.from)
  head.value = line.number
  emit('line', line.number)
  if (found && left !== undefined && Math.abs(left - e.clientX) < 20)
    emit('name', { line: line.number, column: byteColumn(line.text, found.start) })
  return false
}
/** Text that is selected over several lines chooses these. */
function dragged() {
  const v = view.value
  const s = getSelection()
  if (!v || props.fixed || !s || s.isCollapsed || !s.anchorNode || !s.focusNode || !v.contentDOM.contains(s.anchorNode)) return false
  const a = v.state.doc.lineAt(v.posAtDOM(s.anchorNode, s.anchorOffset)).number
  const b = v.contentDOM.contains(s.focusNode) ? v.state.doc.lineAt(v.posAtDOM(s.focusNode, s.focusOffset)).number : a
  if (a === b) return false
  anchor.value = a
  head.value = b
  emit('select', { start: Math.min(a, b), end: Math.max(a, b) })
  return false
}
/** Signs of folds, and line numbers, lie outside of the text. */
function outside(e: MouseEvent) {
  const region = regionOf(e)
  const v = view.value
  if (!v) return
  if (region) {
    toggle(Number(region), !props.open?.[Number(region)])
    return
  }
  if ((e.target as HTMLElement).closest('.cm-wing')) {
    head.value = lineShown(v.state, v.lineBlockAtHeight(e.clientY - v.documentTop).from)
    emit('line', head.value)
  }
  if ((e.target as HTMLElement).closest('.cm-numbers')) {
    choose(lineShown(v.state, v.lineBlockAtHeight(e.clientY - v.documentTop).from), e.shiftKey)
    v.contentDOM.focus()
  }
}
</script>

<template>
  <div class="code">
    <p v-if="error" class="note fault" role="alert">{{ words(error) }}</p>
    <div v-else-if="info?.unshown" class="note unshown">
      <p>
        {{ info.unshown }} It has {{ size(info.size) }}<template v-if="info.kind">; by its first bytes it is {{ info.kind }}</template
        >.
      </p>
      <slot name="unshown" />
    </div>
    <p v-else-if="info && !total" class="note soft">The file is empty.</p>
    <p v-else-if="!info" class="note soft">Fetching the lines …</p>
    <p v-if="range && total && range.start > total" class="note fault">
      The file has {{ count(total) }} lines; there is no line {{ count(range.start) }}.
    </p>
    <p v-if="info?.invalid" class="note soft">This file is not all UTF-8; bytes that are not are shown as “?”.</p>
    <p v-if="clipped.length" class="note soft">
      {{ clipped.length === 1 ? `Line ${count(clipped[0]!.line)} is` : `${count(clipped.length)} lines are` }} too long to be shown whole:
      {{ count(clipped.reduce((n, c) => n + c.characters, 0)) }} characters are left out.
    </p>
    <div ref="host" class="pane" :class="{ gone: !total || info?.unshown }" @click="outside" />
  </div>
</template>

<style scoped>
.code {
  display: flex;
  flex-direction: column;
  min-height: 0;
  height: 100%;
}
.note {
  padding: 10px 18px;
}
.unshown {
  overflow: auto;
}
.pane.gone {
  display: none;
}
.pane {
  flex: 1;
  min-height: 0;
  overflow: hidden;
}
</style>
