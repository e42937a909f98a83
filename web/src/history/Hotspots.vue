<script setup lang="ts">
import { keepPreviousData, useQuery } from '@tanstack/vue-query'
import { refDebounced } from '@vueuse/core'
import { computed, ref, watch } from 'vue'
import { useRoute, useRouter } from 'vue-router'
import { api, data, words, type Schemas } from '@/api/client'
import { describeKeys } from '@/frame/help'
import { useKeys } from '@/frame/keys'
import { useRepository } from '@/frame/repository'
import { useSelection } from '@/plans/adding'
import { count, date, many } from '@/words/format'
import { intricate } from './hotspots'
import Partners from './Partners.vue'
import Sections from './Sections.vue'

/** Where the code is both intricate and restless, and which files move
 * together, by rules that anybody can turn. */
const repository = useRepository()
const route = useRoute()
const router = useRouter()
const id = computed(() => repository.value.id)
const text = (v: unknown) => (typeof v === 'string' ? v : '')
const number = (v: unknown, otherwise: number) => (text(v) && Number.isFinite(Number(text(v))) ? Number(text(v)) : otherwise)
const rules = computed(() => ({
  days: number(route.query.days, 0),
  half_life: number(route.query.half_life, repository.value.half_life || 180),
  wide: number(route.query.wide, 40),
  generated: route.query.generated === 'true' || undefined,
  vendored: route.query.vendored === 'true' || undefined,
  no_tests: route.query.no_tests === 'true' || undefined,
  folder: text(route.query.folder) || undefined,
}))
const put = (q: Record<string, string | undefined>) => void router.replace({ query: { ...route.query, ...q } })
const { data: hot, error } = useQuery({
  queryKey: computed(() => ['repository', id.value, 'hotspots', rules.value]),
  queryFn: ({ signal }) =>
    data(api.GET('/api/repositories/{repository}/hotspots', { params: { path: { repository: id.value }, query: rules.value }, signal })),
  placeholderData: keepPreviousData,
  retry: false,
})
const chosen = computed(() => text(route.query.file))
const spans = [
  { days: 90, title: 'a quarter' },
  { days: 182, title: 'half a year' },
  { days: 365, title: 'a year' },
  { days: 730, title: 'two years' },
  { days: 0, title: 'all time' },
]
// typed numbers are asked for once the hand rests
function typed(name: 'half_life' | 'wide', min: number) {
  const value = ref<number | string>(rules.value[name])
  const calm = refDebounced(value, 250)
  watch(
    () => rules.value[name],
    (n) => (value.value = n),
  )
  watch(calm, (n) => {
    if (n !== '' && Number.isFinite(Number(n)) && Number(n) >= min && Number(n) !== rules.value[name]) put({ [name]: String(n) })
  })
  return value
}
const halfLife = typed('half_life', 1)
const wide = typed('wide', 0)
const rows = computed(() => hot.value?.rows ?? [])
const mostRecent = computed(() => Math.max(1e-9, ...rows.value.map((r) => r.recent)))
const mostWeight = computed(() => Math.max(1, ...rows.value.map((r) => r.weight)))
const left = (r: Schemas['HotspotInfo']) => `${((88 * Math.log1p(r.weight)) / Math.log1p(mostWeight.value)).toFixed(1)}px`
const right = (r: Schemas['HotspotInfo']) => `${((120 * r.recent) / mostRecent.value).toFixed(1)}px`
const name = (p: string) => p.slice(p.lastIndexOf('/') + 1)
const folder = (p: string) => p.slice(0, p.lastIndexOf('/') + 1)
const trends = { more: 'more often', less: 'less often', steady: '' }
const at = computed(() => rows.value.findIndex((r) => r.path === chosen.value))
const choose = (p: string) => put({ file: p === chosen.value ? undefined : p })
function step(by: number) {
  const n = Math.max(0, Math.min(rows.value.length - 1, at.value < 0 ? 0 : at.value + by))
  if (rows.value[n]) put({ file: rows.value[n]!.path })
  requestAnimationFrame(() => document.querySelector('.hot .on')?.scrollIntoView({ block: 'nearest' }))
}
const read = (p: string) => ({ name: 'read', params: { repository: id.value }, query: { path: p } })
useKeys({
  ArrowDown: () => step(1),
  ArrowUp: () => step(-1),
  Enter: () => chosen.value && router.push(read(chosen.value)),
  Escape: () => put({ file: undefined }),
})
describeKeys('Hotspots', [
  ['↑ ↓', 'the file above or below'],
  ['Enter', 'read it'],
  ['Esc', 'partners of all files again'],
  ['a', 'add it to the plan at hand'],
])
useSelection(() => {
  const r = rows.value[at.value]
  return r ? { kind: 'file', path: r.path, title: name(r.path), lines: Math.max(0, r.code), why: `hotspot: ${r.changes} changes` } : null
})
const table = (format: string) => {
  const q = new URLSearchParams({ format })
  for (const [k, v] of Object.entries(rules.value)) if (v !== undefined) q.set(k, String(v))
  return `/api/repositories/${id.value}/hotspots/table?${q}`
}
const leftOut = (why: string) => hot.value?.left_out.find((l) => l.why === why)?.files ?? 0
</script>

