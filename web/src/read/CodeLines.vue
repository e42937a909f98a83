<script setup lang="ts">
import { useVirtualizer } from '@tanstack/vue-virtual'
import { computed, nextTick, ref, watch } from 'vue'
import { words } from '@/api/client'
import { count } from '@/words/format'
import { select, type Range } from '@/words/range'
import { byteColumn, nameAt, namesOn, runeColumn, type NamePlace } from '@/told'
import { useLines, type FileAt } from './lines'

const props = defineProps<{
  file: FileAt
  range: Range | null
  marks?: Map<number, { glyph: string; title: string }[]>
  fixed?: boolean // the range is not the reader's to change
  name?: NamePlace | null // the name that is asked for
}>()
const emit = defineEmits<{ select: [range: Range | null]; loaded: [total: number]; name: [place: NamePlace] }>()

const rowHeight = 21
const file = computed(() => props.file)
const { info, error, want, line } = useLines(file)
const pane = ref<HTMLElement | null>(null)
const total = computed(() => info.value?.total ?? 0)
const virtual = useVirtualizer(
  computed(() => ({ count: total.value, getScrollElement: () => pane.value, estimateSize: () => rowHeight, overscan: 24 })),
)
const rows = computed(() => virtual.value.getVirtualItems())
const digits = computed(() => String(total.value || 1).length)
watch(rows, (r) => r.length && want(r[0]!.index + 1, r.at(-1)!.index + 1))

const anchor = ref(1)
const head = ref(1)

// A range from the address is brought into sight once, a third down the pane.
let shown = ''
watch(
  [total, () => props.range, () => props.file.path],
  async () => {
    if (total.value) emit('loaded', total.value)
    const key = `${props.file.path} ${props.range?.start}`
    if (!total.value || key === shown) return
    shown = key
    await nextTick()
    if (!props.range) {
      pane.value?.scrollTo({ top: 0 })
      return
    }
    const first = Math.min(props.range.start, total.value)
    if (!rows.value.some((r) => r.index + 1 === first && r.start > (pane.value?.scrollTop ?? 0)) || props.fixed) {
      const above = Math.max(0, Math.min(6, Math.floor((pane.value?.clientHeight ?? 0) / rowHeight / 3)))
      pane.value?.scrollTo({ top: Math.max(0, (first - 1 - above) * rowHeight) })
    }
    anchor.value = props.range.start
    head.value = props.range.end
  },
  { immediate: true, flush: 'post' },
)

function choose(n: number, extend: boolean) {
  if (props.fixed) return
  if (!extend) anchor.value = n
  head.value = n
  const next = select(props.range, anchor.value, n, extend)
  shown = `${props.file.path} ${next?.start}`
  emit('select', next)
}
function move(by: number, extend: boolean) {
  if (props.fixed) {
    pane.value?.scrollBy({ top: by * rowHeight })
    return
  }
  const n = Math.min(total.value, Math.max(1, head.value + by))
  if (props.range || extend) {
    if (!extend) anchor.value = n
    head.value = n
    const r = { start: Math.min(anchor.value, n), end: Math.max(anchor.value, n) }
    shown = `${props.file.path} ${r.start}`
    emit('select', r)
  } else choose(head.value, false)
  virtual.value.scrollToIndex(n - 1)
}
const textOf = (n: number) => (line(n)?.pieces ?? []).map((p) => p.text).join('')
/** A click on a name asks what it means; a drag selects text as ever. */
function ask(e: MouseEvent, n: number) {
  const selection = getSelection()
  if (props.fixed || !selection || !selection.isCollapsed || !selection.anchorNode) return
  const cell = (e.currentTarget as HTMLElement).closest('.text')
  if (!cell?.contains(selection.anchorNode)) return
  const before = document.createRange()
  before.setStart(cell, 0)
  before.setEnd(selection.anchorNode, selection.anchorOffset)
  const text = textOf(n)
  const word = nameAt(text, before.toString().length)
  if (word) emit('name', { line: n, column: byteColumn(text, word.start) })
}
/** Steps from name to name on the line at hand. */
const stepped = ref<NamePlace | null>(null)
function step(by: number) {
  const n = props.range ? head.value : (props.name?.line ?? head.value)
  const text = textOf(n)
  const all = namesOn(text)
  if (props.fixed || !all.length) return
  const from = stepped.value?.line === n ? stepped.value : props.name?.line === n ? props.name : null
  const at = from ? all.findIndex((w) => byteColumn(text, w.start) === from.column) : by > 0 ? -1 : all.length
  const next = all[Math.min(all.length - 1, Math.max(0, at + by))]!
  stepped.value = { line: n, column: byteColumn(text, next.start) }
}
function askStepped() {
  if (stepped.value) emit('name', stepped.value)
}
const marked = computed(() => stepped.value ?? props.name ?? null)
watch([() => props.name, () => props.file.path], () => (stepped.value = null))
/** Where the marked name stands in its line, in columns of the type. */
function under(n: number) {
  if (marked.value?.line !== n) return undefined
  const text = textOf(n)
  const start = runeColumn(text, marked.value.column)
  const word = nameAt(text, start)
  if (!word) return undefined
  let column = 0
  for (const c of text.slice(0, start)) column += c === '\t' ? 4 - (column % 4) : 1
  return { left: `${column}ch`, width: `${[...text.slice(word.start, word.end)].length}ch` }
}
const inRange = (n: number) => !!props.range && n >= props.range.start && n <= props.range.end
</script>

