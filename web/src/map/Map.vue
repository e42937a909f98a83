<script setup lang="ts">
import { useDebounceFn } from '@vueuse/core'
import { computed, ref, shallowRef, watch } from 'vue'
import { useRoute, useRouter } from 'vue-router'
import { ProblemError, words } from '@/api/client'
import SurveyState from '@/shelf/SurveyState.vue'
import { useKeys } from '@/frame/keys'
import { useRepository } from '@/frame/repository'
import { notice } from '@/frame/notice'
import { useSelection, type Candidate } from '@/plans/adding'
import { many } from '@/words/format'
import { fold, readAddress, writeAddress, type State } from './address'
import Card from './Card.vue'
import { Chart } from './chart'
import { isOn, markColumns, type Marked } from './filter'
import Filters from './Filters.vue'
import Head from './Head.vue'
import Juxtagram from './Juxtagram.vue'
import Legend from './Legend.vue'
import { happenedMeasures, isMeasures } from './measures'
import { picture } from './picture'
import { save, table, drawing, type Kind } from './export'
import Standing from './Standing.vue'
import { tiesByRow } from './ties'
import { useMapInfo, useMarks, useSpan, useTies } from './use'

const repository = useRepository()
const route = useRoute()
const router = useRouter()
const id = computed(() => repository.value.id)
const { data: info, error } = useMapInfo(id)
const { data: done } = useMarks(id)
const state = computed(() => readAddress(route.query))
const set = (change: Partial<State>, push = false) => {
  const to = { query: writeAddress({ ...state.value, ...change }) }
  void (push ? router.push(to) : router.replace(to))
}
// typing narrows at once, and the address follows when it pauses
const typed = ref<string | null>(null)
const settle = useDebounceFn((name: string) => {
  typed.value = null
  set({ name })
}, 250)
function change(c: Partial<State>) {
  if (c.name !== undefined && Object.keys(c).length === 1) {
    typed.value = c.name
    void settle(c.name)
  } else set(c)
}
const now = computed<State>(() => (typed.value === null ? state.value : { ...state.value, name: typed.value }))

const chart = shallowRef<Chart | null>(null)
watch(info, (i) => (chart.value = i ? new Chart(i) : null), { immediate: true })
const person = computed(() => (now.value.by ? (info.value?.people.findIndex((p) => p.name === now.value.by) ?? -1) : -1))
const seconds = (day: string) => Math.floor(Date.parse(day) / 1000)
const asked = computed(() => {
  const s = now.value
  if (!info.value?.timeline || !(s.from || s.to || person.value >= 0)) return null
  return { from: s.from ? seconds(s.from) : 0, to: s.to ? seconds(s.to) : 0, person: person.value }
})
const { data: span, error: spanError } = useSpan(id, asked)
const told = computed(() => (asked.value ? (span.value ?? null) : (info.value?.happened ?? null)))
const pin = computed(() => (info.value?.pin_at ? Date.parse(info.value.pin_at) / 1000 : (info.value?.timeline?.to ?? 0)))
const end = computed(() => (now.value.to ? Math.min(seconds(now.value.to), pin.value) : pin.value))

const marked = computed<Marked | null>(() => {
  const c = chart.value
  if (!c) return null
  const planned = new Uint8Array(c.size)
  const read = new Uint8Array(c.size)
  for (const p of done.value?.planned ?? []) {
    const r = c.row(p.path)
    if (r >= 0) planned[r] = Math.min(255, planned[r]! + 1)
  }
  for (const p of done.value?.read ?? []) {
    const r = c.row(p)
    if (r >= 0) read[r] = 1
  }
  return { planned, read }
})
const columns = computed(() => (chart.value && marked.value ? markColumns(chart.value, marked.value) : null))
const drawn = computed(() =>
  chart.value && marked.value && columns.value ? picture(chart.value, now.value, told.value, end.value, marked.value, columns.value) : null,
)

