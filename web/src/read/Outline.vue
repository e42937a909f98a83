<script setup lang="ts">
import { useVirtualizer } from '@tanstack/vue-virtual'
import { computed, nextTick, ref, watch } from 'vue'
import { words, type Schemas } from '@/api/client'
import { useKeys } from '@/frame/keys'
import { count } from '@/words/format'
import { narrowing } from './narrowing'
import { isNarrow, present, reaches, rowAt, rows, short, symbolMarks, type Group, type Reach, type Symbol } from './outline'
import type { Marks } from './pane/folds'

const props = defineProps<{
  outline?: Schemas['OutlineInfo']
  error: unknown
  line: number | null
  marks?: Marks
  hot?: ReadonlySet<number> // first lines of symbols that are intricate and changed lately
}>()
const emit = defineEmits<{ jump: [symbol: Symbol] }>()

const symbols = computed(() => props.outline?.symbols ?? [])
const available = computed(() => present(symbols.value))
const hasStatic = computed(() => symbols.value.some((s) => s.static))
const reached = computed(() => reaches.filter((v) => symbols.value.some((s) => s.visibility === v)))
const list = computed(() => rows(symbols.value, narrowing))
const here = computed(() => (props.line === null ? -1 : rowAt(list.value, props.line)))
const marked = computed(() => symbolMarks(symbols.value, props.marks ?? new Map()))
const narrow = computed(() => isNarrow(narrowing))
function toggle(g: Group) {
  narrowing.kinds = narrowing.kinds.includes(g) ? narrowing.kinds.filter((k) => k !== g) : [...narrowing.kinds, g]
}
function toggleReach(r: Reach) {
  narrowing.reach = narrowing.reach.includes(r) ? narrowing.reach.filter((k) => k !== r) : [...narrowing.reach, r]
}
function clear() {
  narrowing.typed = ''
  narrowing.kinds = []
  narrowing.reach = []
}
/** What is told of the symbol under the pointer. */
const hovered = ref<{ symbol: Symbol; top: number } | null>(null)
let timer = 0
function hover(e: Event, symbol: Symbol | null) {
  clearTimeout(timer)
  if (!symbol) {
    hovered.value = null
    return
  }
  const row = (e.currentTarget as HTMLElement).getBoundingClientRect()
  timer = window.setTimeout(() => (hovered.value = { symbol, top: Math.min(row.top, innerHeight - 190) }), hovered.value ? 0 : 250)
}

const pane = ref<HTMLElement | null>(null)
const box = ref<HTMLInputElement | null>(null)
const rowHeight = 25
const virtual = useVirtualizer(
  computed(() => ({ count: list.value.length, getScrollElement: () => pane.value, estimateSize: () => rowHeight, overscan: 16 })),
)
const focus = ref(0)
watch(
  here,
  async (i) => {
    await nextTick() // the list has its height then
    if (i >= 0) virtual.value.scrollToIndex(i, { align: 'auto' })
  },
  { immediate: true, flush: 'post' },
)
watch(narrowing, () => {
  focus.value = Math.max(
    0,
    list.value.findIndex((r) => !r.context),
  )
  virtual.value.scrollToIndex(focus.value)
})
async function move(by: number) {
  focus.value = Math.max(0, Math.min(list.value.length - 1, focus.value + by))
  virtual.value.scrollToIndex(focus.value)
  await nextTick()
  pane.value?.querySelector<HTMLElement>(`[data-row="${focus.value}"]`)?.focus()
}
function choose(i: number) {
  const row = list.value[i]
  if (!row) return
  focus.value = i
  emit('jump', row.symbol)
}
useKeys({ o: () => box.value?.focus() })

const who: Record<string, string> = {
  public: 'public: anyone may name it',
  protected: 'protected: for what derives from it',
  internal: 'internal: for its own package or module',
  private: 'private: for this place alone',
}
</script>

