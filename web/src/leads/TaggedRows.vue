<script setup lang="ts">
import { useVirtualizer } from '@tanstack/vue-virtual'
import { computed, ref, watch } from 'vue'
import type { Schemas } from '@/api/client'
import { age, count } from '@/words/format'
import { rowsOf, type Rows } from './rows'
import { behindWord, say, states, type Key, type TaggedItem } from './tagged'

/** Tagged comments under the heads of their groups. */
const props = defineProps<{
  groups: readonly Schemas['ValueCount'][]
  by: Key
  words: readonly Schemas['WordInfo'][]
  item: (n: number) => TaggedItem | undefined
  at: number
  picked: ReadonlySet<string>
  pinAt: string | null
}>()
const emit = defineEmits<{ at: [n: number, range: boolean]; want: [from: number, to: number]; open: [n: number] }>()
const closed = ref(new Set<string>())
watch(
  () => props.by,
  () => (closed.value = new Set()),
)
const rows = computed<Rows>(() => rowsOf(props.groups, closed.value))
const pane = ref<HTMLElement | null>(null)
const rowHeight = 42
const virtual = useVirtualizer(
  computed(() => ({ count: rows.value.total, getScrollElement: () => pane.value, estimateSize: () => rowHeight, overscan: 16 })),
)
const shown = computed(() => virtual.value.getVirtualItems().map((v) => ({ key: v.index, row: rows.value.at(v.index) })))
watch(
  shown,
  (list) => {
    const numbers = list.flatMap((x) => (x.row.kind === 'item' ? [x.row.n] : []))
    if (numbers.length) emit('want', numbers[0]!, numbers.at(-1)!)
  },
  { immediate: true },
)
function turn(value: string, open?: boolean) {
  const next = new Set(closed.value)
  if (open ?? next.has(value)) next.delete(value)
  else next.add(value)
  closed.value = next
}
const groupOf = (n: number) => {
  let first = 0
  for (const g of props.groups) {
    if (n < first + g.count) return { ...g, first }
    first += g.count
  }
  return null
}
defineExpose({
  /** The item above or below one that is drawn. */
  next(n: number, by: number): number {
    const total = props.groups.reduce((sum, g) => sum + g.count, 0)
    for (let k = n + by; k >= 0 && k < total; k += by) if (rows.value.rowOf(k) >= 0) return k
    return n
  },
  scrollTo(n: number) {
    const row = rows.value.rowOf(n)
    if (row >= 0) virtual.value.scrollToIndex(row)
  },
  fold(n: number, open: boolean) {
    const g = groupOf(n)
    if (g) turn(g.value, open)
  },
})
const word = (w: string) => props.words.find((x) => x.word === w)
const old = (t: TaggedItem) => (t.born_at && props.pinAt ? age(t.born_at, props.pinAt).replace(' earlier', '') : '')
</script>

<template>
  <div ref="pane" class="pane" role="listbox" aria-label="Tagged comments">
    <div :style="{ height: `${virtual.getTotalSize()}px`, position: 'relative' }">
      <div class="window" :style="{ transform: `translateY(${virtual.getVirtualItems()[0]?.start ?? 0}px)` }">
        <template v-for="{ key, row } in shown" :key="key">
          <button v-if="row.kind === 'head'" class="row head" :aria-expanded="row.open" @click="turn(row.group.value)">
            <span class="fold" aria-hidden="true">{{ row.open ? '−' : '+' }}</span>
            <b>{{ say(by, row.group.value) }}</b>
            <span v-if="by === 'word'" class="soft meaning">{{ word(row.group.value)?.meaning }}</span>
            <span class="soft n">{{ count(row.group.count) }}</span>
          </button>
          <div
            v-else-if="item(row.n)"
            class="row item"
            role="option"
            :aria-selected="row.n === at"
            :class="{ at: row.n === at, picked: picked.has(item(row.n)!.lead) }"
            @click="emit('at', row.n, $event.shiftKey)"
            @dblclick="emit('open', row.n)"
          >
            <span class="word" :class="{ pressing: word(item(row.n)!.word)?.urgency === 3 }" :title="word(item(row.n)!.word)?.meaning"
              ><i aria-hidden="true">{{ picked.has(item(row.n)!.lead) ? '✓' : '◇' }}</i> {{ item(row.n)!.word }}</span
            >
            <span class="what">
              <span class="said" :class="{ gone: item(row.n)!.state === 'gone' }">{{ behindWord(item(row.n)!) || item(row.n)!.said }}</span>
              <span class="soft where"
                ><span class="mono">{{ item(row.n)!.path }}:{{ item(row.n)!.line }}</span
                ><template v-if="item(row.n)!.symbol"> · in {{ item(row.n)!.symbol }}</template></span
              >
            </span>
            <span class="soft who">
              <span>{{ item(row.n)!.person }}</span>
              <span
                >{{ old(item(row.n)!)
                }}<template v-if="item(row.n)!.state !== 'open'"
                  >{{ old(item(row.n)!) ? ' · ' : '' }}{{ states[item(row.n)!.state] }}</template
                ></span
              >
            </span>
          </div>
          <div v-else class="row item soft">…</div>
        </template>
      </div>
    </div>
  </div>
</template>

<style scoped>
.pane {
  flex: 1;
  min-height: 0;
  overflow: auto;
}
.window {
  position: absolute;
  inset: 0 0 auto;
}
.row {
  height: 42px;
  width: 100%;
  padding: 0 14px 0 18px;
  border: 0;
  border-bottom: 1px solid var(--rule-soft);
  background: none;
  color: inherit;
  font: inherit;
  text-align: left;
}
.head {
  display: flex;
  align-items: baseline;
  gap: 10px;
  padding-top: 12px;
  cursor: pointer;
  white-space: nowrap;
}
.head b {
  font: 600 15px/1.2 var(--serif);
  overflow: hidden;
  text-overflow: ellipsis;
}
.head .n {
  margin-left: auto;
}
.meaning {
  overflow: hidden;
  text-overflow: ellipsis;
}
.fold {
  width: 10px;
  color: var(--ochre-text);
}
.item {
  display: grid;
  grid-template-columns: 96px minmax(0, 1fr) 118px;
  gap: 10px;
  align-items: center;
  cursor: default;
}
.item:hover,
.item.at {
  background: var(--hover);
}
.item.at {
  box-shadow: inset 3px 0 var(--ochre);
}
.item.picked {
  background: var(--ochre-pale);
}
.word {
  font: 12.5px/1.3 var(--mono);
  color: var(--ochre-text);
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
}
.word.pressing {
  font-weight: 600;
}
.word i {
  font-style: normal;
}
.what,
.who {
  min-width: 0;
  display: grid;
}
.said,
.where,
.who span {
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
}
.said.gone {
  text-decoration: line-through;
  text-decoration-color: var(--ink-soft);
}
.where,
.who {
  font-size: 12px;
}
.where .mono {
  font-size: 11.5px;
}
.who {
  text-align: right;
}
</style>