/** The line of the selected path: its own, or the one it is told together in. */
const selected = computed(() => {
  const c = chart.value
  if (!c || !drawn.value || !now.value.at) return -1
  const row = c.row(now.value.at)
  if (row < 0) return -1
  const own = drawn.value.lines.findIndex((l) => l.row === row && l.kind !== 'more')
  if (own >= 0) return own
  return drawn.value.lines.findIndex((l) => l.rows?.includes(row))
})
const row = computed(() => (chart.value && now.value.at ? chart.value.row(now.value.at) : -1))

// an address that names a path shows it, whatever is folded
const revealed = ref('')
watch(
  [chart, () => state.value.at],
  () => {
    const c = chart.value
    const s = state.value
    if (!c || !s.at || revealed.value === s.at || s.order !== 'tree') return
    revealed.value = s.at
    const at = c.row(s.at)
    if (at < 0 || !drawn.value || drawn.value.lines.some((l) => l.row === at && l.kind !== 'more')) return
    const open = new Set(s.open)
    for (let up = c.parent[at]!; up >= 0; up = c.parent[up]!) open.add(c.path(up))
    const parent = c.parent[at]!
    open.add(`${parent < 0 ? '' : c.path(parent)}/*`)
    set({ open: [...open], shut: s.shut.filter((p) => !open.has(p)) })
  },
  { immediate: true },
)

function select(index: number) {
  const l = drawn.value?.lines[index]
  if (!l || !chart.value) return
  if (l.kind === 'more') return unfold(index)
  const at = chart.value.path(l.row)
  revealed.value = at
  set({ at })
}
function unfold(index: number) {
  const l = drawn.value?.lines[index]
  const c = chart.value
  if (!l || !c) return
  if (l.kind === 'more') {
    const parent = c.parent[l.row]!
    return set(fold(state.value, `${parent < 0 ? '' : c.path(parent)}/*`, true))
  }
  if (l.kind === 'folder') set(fold(state.value, c.path(l.row), !l.open))
}
function open(index: number) {
  const l = drawn.value?.lines[index]
  if (!l || !chart.value) return
  const path = chart.value.path(l.row)
  if (l.kind === 'file') void router.push({ name: 'read', params: { repository: id.value }, query: { path } })
  else unfold(index)
}
const cursor = ref(-1) // the line that the keys are on: of the selection, or of siblings told together
watch(selected, (s) => (cursor.value = s), { immediate: true })
function step(by: number) {
  const lines = drawn.value?.lines
  if (!lines?.length) return
  const from = cursor.value < 0 ? (by > 0 ? -1 : lines.length) : cursor.value
  const to = Math.max(0, Math.min(lines.length - 1, from + by))
  cursor.value = to
  hover.value = -1
  if (lines[to]!.kind !== 'more') select(to)
}
function left() {
  const lines = drawn.value?.lines
  const l = lines?.[cursor.value]
  if (!lines || !l) return
  if (l.open) return unfold(cursor.value)
  for (let i = cursor.value - 1; i >= 0; i--) if (lines[i]!.depth < l.depth) return select(i)
}
function right() {
  const l = drawn.value?.lines[cursor.value]
  if (l && l.kind !== 'file' && !l.open) unfold(cursor.value)
  else step(1)
}
useKeys({
  ArrowDown: () => step(1),
  ArrowUp: () => step(-1),
  PageDown: () => step(15),
  PageUp: () => step(-15),
  Home: () => step(-1e9),
  End: () => step(1e9),
  ArrowRight: right,
  ArrowLeft: left,
  Enter: () => open(cursor.value),
  Escape: () => set({ at: '' }),
})