<template>
  <section class="outline" aria-label="Outline">
    <div class="top">
      <h2>Outline</h2>
      <template v-if="symbols.length || narrow">
        <input
          ref="box"
          v-model="narrowing.typed"
          type="search"
          placeholder="narrow by letters"
          aria-label="Narrow the outline by letters"
          title="Part of a name, or the initials of its words: rB finds readBlock (o)"
          @keydown.down.prevent="move(0)"
          @keydown.enter.prevent="choose(focus)"
          @keydown.esc="narrowing.typed = ''"
        />
        <div v-if="available.length > 1 || reached.length > 1 || narrow" class="kinds">
          <button
            v-for="[g, n] in available"
            :key="g"
            :aria-pressed="narrowing.kinds.includes(g)"
            :title="`${count(n)} of ${count(symbols.length)}`"
            @click="toggle(g)"
          >
            {{ g }}
          </button>
          <template v-if="reached.length > 1">
            <button
              v-for="r in reached"
              :key="r"
              :aria-pressed="narrowing.reach.includes(r)"
              :title="`Only what is ${who[r]}`"
              @click="toggleReach(r)"
            >
              {{ r }}
            </button>
          </template>
        </div>
        <div class="order">
          <button class="pick" :aria-pressed="!narrowing.byName" @click="narrowing.byName = false">as in the file</button>
          <button class="pick" :aria-pressed="narrowing.byName" @click="narrowing.byName = true">by name</button>
          <button v-if="narrow" class="link on" title="The outline is narrowed, also in other files" @click="clear">show all</button>
        </div>
      </template>
    </div>
    <p v-if="error" class="fault note">{{ words(error) }}</p>
    <p v-else-if="!outline" class="soft note">The outline is being fetched.</p>
    <p v-else-if="outline.depth === 'listed'" class="soft note">No outline: {{ outline.reason }}.</p>
    <p v-else-if="!symbols.length" class="soft note">
      {{ outline.language }} names nothing in this file<template v-if="outline.depth === 'lexed'">
        that its token rules would find; it is read without a grammar</template
      >.
    </p>
    <p v-else-if="!list.length" class="soft note">
      None of the {{ count(symbols.length) }} names matches.
      <button class="link" @click="clear">Show all</button>
    </p>
    <div ref="pane" class="pane" role="tree" aria-label="Names in this file">
      <div :style="{ height: virtual.getTotalSize() + 'px', position: 'relative' }">
        <button
          v-for="v in virtual.getVirtualItems()"
          :key="v.index"
          class="row"
          role="treeitem"
          :data-row="v.index"
          :class="{ here: v.index === here, context: list[v.index]!.context }"
          :tabindex="v.index === focus ? 0 : -1"
          :aria-level="list[v.index]!.depth + 1"
          :aria-label="`${list[v.index]!.symbol.kind} ${list[v.index]!.label}, ${list[v.index]!.symbol.visibility}${list[v.index]!.symbol.static ? ', static' : ''}, line ${list[v.index]!.symbol.name_line}`"
          :style="{ transform: `translateY(${v.start}px)`, paddingLeft: 24 + 11 * Math.min(list[v.index]!.depth, 6) + 'px' }"
          @click="choose(v.index)"
          @mouseenter="(e) => hover(e, list[v.index]!.symbol)"
          @mouseleave="(e) => hover(e, null)"
          @focus="(e) => hover(e, list[v.index]!.symbol)"
          @blur="(e) => hover(e, null)"
          @keydown.down.prevent="move(1)"
          @keydown.up.prevent="move(-1)"
        >
          <span class="kind">{{ short[list[v.index]!.symbol.kind] ?? list[v.index]!.symbol.kind }}</span>
          <span class="reach" :class="list[v.index]!.symbol.visibility || 'none'" />
          <span class="name" :class="{ static: list[v.index]!.symbol.static }">{{ list[v.index]!.label }}</span>
          <span class="marks">
            <i v-if="hot?.has(list[v.index]!.symbol.start)" class="hot" title="Intricate, and changed in the three months before the pin"
              >▮</i
            ><i v-for="m in (marked.get(list[v.index]!.symbol) ?? []).slice(0, 3)" :key="m.title" :class="m.kind" :title="m.title">{{
              m.glyph
            }}</i>
          </span>
        </button>
      </div>
    </div>
    <p v-if="outline && outline.total > symbols.length" class="soft note">
      The first {{ count(symbols.length) }} of {{ count(outline.total) }} names.
    </p>
    <div v-if="hovered" class="card" role="tooltip" :style="{ top: hovered.top + 'px' }">
      <code>{{ hovered.symbol.signature || hovered.symbol.qualified }}</code>
      <p v-if="hovered.symbol.doc" class="doc">{{ hovered.symbol.doc }}</p>
      <p class="soft">
        {{ hovered.symbol.kind }}<template v-if="hovered.symbol.type"> of type {{ hovered.symbol.type }}</template
        ><template v-if="who[hovered.symbol.visibility]">, {{ who[hovered.symbol.visibility] }}</template
        ><template v-if="hovered.symbol.static">; static</template>; lines {{ hovered.symbol.start }}-{{ hovered.symbol.end
        }}<template v-if="hovered.symbol.intricacy">; intricacy {{ hovered.symbol.intricacy }}</template>
      </p>
    </div>
    <p v-if="reached.length > 1 || hasStatic" class="legend" aria-hidden="true">
      <span v-for="v in reached" :key="v"><span class="reach" :class="v" />{{ v }}</span>
      <span v-if="hasStatic" class="static">static</span>
    </p>
  </section>
