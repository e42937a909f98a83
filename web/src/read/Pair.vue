<script setup lang="ts">
import { EditorState } from '@codemirror/state'
import { EditorView, lineNumbers } from '@codemirror/view'
import { getChunks, MergeView } from '@codemirror/merge'
import { useQuery } from '@tanstack/vue-query'
import { computed, onBeforeUnmount, ref, shallowRef, useTemplateRef, watch } from 'vue'
import { useRoute, useRouter } from 'vue-router'
import { api, data, words } from '@/api/client'
import { describeKeys } from '@/frame/help'
import { useKeys } from '@/frame/keys'
import { useRepository } from '@/frame/repository'
import { useSelection } from '@/plans/adding'
import { nonce } from '@/nonce'
import { count, date, short } from '@/words/format'
import { parseRange } from '@/words/range'
import { aligned, changesIn, type Row } from './pair'
import CodePane from './pane/CodePane.vue'
import { colours } from './pane/colours'
import { useText } from './pane/text'
import { theme } from './pane/theme'
import { useOutline } from './useOutline'

const repository = useRepository()
const route = useRoute()
const router = useRouter()
const query = (v: unknown) => (typeof v === 'string' ? v : '')
const id = computed(() => repository.value.id)
const file = (path: string, at: string) => ({ repository: id.value, path, at: at && at !== repository.value.pin ? at : undefined })
const a = computed(() => file(query(route.query.path), query(route.query.at)))
const b = computed(() => file(query(route.query.beside) || query(route.query.path), query(route.query.beside_at)))
const revisions = computed(() => a.value.path === b.value.path)
const space = computed(() => route.query.space === 'ignored')
/** Apart: two texts that are not compared. */
const lines = computed(() => parseRange(route.query.lines))
const besideLines = computed(() => parseRange(route.query.beside_lines))
const apart = computed(() => route.query.as === 'apart' || (route.query.as !== 'compared' && !!besideLines.value && !revisions.value))
const put = (q: Record<string, string | undefined>) => void router.replace({ query: { ...route.query, ...q } })

const nameOf = (p: string) => p.split('/').at(-1)!
useSelection(() => {
  // other commits than the pin's are compared in the history
  if (a.value.at || b.value.at) return null
  const read = [lines.value, besideLines.value].reduce((n, r) => n + (r ? r.end - r.start + 1 : 0), 0)
  return {
    kind: 'pair',
    path: a.value.path,
    ...(lines.value ?? {}),
    beside: { path: b.value.path, ...(besideLines.value ?? {}) },
    title: `${nameOf(a.value.path)} and ${nameOf(b.value.path)}`,
    lines: read || 60,
  }
})

const textA = useText(a)
const textB = useText(b)
const outlineA = useOutline(a)
const outlineB = useOutline(b)
const { data: found, error } = useQuery({
  queryKey: computed(() => ['repository', id.value, 'differences', a.value, b.value, space.value]),
  queryFn: ({ signal }) =>
    data(
      api.GET('/api/repositories/{repository}/differences', {
        params: {
          path: { repository: id.value },
          query: {
            path: a.value.path,
            at: a.value.at,
            beside: b.value.path,
            beside_at: b.value.at,
            ignore_space: space.value || undefined,
          },
        },
        signal,
      }),
    ),
  retry: false,
})
/** The older one stands at the left. */
const swapped = computed(() => revisions.value && !!found.value && found.value.old.time > found.value.new.time)
watch(swapped, (on) => on && put({ at: b.value.at ?? repository.value.pin, beside_at: a.value.at ?? repository.value.pin }))

const host = useTemplateRef<HTMLElement>('host')
const merge = shallowRef<MergeView | null>(null)
const chunks = ref<{ from: number; line: number }[]>([])
const at = ref(-1)
const side = (f: { repository: number; path: string; at?: string }, text: string) => ({
  doc: text,
  extensions: [
    EditorState.lineSeparator.of('\n'),
    EditorState.readOnly.of(true),
    EditorView.editable.of(false),
    EditorState.tabSize.of(4),
    EditorView.cspNonce.of(nonce),
    EditorView.contentAttributes.of({ role: 'document', 'aria-label': `Code of ${f.path}` }),
    lineNumbers(),
    theme,
    colours({ ...f }),
  ],
})
const ready = computed(() => !!textA.data.value && !!textB.data.value && !!found.value && !swapped.value)
const unshown = computed(() => textA.data.value?.unshown || textB.data.value?.unshown)
watch(
  [ready, found, host, apart],
  () => {
    merge.value?.destroy()
    merge.value = null
    if (!ready.value || !host.value || apart.value || unshown.value) return
    const hunks = found.value!.hunks
    merge.value = new MergeView({
      a: side(a.value, textA.data.value!.text),
      b: side(b.value, textB.data.value!.text),
      parent: host.value,
      collapseUnchanged: { margin: 4, minSize: 12 },
      gutter: true,
      highlightChanges: true,
      diffConfig: { override: (x, y) => changesIn(hunks, x, y) },
    })
    const doc = merge.value.b.state.doc
    chunks.value = (getChunks(merge.value.b.state)?.chunks ?? []).map((c) => {
      const from = Math.min(c.fromB, doc.length)
      return { from, line: doc.lineAt(from).number }
    })
    at.value = -1
    if (lines.value) goTo(lines.value.start, 'a')
    else if (chunks.value.length) step(1)
  },
  { flush: 'post' },
)
onBeforeUnmount(() => merge.value?.destroy())