const hover = ref(-1)
const readout = computed(() => {
  const c = chart.value
  const l = drawn.value?.lines[hover.value >= 0 ? hover.value : cursor.value]
  if (!c || !l) return ''
  if (l.rows) return `${l.rows.length} more in ${c.parent[l.row]! < 0 ? 'the root' : c.path(c.parent[l.row]!)}: Enter or a click shows them`
  const r = l.row
  const parts = [c.path(r) + (c.isFolder(r) ? '/' : '')]
  if (c.isFolder(r)) {
    const p = drawn.value!
    parts.push(`${p.leftMeasure.title} ${p.leftMeasure.write(p.left[r]!)}`, `${p.rightMeasure.title} ${p.rightMeasure.write(p.right[r]!)}`)
  } else {
    for (const m of isMeasures) {
      const v = m.column(c)[r]!
      if (v >= 0) parts.push(`${m.title} ${m.write(v * m.unit)}`)
    }
    if (told.value) {
      for (const m of happenedMeasures) {
        const v = oneValue(m.key, r)
        if (!Number.isNaN(v)) parts.push(`${m.title} ${m.write(v)}`)
      }
    }
  }
  const p = drawn.value!
  if (p.rank && !Number.isNaN(p.rank[r]!))
    parts.push(`ranks ${Math.abs(Math.round(p.rank[r]! * 100))} % ${p.rank[r]! > 0 ? 'higher' : 'lower'} on the left`)
  return parts.join(' · ')
})
/** One row's value, without reckoning the whole column. */
function oneValue(key: string, r: number): number {
  const s = told.value!
  const pick = <T,>(list: T[]) => [list[r]!]
  const one = {
    ...s,
    changes: pick(s.changes),
    churn: pick(s.churn),
    people: pick(s.people),
    recent: pick(s.recent),
    first: pick(s.first),
    last: pick(s.last),
  }
  return happenedMeasures.find((m) => m.key === key)!.values(one, end.value)[0]!
}

const { data: tieInfo, error: tieError } = useTies(id, () => (now.value.ties && row.value >= 0 ? now.value.at : ''))
const ties = computed(() => (chart.value && tieInfo.value && now.value.at && now.value.ties ? tiesByRow(chart.value, tieInfo.value) : null))
const tied = computed(() => new Set((tieInfo.value?.rows ?? []).map((r) => chart.value?.path(r) ?? '')))

const candidate = computed<Candidate | null>(() => {
  const c = chart.value
  if (!c || row.value < 0) return null
  const folder = c.isFolder(row.value)
  const lines = folder
    ? drawn.value && now.value.left === 'lines' && now.value.folders === 'sum'
      ? drawn.value.left[row.value]!
      : 0
    : c.info.lines[row.value]!
  return {
    kind: folder ? 'folder' : 'file',
    path: now.value.at,
    title: c.name(row.value),
    lines: Math.max(0, folder ? Math.min(500, lines || 0) : lines),
  }
})
useSelection(() => candidate.value)

const files = computed(() => (chart.value ? chart.value.size - chart.value.below.reduce((n, b) => n + Number(b > 0), 0) : 0))
const shownFiles = computed(() => {
  const p = drawn.value
  const c = chart.value
  if (!p || !c || !p.keep) return files.value
  let n = 0
  for (let i = 0; i < c.size; i++) if (!c.isFolder(i) && p.keep[i]) n++
  return n
})
async function take(kind: Kind) {
  const c = chart.value
  const p = drawn.value
  if (!c || !p) return
  const name = `${repository.value.name}-map`
  if (kind === 'csv') return save(`${name}.csv`, table(c, p, told.value, end.value), 'text/csv')
  const d = drawing(c, p, now.value, `${repository.value.name} at ${repository.value.pin_ref || repository.value.pin.slice(0, 10)}`)
  if (d.left) notice(`The picture holds the first ${d.drawn} rows; ${many(d.left, 'row')} more would not fit. The CSV has all.`)
  await save(`${name}.${kind}`, d.svg, kind === 'svg' ? 'image/svg+xml' : 'image/png')
}
const outdated = computed(() => error.value instanceof ProblemError && error.value.status === 409)
const unfinished = computed(() => info.value && info.value.state !== 'complete')
</script>