</template>

<style scoped>
.outline {
  display: flex;
  flex-direction: column;
  min-height: 0;
  border-right: 1px solid var(--rule);
}
.top {
  padding: 14px 14px 6px var(--gap);
}
h2 {
  font-size: 15.5px;
  margin: 0 0 6px;
}
input {
  width: 100%;
  border: 0;
  border-bottom: 1px solid var(--rule);
  background: none;
  color: var(--ink);
  padding: 3px 0 6px;
  font: 13px var(--sans);
}
input::placeholder {
  color: var(--ink-soft);
}
.kinds {
  padding-top: 8px;
  line-height: 1.7;
}
.kinds button {
  border: 0;
  background: none;
  padding: 0;
  color: var(--ink-soft);
  font: 12.5px var(--sans);
  cursor: pointer;
}
.kinds button:not(:last-child)::after {
  content: ' · ';
  white-space: pre;
  font-weight: 400;
}
.kinds button[aria-pressed='true'] {
  color: var(--teal);
  font-weight: 650;
}
.note {
  padding: 4px 14px 0 var(--gap);
  margin: 0;
}
.pane {
  flex: 1;
  min-height: 0;
  overflow: auto;
  padding-top: 4px;
}
.row {
  position: absolute;
  left: 0;
  width: 100%;
  height: 25px;
  display: flex;
  align-items: center;
  gap: 7px;
  padding: 0 12px 0 24px;
  border: 0;
  background: none;
  color: var(--ink);
  font: 13px var(--sans);
  text-align: left;
  cursor: pointer;
  white-space: nowrap;
}
.row:hover {
  background: var(--hover);
}
.row.here {
  background: var(--teal-wash);
}
.row.here .name {
  font-weight: 650;
}
.row.context .name,
.row.context .kind {
  color: var(--ink-soft);
}
.kind {
  font: italic 12.5px var(--serif);
  color: var(--ink-soft);
  flex: none;
  width: 42px;
}
.name {
  overflow: hidden;
  text-overflow: ellipsis;
}
.static {
  font-style: italic;
}
.reach {
  flex: none;
  width: 7px;
  height: 7px;
  border: 1px solid var(--teal);
  box-sizing: border-box;
}
.reach.public {
  background: var(--teal);
}
.reach.internal {
  background: linear-gradient(to right, var(--teal) 50%, transparent 50%);
}
.reach.protected {
  background: linear-gradient(to top, var(--teal) 50%, transparent 50%);
}
.reach.none {
  border-color: transparent;
}
.order {
  display: flex;
  gap: 10px;
  padding-top: 4px;
  font-size: 12px;
  white-space: nowrap;
}
.order .on {
  color: var(--plum);
  font-weight: 600;
}
.marks {
  margin-left: auto;
  display: flex;
  gap: 3px;
  font-size: 11px;
}
.marks i {
  font-style: normal;
}
.marks .tagged,
.marks .hot {
  color: var(--ochre-text);
}
.marks .starts {
  color: var(--teal);
}
.marks .planned {
  color: var(--plum);
}
.card {
  position: fixed;
  left: 216px;
  width: 420px;
  z-index: 30;
  padding: 8px 12px;
  background: var(--sheet);
  border: 1px solid var(--rule);
  border-left: 3px solid var(--teal);
  pointer-events: none;
}
.card code {
  font: 12px/1.5 var(--mono);
  overflow-wrap: anywhere;
}
.card .doc {
  font: 14px/1.4 var(--serif);
  margin: 4px 0;
}
.legend {
  margin: 0;
  padding: 7px 10px 8px 24px;
  border-top: 1px solid var(--rule-soft);
  font-size: 11.5px;
  color: var(--ink-soft);
  display: flex;
  flex-wrap: wrap;
  gap: 2px 9px;
  white-space: nowrap;
}
.legend > span {
  display: inline-flex;
  align-items: center;
  gap: 4px;
}
</style>