<template>
  <div class="hotspots">
    <Sections>
      <span class="room" />
      <span class="soft take">take away as <a :href="table('csv')" download>CSV</a> or <a :href="table('json')" download>JSON</a></span>
    </Sections>
    <div class="rules" aria-label="What counts">
      <span class="picks"
        >changes of
        <button
          v-for="s in spans"
          :key="s.days"
          class="pick"
          :aria-pressed="rules.days === s.days"
          @click="put({ days: s.days ? String(s.days) : undefined })"
        >
          {{ s.title }}
        </button></span
      >
      <label
        >counting half after
        <input v-model="halfLife" type="number" min="1" aria-label="Days after which a change counts half" /> days</label
      >
      <label
        >without commits over <input v-model="wide" type="number" min="0" aria-label="Files of a commit that is left out" /> files</label
      >
      <label
        ><input type="checkbox" :checked="!rules.no_tests" @change="put({ no_tests: rules.no_tests ? undefined : 'true' })" /> tests</label
      >
      <label
        ><input type="checkbox" :checked="!!rules.generated" @change="put({ generated: rules.generated ? undefined : 'true' })" />
        generated<span v-if="leftOut('generated')" class="soft"> ({{ leftOut('generated') }} left out)</span></label
      >
      <label
        ><input type="checkbox" :checked="!!rules.vendored" @change="put({ vendored: rules.vendored ? undefined : 'true' })" />
        vendored<span v-if="leftOut('vendored')" class="soft"> ({{ leftOut('vendored') }} left out)</span></label
      >
      <button v-if="rules.folder" class="link" @click="put({ folder: undefined })">all folders, not {{ rules.folder }} alone</button>
    </div>
    <p v-if="error" class="fault note" role="alert">{{ words(error) }}</p>
    <div v-else class="body">
      <section class="hot">
        <p class="soft" role="status">
          <template v-if="hot"
            >{{ many(hot.total, 'file') }} moved in {{ many(hot.commits, 'commit')
            }}<template v-if="hot.from"> from {{ date(hot.from) }}</template> to the pin; merges are left out<template v-if="hot.wide"
              >, and {{ many(hot.wide, 'commit') }} over {{ rules.wide }} files</template
            ><template v-if="leftOut('no code')">, and {{ many(leftOut('no code'), 'file') }} that are no code</template>.<template
              v-if="hot.total > rows.length"
            >
              The hottest {{ count(rows.length) }} are shown; the table has all.</template
            ></template
          ><template v-else>Reckoning …</template>
        </p>
        <div class="head soft" aria-hidden="true">
          <span>intricate</span><span>file</span><span>recent changes</span><span>score</span><span>trend</span>
        </div>
        <div class="list">
          <button
            v-for="r in rows"
            :key="r.path"
            class="row"
            :class="{ on: r.path === chosen }"
            :title="`${r.path}\n${r.changes} changes (${r.early} in the first half of the time, ${r.late} in the second), weighing ${r.recent.toFixed(1)}; ${intricate(r).sentence}`"
            @click="(e) => e.detail && choose(r.path)"
            @dblclick="router.push(read(r.path))"
          >
            <span class="bar left"
              ><span class="n">{{ intricate(r).bar }}</span
              ><i :style="{ width: left(r) }"
            /></span>
            <span class="name"
              ><b>{{ name(r.path) }}</b> <span class="soft">{{ folder(r.path) }}</span></span
            >
            <span class="bar right"
              ><i :style="{ width: right(r) }" /><span class="n">{{ r.recent.toFixed(1) }}</span></span
            >
            <span class="score">{{ r.score.toFixed(2) }}</span>
            <span class="soft">{{ trends[r.trend] }}</span>
          </button>
          <p v-if="hot && !rows.length" class="note soft">
            <template v-if="!hot.commits && hot.wide"
              >Every commit of that time changed more than {{ rules.wide }} files, as commits of whole releases do.
              <button class="link" @click="put({ wide: '0' })">count them all the same</button></template
            ><template v-else>No file that counts changed in that time.</template>
          </p>
        </div>
      </section>
      <Partners :repository="id" :rules="rules" :chosen="chosen" @all="put({ file: undefined })" />
    </div>
  </div>
