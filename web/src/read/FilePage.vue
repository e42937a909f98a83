<script setup lang="ts">
import { useQuery, useQueryClient } from '@tanstack/vue-query'
import { useEventListener, useLocalStorage } from '@vueuse/core'
import { computed, ref, useTemplateRef, watch } from 'vue'
import { useRoute, useRouter } from 'vue-router'
import { api, data } from '@/api/client'
import { describeKeys } from '@/frame/help'
import { useKeys } from '@/frame/keys'
import { notice } from '@/frame/notice'
import { includes, useRepository } from '@/frame/repository'
import { useAdding, useSelection } from '@/plans/adding'
import { lineSpan } from '@/words/format'
import { parseRange, writeRange, type Range } from '@/words/range'
import { Definition, NameCard, parseName, useLinks, useSummary, writeName, type NamePlace } from '@/told'
import Asset from './Asset.vue'
import Beside from './Beside.vue'
import { editorAddress, editorPattern } from './editor'
import Editor from './Editor.vue'
import Elsewhere from './Elsewhere.vue'
import FileCard from './FileCard.vue'
import FileHead from './FileHead.vue'
import FindBar from './FindBar.vue'
import Margin from './Margin.vue'
import { marksOf, notesOf } from './notes'
import Outline from './Outline.vue'
import Referrers from './Referrers.vue'
import type { Symbol } from './outline'
import CodePane from './pane/CodePane.vue'
import { useSkim, useText } from './pane/text'
import SkimBar from './SkimBar.vue'
import { assetOf } from './asset'
import { useFinding } from './useFinding'
import { useOutline } from './useOutline'
import { useSkimming } from './useSkimming'

/** From here on a function is intricate. */
const intricate = 8

const props = defineProps<{ path: string }>()
const repository = useRepository()
const route = useRoute()
const router = useRouter()
const adding = useAdding()
const id = computed(() => repository.value.id)
/** Another commit than the pin. */
const at = computed(() => (typeof route.query.at === 'string' && route.query.at !== repository.value.pin ? route.query.at : undefined))
const fileAt = computed(() => ({ repository: id.value, path: props.path, at: at.value }))
// the text is asked for before anything else, and the rest once it is there
const { isFetched: settled } = useText(fileAt)
const range = computed(() => parseRange(route.query.lines))
const total = ref(0)
const text = ref('')
const line = ref(range.value?.start ?? 1)
watch(range, (r) => r && (line.value = r.start))
const pane = useTemplateRef('pane')
const asset = computed(() => assetOf(props.path))
/** A place in the text is shown in its source. */
const plain = computed(() => !asset.value || route.query.as === 'source' || !!route.query.lines)

const { data: file, error } = useQuery({
  queryKey: computed(() => ['repository', id.value, 'file', props.path]),
  queryFn: ({ signal }) =>
    data(
      api.GET('/api/repositories/{repository}/file', { params: { path: { repository: id.value }, query: { path: props.path } }, signal }),
    ),
  enabled: computed(() => settled.value && !at.value),
})
const { data: since } = useQuery({
  queryKey: computed(() => ['repository', id.value, 'since', props.path, at.value ?? '']),
  queryFn: ({ signal }) =>
    data(
      api.GET('/api/repositories/{repository}/since', {
        params: { path: { repository: id.value }, query: { path: props.path, at: at.value } },
        signal,
      }),
    ),
  enabled: settled,
})
const { data: passages } = useQuery({
  queryKey: computed(() => ['plans', id.value, 'passages', props.path, at.value ?? '']),
  queryFn: ({ signal }) =>
    data(
      api.GET('/api/repositories/{repository}/passages', {
        params: { path: { repository: id.value }, query: { path: props.path, at: at.value } },
        signal,
      }),
    ),
  enabled: settled,
})
const { data: outline, error: outlineError } = useOutline(fileAt)
const { data: links, error: linksError } = useLinks(
  id,
  () => props.path,
  () => settled.value && !at.value,
)
const { data: summary } = useSummary(
  id,
  () => props.path,
  () => settled.value && !at.value,
)
const { data: skim } = useSkim(fileAt, plain)
const skimming = useSkimming(() => `${id.value} ${props.path} ${at.value ?? ''}`, skim)

