<script setup lang="ts">
import { useVirtualizer } from '@tanstack/vue-virtual'
import { computed, nextTick, ref, watch } from 'vue'
import { words } from '@/api/client'
import { count } from '@/words/format'
import { select, type Range } from '@/words/range'
import { useLines, type FileAt } from './lines'

const props = defineProps<{
  file: FileAt
  range: Range | null
  marks?: Map<number, { glyph: string; title: string }[]>
  fixed?: boolean // the range is not the reader's to change
}>()
const emit = defineEmits<{ select: [range: Range | null]; loaded: [total: number] }>()

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
            <span class="text"
              ><template v-for="(l, k) in [line(r.index + 1)]" :key="k"
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
