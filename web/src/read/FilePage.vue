<script setup lang="ts">
import { useEventListener, useLocalStorage, useMediaQuery } from '@vueuse/core'
import { computed, ref, useTemplateRef, watch } from 'vue'
import { useRoute, useRouter } from 'vue-router'
import { ProblemError } from '@/api/client'
import Dialog from '@/frame/Dialog.vue'
import { describeKeys } from '@/frame/help'
import { useKeys } from '@/frame/keys'
import { notice } from '@/frame/notice'
import { includes, useRepository } from '@/frame/repository'
import { usePageTitle } from '@/frame/title'
import { useAdding, useSelection } from '@/plans/adding'
import { lineSpan } from '@/words/format'
import { parseRange, writeRange, type Range } from '@/words/range'
import { useAnnotating, useWrittenAbout } from '@/notes'
import { Definition, NameCard, parseName, writeName, type NamePlace } from '@/told'
import Asset from './Asset.vue'
import Beside from './Beside.vue'
import { editorAddress, editorPattern } from './editor'
import Editor from './Editor.vue'
import Elsewhere from './Elsewhere.vue'
import FileCard from './FileCard.vue'
import FileHead from './FileHead.vue'
import FindBar from './FindBar.vue'
import Margin from './Margin.vue'
import Outline from './Outline.vue'
import Referrers from './Referrers.vue'
import type { Symbol } from './outline'
import CodePane from './pane/CodePane.vue'
import Side from './Side.vue'
import { deskKeys, type Side as Turned } from './desk'
import SkimBar from './SkimBar.vue'
import { assetOf } from './asset'
import { useFile } from './useFile'
import { useFinding } from './useFinding'
import { useLineHistory } from './useLineHistory'
import { useSkimming } from './useSkimming'

const props = defineProps<{ path: string }>()
const repository = useRepository()
const route = useRoute()
const router = useRouter()
const adding = useAdding()
const annotating = useAnnotating()
const id = computed(() => repository.value.id)
/** Another commit than the pin. */
const at = computed(() => (typeof route.query.at === 'string' && route.query.at !== repository.value.pin ? route.query.at : undefined))
const fileAt = computed(() => ({ repository: id.value, path: props.path, at: at.value }))
const range = computed(() => parseRange(route.query.lines))
const total = ref(0)
const text = ref('')
const line = ref(range.value?.start ?? 1)
watch(range, (r) => r && (line.value = r.start))
const pane = useTemplateRef('pane')
const asset = computed(() => assetOf(props.path))
/** A place in the text is shown in its source. */
const plain = computed(() => !asset.value || route.query.as === 'source' || !!route.query.lines)

const { file, error, textError, since, outline, outlineError, links, linksError, summary, skim, notes, noted, marks, hot } = useFile(
  fileAt,
  plain,
  () => repository.value.pinned_at,
)
usePageTitle(() => props.path.split('/').at(-1)!)
// an address may name a folder where a file is asked for
watch(
  textError,
  (e) => {
    if (e instanceof ProblemError && e.problem.type === 'problems/is-folder')
      void router.replace({ query: { folder: props.path, at: at.value } })
  },
  { immediate: true },
)
const skimming = useSkimming(() => `${id.value} ${props.path} ${at.value ?? ''}`, skim)
/** Told to the margin alone: the page itself is not drawn anew while it scrolls. */
const geometry = { moved: ref(0) }

