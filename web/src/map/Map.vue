<script setup lang="ts">
import { useDebounceFn } from '@vueuse/core'
import { computed, ref, shallowRef, watch } from 'vue'
import { useRoute, useRouter } from 'vue-router'
import { ProblemError, words } from '@/api/client'
import SurveyState from '@/shelf/SurveyState.vue'
import { useRepository } from '@/frame/repository'
import { notice } from '@/frame/notice'
import { useWrittenAbout } from '@/notes'
import { useSelection, type Candidate } from '@/plans/adding'
import { useCovered } from '@/plans/covering'
import { usePlanAtHand } from '@/plans/use'
import { many, short } from '@/words/format'
import { readAddress, writeAddress, type State } from './address'
import Card from './Card.vue'
import { Chart } from './chart'
import { isOn, markColumns, markedRows } from './filter'
import Filters from './Filters.vue'
import Head from './Head.vue'
import Juxtagram from './Juxtagram.vue'
import Legend from './Legend.vue'
import { picture } from './picture'
import { save, table, drawing, type Kind } from './export'
import { figures } from './readout'
import Standing from './Standing.vue'
import { tiedFolders, tiesByRow } from './ties'
import { useRows } from './rows'
import { useMapInfo, useMarks, useSpan, useTies } from './use'

const repository = useRepository()
const route = useRoute()
const router = useRouter()
const id = computed(() => repository.value.id)
const { data: info, error } = useMapInfo(id)
const { data: done } = useMarks(id)
const { plan: atHand } = usePlanAtHand(id)
const { data: covered } = useCovered(
  id,
  () => atHand.data.value?.id ?? 0,
  () => (atHand.data.value?.may_write ? 'draft' : undefined),
  () => atHand.data.value?.seq ?? 0,
)
const planTitle = computed(() => (covered.value && atHand.data.value ? atHand.data.value.title || 'the plan at hand' : ''))
const state = computed(() => readAddress(route.query))
const set = (change: Partial<State>) => void router.replace({ query: writeAddress({ ...state.value, ...change }) })
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

const marked = computed(() => (chart.value ? markedRows(chart.value, done.value, covered.value) : null))
const columns = computed(() => (chart.value && marked.value ? markColumns(chart.value, marked.value) : null))
/** The state as far as the picture depends on it: moving from row to row draws
 * nothing anew. */
const shape = computed<State>((before) => {
  const next = { ...now.value, at: '', ties: true }
  return before && JSON.stringify(before) === JSON.stringify(next) ? before : next
})
const drawn = computed(() =>
  chart.value && marked.value && columns.value
    ? picture(chart.value, shape.value, told.value, end.value, marked.value, columns.value)
    : null,
)

const { row, cursor, hover, select, unfold, open } = useRows(chart, drawn, state, set, (path) => {
  void router.push({ name: 'read', params: { repository: id.value }, query: { path } })
})

const readout = computed(() => {
  const line = drawn.value?.lines[hover.value >= 0 ? hover.value : cursor.value]
  return chart.value && drawn.value && line ? figures(chart.value, drawn.value, line, told.value, end.value) : ''
})

const { data: tieInfo, error: tieError } = useTies(id, () => (row.value >= 0 ? now.value.at : ''))
const ties = computed(() => (chart.value && tieInfo.value && now.value.at && now.value.ties ? tiesByRow(chart.value, tieInfo.value) : null))
const tied = computed(() => (tieInfo.value ? new Set(tieInfo.value.rows.map((r) => chart.value?.path(r) ?? '')) : null))

const around = computed(() => {
  const c = chart.value
  const i = tieInfo.value
  const known = c && i && now.value.at && c.isFolder(row.value)
  return {
    leans: known ? tiedFolders(c, i, 'leans_on') : [],
    used: known ? tiedFolders(c, i, 'used_by') : [],
    tagged: row.value >= 0 ? (columns.value?.tagged[row.value] ?? 0) : 0,
  }
})

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
useWrittenAbout(() => ({ path: candidate.value?.path ?? '', folder: candidate.value?.kind !== 'file' }))

/** What becomes of the leads of the selected file, or of all below the folder. */
const coversHere = computed(() => {
  const m = marked.value
  const c = chart.value
  const sum = { open: 0, here: 0, elsewhere: 0, aside: 0 }
  if (m && c && row.value >= 0)
    for (const k of Object.keys(sum) as (keyof typeof sum)[]) for (let r = row.value; r < c.end(row.value); r++) sum[k] += m.covers[k][r]!
  return sum
})

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
  const d = drawing(c, p, now.value, `${repository.value.name} at ${repository.value.pin_ref || short(repository.value.pin)}`)
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
        <Filters :chart="chart" :state="now" :people="info!.people" :shown="shownFiles" :total="files" :plan="planTitle" @set="change">
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
        <p v-if="now.by && info!.people.length && person < 0" class="told soft">Nobody in this history is called {{ now.by }}.</p>
        <p v-if="spanError" class="told fault">{{ words(spanError) }}</p>
        <p v-if="!drawn.lines.length" class="told soft">
          <template v-if="isOn(now)"
            >No file fits.
            <button class="link" @click="set({ name: '', role: '', language: '', by: '', mark: '', covers: '' })">
              Show all
            </button></template
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
          :plan="planTitle"
          @set="(c) => set(c)"
        />
      </section>
      <Card
        v-if="row >= 0"
        :repository="id"
        :path="now.at"
        :folder="chart.isFolder(row)"
        :planned="done?.planned ?? []"
        :written="done?.written ?? []"
        :tied="tied"
        :around="around"
        :candidate="candidate!"
        :plan="atHand.data.value && covered ? atHand.data.value : null"
        :covers="coversHere"
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