<template>
  <div class="map">
    <div v-if="error" class="page">
      <SurveyState v-if="outdated && repository.survey_now" :survey="repository.survey_now" :outdated="words(error)" />
      <p v-else class="fault" role="alert">{{ words(error) }}</p>
    </div>
    <p v-else-if="!chart || !drawn" class="page soft">Drawing the map …</p>
    <p v-else-if="!chart.size" class="page soft">
      {{ unfinished ? 'The survey has not listed the tree yet: the map comes with it.' : 'There is no file at this pin.' }}
    </p>
    <template v-else>
      <section class="picture">
        <Filters :chart="chart" :state="now" :people="info!.people" :shown="shownFiles" :total="files" @set="change">
          <span class="room" />
          <a-dropdown :trigger="['click']">
            <button class="link">take away ▾</button>
            <template #overlay>
              <a-menu>
                <a-menu-item key="svg" @click="take('svg')">The picture as SVG</a-menu-item>
                <a-menu-item key="png" @click="take('png')">The picture as PNG</a-menu-item>
                <a-menu-item key="csv" @click="take('csv')">All figures as CSV</a-menu-item>
              </a-menu>
            </template>
          </a-dropdown>
        </Filters>
        <Head :state="now" :timeline="info!.timeline" :pin-at="info!.pin_at" @set="(c) => set(c)" />
        <p v-if="unfinished" class="told soft">The survey is not complete: what is not known yet is left blank.</p>
        <p v-if="spanError" class="told fault">{{ words(spanError) }}</p>
        <p v-if="!drawn.lines.length" class="told soft">
          <template v-if="isOn(now)"
            >No file fits.
            <button class="link" @click="set({ name: '', role: '', language: '', by: '', mark: '' })">Show all</button></template
          >
          <template v-else>No file leans that way.</template>
        </p>
        <Juxtagram
          :chart="chart"
          :picture="drawn"
          :scale="now.scale"
          :folders="now.folders"
          :flat="now.order !== 'tree'"
          :selected="cursor"
          :ties="ties"
          @select="select"
          @toggle="unfold"
          @open="open"
          @hover="(i) => (hover = i)"
        />
        <Legend
          :state="now"
          :picture="drawn"
          :ties="ties"
          :selected-name="row >= 0 ? chart.name(row) : ''"
          :tie-fault="tieError ? words(tieError) : ''"
          :readout="readout"
          @set="(c) => set(c)"
        />
      </section>
      <Card
        v-if="row >= 0"
        :repository="id"
        :path="now.at"
        :folder="chart.isFolder(row)"
        :planned="done?.planned ?? []"
        :tied="tied"
        :candidate="candidate!"
        @close="set({ at: '' })"
        @open="
          chart.isFolder(row)
            ? router.push({ name: 'read', params: { repository: id }, query: { folder: now.at } })
            : router.push({ name: 'read', params: { repository: id }, query: { path: now.at } })
        "
      />
      <Standing v-else :chart="chart" :span="info!.happened" :end="end" @select="(r) => set({ at: chart!.path(r) })" />
    </template>
  </div>
</template>

<style scoped>
.map {
  height: 100%;
  display: grid;
  grid-template-columns: minmax(0, 1fr) 344px;
  --wings: minmax(0, 1fr) minmax(236px, 0.9fr) minmax(0, 1fr);
  --axis: var(--ink-soft);
}
@media (min-width: 1600px) {
  .map {
    grid-template-columns: minmax(0, 1fr) 420px;
  }
}
@media (max-width: 1100px) {
  .map {
    grid-template-columns: minmax(0, 1fr) 280px;
    --wings: minmax(0, 1fr) minmax(210px, 1fr) minmax(0, 1fr);
  }
}
.picture {
  display: flex;
  flex-direction: column;
  min-height: 0;
  min-width: 0;
}
.picture :deep(.pane) {
  padding-left: var(--gap);
}
.told {
  padding: 6px var(--gap);
}
.room {
  flex: 1;
}
</style>