// that it was opened is remembered for this person alone, and marks it on the Map
const queries = useQueryClient()
watch(
  () => file.value?.path,
  async (path) => {
    if (!path) return
    await api.PUT('/api/repositories/{repository}/opened', { params: { path: { repository: id.value } }, body: { path } })
    void queries.invalidateQueries({ queryKey: ['plans', id.value, 'marks'] })
  },
  { immediate: true },
)

const starts = computed(() => (at.value ? [] : (file.value?.leads.filter((l) => l.kind === 'entry-point') ?? [])))
const notes = computed(() => notesOf(passages.value ?? [], outline.value?.tagged ?? [], starts.value))
const marks = computed(() => marksOf(notes.value))
const noted = computed(() => (passages.value?.length ?? 0) + (outline.value?.tagged.length ?? 0) + starts.value.length)
/** Told to the margin alone: the page itself is not drawn anew while it scrolls. */
const geometry = { moved: ref(0) }
/** The symbols that are intricate and changed lately, by their first line. */
const hot = computed(() => {
  const out = new Set<number>()
  const s = skim.value
  for (const x of outline.value?.symbols ?? []) {
    if (!s || x.intricacy < intricate) continue
    const r = s.tells.findIndex((t, i) => t === x.name_line && s.kinds[i] === 'symbol')
    if (r > 0 && s.whys[r]!.includes('recent')) out.add(x.start)
  }
  return out
})

const name = computed(() => (at.value ? null : parseName(route.query.name)))
type Side = 'margin' | 'about' | 'name'
const side = ref<Side>('margin')
const quiet = useLocalStorage('juxtagram.quiet', false)
watch(name, (n) => !n && side.value === 'name' && (side.value = 'margin'))
const roomElement = document.createElement('div')
const room = computed(() => (name.value ? { line: name.value.line, element: roomElement } : null))
const definition = useTemplateRef('definition')

function select(r: Range | null) {
  void router.replace({ query: { ...route.query, lines: r ? writeRange(r) : undefined } })
}
function askName(p: NamePlace | null) {
  if (p && at.value) notice('Names are told at the pin; this is another commit.')
  else void router.replace({ query: { ...route.query, name: p ? writeName(p) : undefined } })
}
/** Where the reader was is kept with this entry of the history, for the way back. */
function leave() {
  history.replaceState({ ...history.state, top: pane.value?.topLine() ?? 1 }, '')
}
const top = computed(() => (route.fullPath && typeof history.state?.top === 'number' ? (history.state.top as number) : undefined))
function go(path: string, start: number, end = start) {
  leave()
  void router.push({ query: { path, lines: writeRange({ start, end }), ...(route.query.skim ? { skim: route.query.skim } : {}) } })
}
function jump(s: Symbol) {
  leave()
  void router.push({
    query: { ...route.query, name: undefined, lines: writeRange({ start: s.name_line, end: Math.max(s.name_line, s.end) }) },
  })
  pane.value?.focus()
}
useSelection(() => {
  const name = props.path.split('/').at(-1)!
  const lead = file.value?.leads.find((l) => l.line && range.value && l.line >= range.value.start && l.line <= range.value.end)
  const r = range.value && total.value ? { start: range.value.start, end: Math.min(range.value.end, total.value) } : null
  if (at.value) return null
  if (r && r.start <= r.end) {
    const title = lead?.kind === 'tagged-comment' ? lead.title : `${name}, lines ${lineSpan(r.start, r.end)}`
    return { kind: 'lines', path: props.path, ...r, title, lines: r.end - r.start + 1, why: lead?.why }
  }
  const first = file.value?.leads.find((l) => l.kind !== 'tagged-comment')
  const lines = skimming.lines.value ?? undefined
  return { kind: 'file', path: props.path, title: name, lines: lines ?? total.value, why: first?.why, skim: lines }
})
/** The address for a colleague names the commit, so that lines stay the same. */
async function copyAddress() {
  const q = new URLSearchParams({ path: props.path, at: at.value ?? repository.value.pin })
  if (range.value) q.set('lines', writeRange(range.value))
  if (skimming.lines.value !== null)
    q.set('skim', String(skimming.budget.value === 'screen' ? skimming.lines.value : skimming.budget.value))
  await navigator.clipboard.writeText(`${location.origin}/r/${id.value}/read?${q}`)
  notice('The address is copied; it leads to these lines at this very commit.')
}
async function copyPath() {
  const place = props.path + (range.value ? ':' + writeRange(range.value) : '')
  await navigator.clipboard.writeText(place)
  notice(`Copied: ${place}`)
}