</template>

<style scoped>
.hotspots {
  height: 100%;
  display: flex;
  flex-direction: column;
}
.room {
  flex: 1;
}
.take {
  font-size: 12.5px;
}
.rules {
  display: flex;
  flex-wrap: wrap;
  gap: 4px 20px;
  align-items: baseline;
  padding: 4px var(--gap) 8px;
  border-bottom: 1px solid var(--rule);
  font-size: 12.5px;
}
.picks {
  display: flex;
  gap: 9px;
}
input[type='number'],
select {
  width: 58px;
  font: inherit;
  color: inherit;
  background: var(--sheet);
  border: 1px solid var(--rule);
  border-radius: var(--radius);
  padding: 1px 4px;
}
.body {
  flex: 1;
  min-height: 0;
  display: grid;
  grid-template-columns: minmax(0, 1fr) 372px;
}
.hot {
  display: flex;
  flex-direction: column;
  min-height: 0;
}
.hot > p {
  padding: 7px var(--gap) 4px;
  font-size: 12.5px;
}
.head,
.row {
  display: grid;
  grid-template-columns: 150px minmax(0, 1fr) 170px 44px 74px;
  gap: 12px;
  padding: 0 14px 0 var(--gap);
  align-items: center;
}
.head {
  font-size: 11.5px;
  border-bottom: 1px solid var(--rule-soft);
}
.head span:first-child {
  text-align: right;
}
.list {
  flex: 1;
  min-height: 0;
  overflow: auto;
}
.row {
  width: 100%;
  height: 27px;
  border: 0;
  background: none;
  color: inherit;
  font: inherit;
  text-align: left;
  cursor: pointer;
  content-visibility: auto;
  contain-intrinsic-size: auto 27px;
}
.row:hover {
  background: var(--hover);
}
.row.on {
  background: var(--ochre-pale);
}
.bar {
  display: flex;
  align-items: center;
  gap: 6px;
}
.bar.left {
  justify-content: flex-end;
}
.bar i {
  height: 9px;
  flex: none;
  min-width: 1px;
}
.bar.left i {
  background: var(--teal);
}
.bar.right i {
  background: var(--ochre);
}
.bar.left .n {
  margin-left: auto;
}
.n {
  font-size: 11.5px;
  color: var(--ink-soft);
  white-space: nowrap;
}
.name {
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
}
.name .soft,
.row > .soft {
  font-size: 12px;
}
.note {
  padding: 14px var(--gap);
}
</style>