const name = computed(() => (at.value ? null : parseName(route.query.name)))
const side = ref<Turned>('margin')
const quiet = useLocalStorage('juxtagram.quiet', false)
/** Shows one of the sides, also where the margin was quiet. */
function turn(to: Turned) {
  quiet.value = false
  side.value = to
}
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
    return { kind: 'lines', path: props.path, ...r, title, lines: r.end - r.start + 1, why: lead?.why, symbols: outline.value?.symbols }
  }
  const first = file.value?.leads.find((l) => l.kind !== 'tagged-comment')
  const lines = skimming.lines.value ?? undefined
  if (asset.value === 'picture') return { kind: 'asset', path: props.path, title: name, lines: 0 }
  return { kind: 'file', path: props.path, title: name, lines: lines ?? total.value, why: first?.why, skim: lines }
})
useWrittenAbout(() => {
  const r = range.value ?? (total.value ? { start: line.value, end: line.value } : null)
  const end = r && total.value ? Math.min(r.end, total.value) : r?.end
  const symbols = outline.value?.symbols.map((s) => ({ qualified: s.qualified, kind: s.kind, start: s.start, end: s.end }))
  return { at: at.value, path: props.path, ...(plain.value && r && end ? { start: Math.min(r.start, end), end } : {}), symbols }
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

const lineHistory = useLineHistory(
  fileAt,
  line,
  () => repository.value.pinned_at,
  () => plain.value && total.value > 0,
)
const finding = useFinding(text, () => pane.value?.positionOf(pane.value.topLine()) ?? 0)
const bar = useTemplateRef('bar')
function find() {
  if (finding.open.value) bar.value?.focus()
  else finding.open.value = true
}
/** On a small screen the outline and the margin are sheets. */
const phone = useMediaQuery('(max-width: 700px)')
const outlining = ref(false)
const noting = ref(false)
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
  h: () => (lineHistory.shown.value = !lineHistory.shown.value),
  H: () => void router.push({ name: 'story', params: { repository: id.value }, query: { path: props.path } }),
  '.': () => skimming.showAll(true),
  ',': () => skimming.showAll(false),
  '-': () => skimming.step(-10),
  '=': () => skimming.step(10),
  '+': () => skimming.step(10),
  g: () => definition.value?.go(),
  i: () => turn(side.value === 'about' ? 'margin' : 'about'),
  u: () => name.value && turn('name'),
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
describeKeys('Reading', deskKeys)
useEventListener(window, 'pagehide', leave)
</script>

<template>
  <div class="file" :class="{ quiet }">
    <Outline v-if="!phone" :outline="outline" :error="outlineError" :line="line" :marks="marks" :hot="hot" @jump="jump" />
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
        @write="annotating.asked.value++"
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
      <p v-if="plain && lineHistory.shown.value" class="younger">
        <button class="link" title="The line history: which commit each line comes from" @click="lineHistory.shown.value = false">
          hide <kbd>h</kbd>
        </button>
        younger →
      </p>
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
        :wing="lineHistory.wing.value"
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
        @uses="turn('name')"
        @extract="extract"
      />
    </Teleport>
    <Dialog v-if="phone && outlining" title="Outline" @close="outlining = false">
      <Outline
        class="sheeted"
        :outline="outline"
        :error="outlineError"
        :line="line"
        :marks="marks"
        :hot="hot"
        @jump="(s) => ((outlining = false), jump(s))"
      />
    </Dialog>
    <Side v-if="phone ? noting : !quiet" v-model="side" :named="!!name" @quiet="phone ? (noting = false) : (quiet = true)">
      <NameCard v-if="name && side === 'name'" :repository="id" :path="path" :place="name" @close="side = 'margin'" />
      <Margin
        v-else-if="side === 'margin'"
        :repository="id"
        :summary="at ? undefined : summary"
        :notes="notes"
        :story="lineHistory.story.value"
        :bulk="lineHistory.told.value?.bulk ?? 0"
        :wide="lineHistory.told.value?.wide ?? 0"
        :skip-bulk="lineHistory.skipBulk.value"
        :unignored="lineHistory.told.value?.unignored ?? 0"
        :listed="lineHistory.told.value?.ignored.filter((i) => i.why === 'listed').length ?? 0"
        :total="noted"
        :line="line"
        :writer="includes(repository.role, 'writer')"
        :top="(n) => pane?.topOf(n) ?? 0"
        :geometry="geometry"
        @behind="lineHistory.behind"
        @forward="lineHistory.forward"
        @bulk="(on) => (lineHistory.skipBulk.value = on)"
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
    </Side>
    <p v-else-if="phone" class="turn">
      <button class="link" @click="outlining = true">outline</button> <button class="link" @click="noting = true">margin</button>
    </p>
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
.younger {
  flex: none;
  text-align: right;
  padding: 0 5px;
  font-size: 11.5px;
  line-height: 17px;
  color: var(--ochre-text);
}
.younger button {
  visibility: hidden;
  font-size: 11.5px;
}
.main:hover .younger button,
.younger button:focus-visible {
  visibility: visible;
}
.unquiet {
  position: absolute;
  right: 14px;
  bottom: 8px;
  background: var(--paper);
}
.turn {
  position: absolute;
  right: 10px;
  bottom: 8px;
  display: flex;
  gap: 16px;
  padding: 5px 12px;
  background: var(--sheet);
  border: 1px solid var(--rule);
  border-radius: var(--radius);
}
.sheeted {
  max-height: 64dvh;
  overflow: auto;
  border: 0;
}
@media (max-width: 1100px) {
  .file {
    grid-template-columns: 180px minmax(0, 1fr) 250px;
  }
  .file.quiet {
    grid-template-columns: 180px minmax(0, 1fr);
  }
}
@media (max-width: 700px) {
  .file,
  .file.quiet {
    grid-template-columns: minmax(0, 1fr);
  }
  .file > :deep(.side) {
    position: absolute;
    inset: 0;
    z-index: 10;
    background: var(--paper);
  }
}
</style>