const finding = useFinding(text, () => pane.value?.positionOf(pane.value.topLine()) ?? 0)
const bar = useTemplateRef('bar')
function find() {
  if (finding.open.value) bar.value?.focus()
  else finding.open.value = true
}
const besideOpen = ref(false)
const elsewhereOpen = ref(false)
const editorOpen = ref(false)
function editor() {
  const start = range.value?.start ?? line.value
  if (!editorPattern.value) editorOpen.value = true
  else location.assign(editorAddress(editorPattern.value, props.path, start, range.value?.end ?? start))
}
useKeys({
  l: () => pane.value?.focus(),
  q: () => (quiet.value = !quiet.value),
  '.': () => skimming.showAll(true),
  ',': () => skimming.showAll(false),
  '-': () => skimming.step(-10),
  '=': () => skimming.step(10),
  '+': () => skimming.step(10),
  g: () => definition.value?.go(),
  i: () => (side.value = side.value === 'about' ? 'margin' : 'about'),
  u: () => name.value && (side.value = 'name'),
  c: () => void copyPath(),
  f: find,
  'Mod+f': find,
  b: () => (besideOpen.value = true),
  t: () => (elsewhereOpen.value = true),
  e: editor,
  E: () => (editorOpen.value = true),
  x: () => name.value && extract(),
  Escape: () => (name.value ? askName(null) : range.value && select(null)),
})
function extract() {
  leave()
  void router.push({ name: 'extract', params: { repository: id.value }, query: { path: props.path, name: writeName(name.value!) } })
}
describeKeys('Reading', [
  ['l', 'to the lines'],
  ['↑ ↓', 'choose the line above or below; with Shift, more lines'],
  ['← →', 'step from name to name on the line'],
  ['Enter', 'what the name means, in place; on a folded line: open it'],
  ['g', 'go to the definition that is shown'],
  ['u', 'all uses of the name'],
  ['x', 'extract: the name with all it needs'],
  ['- =', 'ten lines fewer, ten more'],
  ['. ,', 'open all, and go back'],
  ['f', 'find in this file'],
  ['o', 'narrow the outline'],
  ['q', 'quieten the margin'],
  ['i', 'about this file, and back'],
  ['b', 'put something beside it'],
  ['t', 'the same place at another commit'],
  ['c', 'copy path and lines'],
  ['e E', 'open in your editor; set your editor'],
  ['a', 'add to the plan at hand'],
])
useEventListener(window, 'pagehide', leave)
</script>