function goTo(line: number, which: 'a' | 'b') {
  const v = merge.value?.[which]
  if (!v || line > v.state.doc.lines) return
  v.dispatch({ effects: EditorView.scrollIntoView(v.state.doc.line(line).from, { y: 'start', yMargin: 60 }) })
}
function step(by: number) {
  if (!chunks.value.length) return
  at.value = Math.max(0, Math.min(chunks.value.length - 1, at.value + by))
  goTo(chunks.value[at.value]!.line, 'b')
}
const rows = computed<Row[]>(() =>
  found.value && outlineA.data.value && outlineB.data.value
    ? aligned(outlineA.data.value.symbols, outlineB.data.value.symbols, found.value.hunks)
    : [],
)
const onlyDiffering = ref(true)
const shownRows = computed(() => (onlyDiffering.value ? rows.value.filter((r) => r.differs) : rows.value).slice(0, 500))
const paneA = useTemplateRef('paneA')
const paneB = useTemplateRef('paneB')
function show(r: Row) {
  if (apart.value) {
    if (r.a) paneA.value?.goTo(r.a.line, 4)
    if (r.b) paneB.value?.goTo(r.b.line, 4)
  } else if (r.b) goTo(r.b.line, 'b')
  else if (r.a) goTo(r.a.line, 'a')
}
// two texts apart scroll by the same distance
const together = ref(true)
let last = { a: 0, b: 0 }
function scrolled(which: 'a' | 'b') {
  const [mine, other] = which === 'a' ? [paneA.value, paneB.value] : [paneB.value, paneA.value]
  const now = mine?.scrollTop() ?? 0
  const by = now - last[which]
  last[which] = now
  if (!together.value || !by || !other) return
  const before = other.scrollTop()
  other.scrollBy(by)
  last[which === 'a' ? 'b' : 'a'] = before + (other.scrollTop() - before)
}
useKeys({ n: () => step(1), p: () => step(-1), w: () => put({ space: space.value ? undefined : 'ignored' }) })
describeKeys('A pair', [
  ['n p', 'the next difference, the one before'],
  ['w', 'ignore white space, or not'],
])
const title = (which: 'old' | 'new') => {
  const f = found.value?.[which]
  return f ? `${f.commit === repository.value.pin ? 'the pin' : short(f.commit)}, ${date(f.time)}` : ''
}
const readTo = (f: { path: string; at?: string }) => ({
  name: 'read',
  params: { repository: id.value },
  query: { path: f.path, ...(f.at ? { at: f.at } : {}) },
})
</script>

<template>
  <div class="pair">
    <aside>
      <h2>Symbols side by side</h2>
      <p v-if="rows.length" class="soft">
        {{ count(rows.filter((r) => r.differs).length) }} of {{ count(rows.length) }} differ
        <button class="link" @click="onlyDiffering = !onlyDiffering">{{ onlyDiffering ? 'show all' : 'only these' }}</button>
      </p>
      <p v-else-if="found" class="soft">Neither names anything.</p>
      <button v-for="(r, i) in shownRows" :key="i" class="row" :title="`${r.kind} ${r.name}`" @click="show(r)">
        <span class="name" :class="{ soft: !r.differs }">{{ r.name }}</span>
        <span class="soft lengths">{{ r.a ? r.a.lines : '–' }} : {{ r.b ? r.b.lines : '–' }}</span>
      </button>
      <p v-if="rows.length" class="soft legend">lines at the left : at the right; – is not there</p>
    </aside>
    <section>
      <header>
        <div class="of">
          <router-link class="mono" :to="readTo(a)" :title="a.path">{{ a.path }}</router-link>
          <span class="soft"><b v-if="revisions">older</b> at {{ title('old') }}</span>
        </div>
        <div class="of">
          <router-link class="mono" :to="readTo(b)" :title="b.path">{{ b.path }}</router-link>
          <span class="soft"><b v-if="revisions">newer</b> at {{ title('new') }}</span>
        </div>
      </header>
      <div class="tools">
        <template v-if="!apart && found">
          <span role="status">{{
            !chunks.length
              ? space
                ? 'No difference but in white space.'
                : 'No difference.'
              : `difference ${at + 1} of ${count(chunks.length)}`
          }}</span>
          <button class="link" :disabled="at <= 0" @click="step(-1)">before <kbd>p</kbd></button>
          <button class="link" :disabled="at + 1 >= chunks.length" @click="step(1)">next <kbd>n</kbd></button>
          <label
            ><input type="checkbox" :checked="space" @change="put({ space: space ? undefined : 'ignored' })" /> ignore white space</label
          >
        </template>
        <label v-else-if="apart"><input v-model="together" type="checkbox" /> scroll together</label>
        <span class="room" />
        <span class="picks"
          ><button class="pick" :aria-pressed="!apart" @click="put({ as: 'compared' })">compared</button>
          <button class="pick" :aria-pressed="apart" @click="put({ as: 'apart' })">apart</button></span
        >
      </div>
      <p v-if="error || textA.error.value || textB.error.value" class="fault note" role="alert">
        {{ words(error ?? textA.error.value ?? textB.error.value) }}
      </p>
      <p v-else-if="unshown" class="note">{{ unshown }} It cannot be compared line by line.</p>
      <p v-else-if="!ready" class="soft note">Comparing …</p>
      <div v-if="apart" class="apart">
        <CodePane ref="paneA" :file="a" :range="lines" fixed @moved="scrolled('a')" />
        <CodePane ref="paneB" :file="b" :range="besideLines" fixed @moved="scrolled('b')" />
      </div>
      <div v-else ref="host" class="compared" tabindex="0" aria-label="Both texts, compared" />
    </section>
  </div>