<template>
  <div class="code">
    <p v-if="error" class="note fault" role="alert">{{ words(error) }}</p>
    <p v-else-if="info?.unshown" class="note">{{ info.unshown }}</p>
    <p v-else-if="info && !total" class="note soft">The file is empty.</p>
    <p v-else-if="!info" class="note soft">Fetching the lines …</p>
    <p v-if="range && total && range.start > total" class="note fault">
      The file has {{ count(total) }} lines; there is no line {{ count(range.start) }}.
    </p>
    <p v-if="info?.invalid" class="note soft">This file is not all UTF-8; bytes that are not are shown as “?”.</p>
    <div
      v-show="total && !info?.unshown"
      ref="pane"
      class="pane"
      tabindex="0"
      role="region"
      :aria-label="`Code of ${file.path}`"
      @keydown.down.prevent="(e) => move(1, e.shiftKey)"
      @keydown.up.prevent="(e) => move(-1, e.shiftKey)"
      @keydown.right.prevent="step(1)"
      @keydown.left.prevent="step(-1)"
      @keydown.enter.prevent="askStepped"
    >
      <div class="all" :style="{ height: `${virtual.getTotalSize()}px` }">
        <div class="window" :style="{ transform: `translateY(${rows[0]?.start ?? 0}px)` }">
          <div v-for="r in rows" :key="r.index" class="row" :class="{ in: inRange(r.index + 1) }" :data-line="r.index + 1">
            <button
              class="number"
              :style="{ width: `${digits + 3}ch` }"
              :aria-label="`Line ${r.index + 1}`"
              :aria-pressed="inRange(r.index + 1)"
              tabindex="-1"
              @mousedown.prevent
              @click="(e) => choose(r.index + 1, e.shiftKey)"
            >
              {{ r.index + 1 }}
            </button>
            <span class="marks"
              ><i v-for="m in marks?.get(r.index + 1) ?? []" :key="m.title" :title="m.title">{{ m.glyph }}</i></span
            >
            <span class="text" @click="(e) => ask(e, r.index + 1)"
              ><i v-if="under(r.index + 1)" class="asked" :style="under(r.index + 1)" /><template
                v-for="(l, k) in [line(r.index + 1)]"
                :key="k"
                ><template v-if="l"
                  ><span v-for="(p, i) in l.pieces" :key="i" :class="p.class">{{ p.text }}</span
                  ><em v-if="l.clipped" class="clipped">… {{ count(l.clipped) }} more characters, not shown</em></template
                ></template
              ></span
            >
          </div>
        </div>
      </div>
    </div>
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
.pane {
  flex: 1;
  min-height: 0;
  overflow: auto;
  font: 12.5px/21px var(--mono);
}
.pane:focus-visible {
  outline-offset: -2px;
}
.all {
  position: relative;
  min-width: 100%;
  width: max-content;
}
.window {
  position: absolute;
  top: 0;
  left: 0;
  min-width: 100%;
}
.row {
  display: flex;
  height: 21px;
  white-space: pre;
}
.row.in {
  background: var(--plum-wash);
}
.number {
  position: sticky;
  left: 0;
  flex: none;
  border: 0;
  padding: 0 1.2ch 0 0;
  text-align: right;
  font: inherit;
  color: var(--ink-soft);
  background: var(--paper);
  cursor: pointer;
  user-select: none;
}
.row.in .number {
  background: var(--plum-wash);
  color: var(--ink);
}
.marks {
  flex: none;
  width: 20px;
  color: var(--ochre-text);
  user-select: none;
}
.marks i {
  font-style: normal;
}
.text {
  padding-right: 24px;
  tab-size: 4;
}
.text {
  position: relative;
}
.asked {
  position: absolute;
  bottom: 1px;
  height: 2px;
  background: var(--plum);
}
.clipped {
  color: var(--ink-soft);
  font: italic 12px var(--sans);
  padding-left: 8px;
}
.c-keyword {
  font-weight: 600;
}
.c-comment {
  color: var(--ink-soft);
  font-style: italic;
}
.c-string {
  color: var(--code-string);
}
.c-number {
  color: var(--code-number);
}
.c-name {
  color: var(--teal);
  font-weight: 600;
}
.c-type,
.c-meta {
  color: var(--teal);
}
</style>