<template>
  <div class="file" :class="{ quiet }">
    <Outline :outline="outline" :error="outlineError" :line="line" :marks="marks" :hot="hot" @jump="jump" />
    <div class="main">
      <FileHead
        :repository="id"
        :path="path"
        :pin="repository.pin"
        :at="at"
        :range="range"
        :total="total"
        :file="file"
        :outline="outline"
        :since="since"
        @copy-path="copyPath"
        @copy-address="copyAddress"
        @beside="besideOpen = true"
        @elsewhere="elsewhereOpen = true"
        @editor="editor"
        @find="find"
        @add="adding.current.value = adding.selected.value"
      >
        <SkimBar
          v-if="plain && skim && skim.order.length"
          :budget="skimming.budget.value"
          :lines="skimming.lines.value"
          :shown="skimming.shown.value"
          :total="skim.total"
          :by-hand="skimming.byHand.value"
          :whole="skimming.whole.value"
          @take="skimming.take"
          @step="skimming.step"
          @forget="skimming.forgetHand"
        />
      </FileHead>
      <FindBar
        v-if="finding.open.value"
        ref="bar"
        v-model="finding.typed.value"
        :total="finding.found.value.hits.length"
        :more="finding.found.value.more"
        :at="finding.at.value"
        :repository-wide="`/r/${id}/search?text=${encodeURIComponent(finding.typed.value)}`"
        @step="finding.step"
        @close="finding.open.value = false"
      />
      <Asset v-if="asset && !plain" :file="fileAt" :kind="asset" :bytes="file?.size" class="lines" />
      <CodePane
        v-else
        ref="pane"
        class="lines"
        :file="fileAt"
        :range="range"
        :marks="marks"
        :skim="skim?.order.length ? skim : null"
        :open="skimming.open.value"
        :name="name"
        :hits="finding.found.value.hits"
        :hit="finding.at.value"
        :room="room"
        :top="top"
        @select="select"
        @name="askName"
        @line="(n) => (line = n)"
        @fold="skimming.fold"
        @reveal="skimming.reveal"
        @moved="geometry.moved.value++"
        @screen="(n) => (skimming.screen.value = n)"
        @loaded="
          (n, t) => {
            total = n
            text = t
          }
        "
      >
        <template #unshown><Referrers :file="fileAt" /></template>
      </CodePane>
    </div>
    <Teleport v-if="name" :to="roomElement">
      <Definition
        ref="definition"
        :repository="id"
        :path="path"
        :place="name"
        @close="askName(null)"
        @go="go"
        @beside="
          (p, l) =>
            router.push({
              name: 'pair',
              params: { repository: id },
              query: { path, beside: p, lines: String(line), beside_lines: String(l) },
            })
        "
        @uses="side = 'name'"
        @extract="extract"
      />
    </Teleport>
    <aside v-if="!quiet" class="side">
      <div class="tabs" role="tablist">
        <button class="pick" role="tab" :aria-selected="side === 'margin'" :class="{ on: side === 'margin' }" @click="side = 'margin'">
          margin
        </button>
        <button
          class="pick"
          role="tab"
          :aria-selected="side === 'about'"
          :class="{ on: side === 'about' }"
          title="What it is, imports, links, history (i)"
          @click="side = 'about'"
        >
          about this file
        </button>
        <button
          v-if="name"
          class="pick"
          role="tab"
          :aria-selected="side === 'name'"
          :class="{ on: side === 'name' }"
          title="All that is known of it (u)"
          @click="side = 'name'"
        >
          uses
        </button>
        <span class="room" />
        <button class="link" title="Hide the margin (q)" @click="quiet = true">quieten <kbd>q</kbd></button>
      </div>
      <NameCard v-if="name && side === 'name'" :repository="id" :path="path" :place="name" @close="askName(null)" />
      <Margin
        v-else-if="side === 'margin'"
        :repository="id"
        :summary="at ? undefined : summary"
        :notes="notes"
        :total="noted"
        :line="line"
        :top="(n) => pane?.topOf(n) ?? 0"
        :geometry="geometry"
        @go="(n) => select({ start: n, end: n })"
      />
      <FileCard
        v-else
        :repository="id"
        :links="links"
        :writer="includes(repository.role, 'writer')"
        :links-error="linksError"
        :summary="summary"
        :file="file"
        :outline="outline"
        :error="error"
        :elsewhere="!!at"
      />
    </aside>
    <button v-else class="link unquiet" title="Show the margin (q)" @click="quiet = false">margin <kbd>q</kbd></button>
    <Beside v-if="besideOpen" v-model="besideOpen" :repository="id" :path="path" :at="at" :links="links" />
    <Elsewhere
      v-if="elsewhereOpen"
      v-model="elsewhereOpen"
      :repository="id"
      :path="path"
      :at="at"
      :range="range ?? { start: line, end: line }"
    />
    <Editor v-if="editorOpen" v-model="editorOpen" :path="path" :line="line" />
  </div>
</template>

<style scoped>
.file {
  height: 100%;
  display: grid;
  grid-template-columns: 214px minmax(0, 1fr) 306px;
  position: relative;
}
.file.quiet {
  grid-template-columns: 214px minmax(0, 1fr);
}
.main {
  display: flex;
  flex-direction: column;
  min-height: 0;
  min-width: 0;
}
.lines {
  flex: 1;
}
.side {
  border-left: 1px solid var(--rule);
  background: var(--sheet);
  display: flex;
  flex-direction: column;
  min-height: 0;
}
.side > :last-child {
  flex: 1;
  min-height: 0;
}
.tabs {
  display: flex;
  gap: 12px;
  padding: 9px 18px 6px 20px;
  border-bottom: 1px solid var(--rule-soft);
  font-size: 12.5px;
  white-space: nowrap;
}
.room {
  flex: 1;
}
.unquiet {
  position: absolute;
  right: 14px;
  bottom: 8px;
  background: var(--paper);
}
</style>