</template>

<style scoped>
.pair {
  height: 100%;
  display: grid;
  grid-template-columns: 214px minmax(0, 1fr);
}
aside {
  border-right: 1px solid var(--rule);
  padding: 14px 0 14px;
  overflow: auto;
}
aside > h2,
aside > p {
  padding: 0 14px 0 var(--gap);
}
h2 {
  font-size: 15.5px;
}
.row {
  display: flex;
  justify-content: space-between;
  gap: 8px;
  width: 100%;
  padding: 3px 14px 3px var(--gap);
  border: 0;
  background: none;
  color: inherit;
  font: inherit;
  text-align: left;
  cursor: pointer;
}
.row:hover {
  background: var(--hover);
}
.name {
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
}
.lengths {
  flex: none;
  font: 11.5px/1.7 var(--mono);
}
.legend {
  font-size: 11.5px;
  margin-top: 10px;
}
section {
  display: flex;
  flex-direction: column;
  min-height: 0;
  min-width: 0;
}
header,
.apart {
  display: grid;
  grid-template-columns: 1fr 1fr;
}
.of {
  padding: 8px 16px 4px;
  display: flex;
  align-items: baseline;
  gap: 10px;
  min-width: 0;
  white-space: nowrap;
}
.of a {
  overflow: hidden;
  text-overflow: ellipsis;
  direction: rtl;
}
.of + .of {
  border-left: 1px solid var(--rule-soft);
}
.tools {
  display: flex;
  align-items: baseline;
  gap: 14px;
  padding: 3px 16px 6px;
  border-bottom: 1px solid var(--rule);
  font-size: 12.5px;
}
.room {
  flex: 1;
}
.picks {
  display: flex;
  gap: 10px;
}
.note {
  padding: 10px 16px;
}
.apart {
  flex: 1;
  min-height: 0;
}
.apart > * + * {
  border-left: 1px solid var(--rule);
}
.compared {
  flex: 1;
  min-height: 0;
  overflow: hidden;
}
.compared :deep(.cm-mergeView) {
  height: 100%;
}
.compared :deep(.cm-mergeViewEditor + .cm-mergeViewEditor) {
  border-left: 1px solid var(--rule);
}
.compared :deep(.cm-changedLine) {
  background: var(--ochre-pale);
}
.compared :deep(.cm-merge-b .cm-changedLine) {
  background: var(--teal-wash);
}
.compared :deep(.cm-changedText) {
  background: color-mix(in srgb, var(--ochre-mid) 55%, transparent);
}
.compared :deep(.cm-merge-b .cm-changedText) {
  background: color-mix(in srgb, var(--teal-pale) 60%, transparent);
}
.compared :deep(.cm-changeGutter) {
  width: 4px;
  padding: 0;
}
.compared :deep(.cm-changedLineGutter) {
  background: var(--ochre);
}
.compared :deep(.cm-merge-b .cm-changedLineGutter) {
  background: var(--teal);
}
.compared :deep(.cm-collapsedLines) {
  background: var(--hover);
  color: var(--ink-soft);
  font: 12px/1.8 var(--sans);
  padding: 0 16px;
}
.compared :deep(.cm-collapsedLines)::before,
.compared :deep(.cm-collapsedLines)::after {
  content: '⋯';
  margin: 0 8px;
}
.compared :deep(.cm-mergeSpacer) {
  background: repeating-linear-gradient(135deg, transparent 0 5px, var(--rule-soft) 5px 6px);
}
button:disabled {
  opacity: 0.45;
}
</style>
