<script setup lang="ts">
import { useQuery } from '@tanstack/vue-query'
import { computed, nextTick, useTemplateRef } from 'vue'
import { useRoute, useRouter } from 'vue-router'
import { api, data, words } from '@/api/client'
import { describeKeys } from '@/frame/help'
import { useKeys } from '@/frame/keys'
import { useRepository } from '@/frame/repository'
import { useOutline } from '@/read/useOutline'
import { count, date, many, short } from '@/words/format'
import Diff from './Diff.vue'
import Heat from './Heat.vue'
import Sections from './Sections.vue'

/** The story of one file, or of one symbol of it: its commits across renames,
 * where it changed, and any two of its versions compared. */
const repository = useRepository()
const route = useRoute()
const router = useRouter()
const text = (v: unknown) => (typeof v === 'string' ? v : '')
const id = computed(() => repository.value.id)
const path = computed(() => text(route.query.path))
const symbol = computed(() => text(route.query.symbol))
const put = (q: Record<string, string | undefined>) => void router.replace({ query: { ...route.query, ...q } })
const { data: story, error } = useQuery({
  queryKey: computed(() => ['repository', id.value, 'file-story', path.value, symbol.value]),
  queryFn: ({ signal }) =>
    data(
      api.GET('/api/repositories/{repository}/log/file', {
        params: { path: { repository: id.value }, query: { path: path.value, symbol: symbol.value || undefined } },
        signal,
      }),
    ),
  enabled: computed(() => !!path.value),
  retry: false,
})
const { data: outline } = useOutline(() => ({ repository: id.value, path: path.value }))
const mostSymbols = 500
const symbols = computed(() => (outline.value?.symbols ?? []).map((s) => s.qualified))
const rows = computed(() => story.value?.rows ?? [])
const at = computed(() =>
  Math.max(
    0,
    rows.value.findIndex((r) => r.id === route.query.commit),
  ),
)
const other = computed(() => rows.value.findIndex((r) => r.id === route.query.other))
/** What is compared: a version with the one before it, or with another. */
const pair = computed(() => {
  const b = rows.value[at.value]
  if (!b) return null
  const a = rows.value[other.value]
  if (!a || a.id === b.id) return { from: b.parent, fromPath: b.old_path || b.path, to: b.id, path: b.path, both: false }
  const [older, newer] = other.value > at.value ? [a, b] : [b, a]
  return { from: older.id, fromPath: older.path, to: newer.id, path: newer.path, both: true }
})
const list = useTemplateRef('list')
async function go(n: number) {
  const to = Math.max(0, Math.min(rows.value.length - 1, n))
  put({ commit: rows.value[to]?.id })
  await nextTick()
  list.value?.querySelector(`[data-n="${to}"]`)?.scrollIntoView({ block: 'nearest' })
}
const mark = () => put({ other: rows.value[at.value]?.id === route.query.other ? undefined : rows.value[at.value]?.id })
const beside = computed(() => route.query.as === 'beside')
const space = computed(() => route.query.space === 'ignored')
useKeys({
  ArrowDown: () => void go(at.value + 1),
  ArrowUp: () => void go(at.value - 1),
  j: () => void go(at.value + 1),
  k: () => void go(at.value - 1),
  m: mark,
  v: () => put({ as: beside.value ? undefined : 'beside' }),
  w: () => put({ space: space.value ? undefined : 'ignored' }),
  Enter: () =>
    pair.value &&
    void router.push({ name: 'commit', params: { repository: id.value, commit: pair.value.to }, query: { path: pair.value.path } }),
})
describeKeys('A story', [
  ['↓ ↑', 'the version before, the one after'],
  ['m', 'mark a version to compare others with'],
  ['v', 'one below the other, or side by side'],
  ['w', 'ignore white space, or not'],
  ['Enter', 'open the commit'],
])
const most = computed(() => Math.max(1, ...rows.value.map((r) => r.added + r.deleted)))
const share = (n: number) => `${((100 * Math.log1p(Math.max(0, n))) / Math.log1p(most.value)).toFixed(1)}%`
</script>

<template>
  <div class="story">
    <Sections />
    <header>
      <h1>
        The story of <span class="mono">{{ path }}</span>
      </h1>
      <p v-if="story" class="soft">
        {{ many(story.total, 'commit') }}<template v-if="rows.length">, {{ date(rows.at(-1)!.time) }} to {{ date(rows[0]!.time) }}</template
        >, followed back from the pin across its renames, merges left out.
        <label v-if="symbols.length"
          >of
          <select :value="symbol" @change="put({ symbol: ($event.target as HTMLSelectElement).value || undefined, commit: undefined })">
            <option value="">the whole file</option>
            <option v-for="s in symbols.slice(0, mostSymbols)" :key="s" :value="s">{{ s }}</option>
            <option v-if="symbols.length > mostSymbols" disabled>
              {{ count(symbols.length - mostSymbols) }} more are not offered here
            </option>
          </select></label
        >
        <router-link
          :to="{
            name: 'read',
            params: { repository: id },
            query: { path, ...(story.start ? { lines: `${story.start}-${story.end}` } : {}) },
          }"
          >read it</router-link
        >
        <router-link :to="{ name: 'history', params: { repository: id }, query: { keep: [`path:${path}`] } }">in the log</router-link>
      </p>
      <p v-if="story?.rough" class="soft">
        Side branches changed it at the same time: in older commits, lines may be taken for their neighbours.
      </p>
    </header>
    <p v-if="error" class="fault note" role="alert">{{ words(error) }}</p>
    <p v-else-if="!story" class="soft note">Following it back …</p>
    <p v-else-if="!rows.length" class="note">
      {{
        symbol
          ? `No commit that is known touched the lines of ${symbol} since they were made.`
          : 'No commit that is known changed it: merges alone may have brought it.'
      }}
    </p>
    <div v-else class="body">
      <div ref="list" class="list">
        <button
          v-for="(r, n) in rows"
          :key="r.id"
          class="row"
          :class="{ on: n === at, other: n === other }"
          :data-n="n"
          :aria-current="n === at"
          @click="(e) => e.detail && go(n)"
        >
          <span class="soft day">{{ date(r.time) }}</span>
          <span class="says"
            ><span v-if="n === other" class="flag">marked</span>{{ r.subject || '(no message)' }}
            <span v-if="r.old_path" class="soft">· before: {{ r.old_path }}</span
            ><span v-else-if="r.status === 'added'" class="soft">· made here</span></span
          >
          <span class="soft who">{{ r.person }}</span>
          <span class="size" :title="`+${count(r.added)} −${count(r.deleted)}`"><i :style="{ width: share(r.added + r.deleted) }" /></span>
        </button>
        <p v-if="story.total > rows.length" class="soft note">{{ count(story.total - rows.length) }} older ones are not listed.</p>
      </div>
      <div class="right">
        <section v-if="story.heat.length && story.lines" class="hot">
          <h3>Where it changes</h3>
          <Heat
            :heat="story.heat"
            :lines="story.lines"
            :from="story.since ?? rows.at(-1)!.time"
            :to="repository.pinned_at ?? rows[0]!.time"
            @part="(a, b) => router.push({ name: 'read', params: { repository: id }, query: { path, lines: `${a}-${b}` } })"
          />
        </section>
        <section v-if="pair" class="what">
          <div class="tools">
            <b v-if="pair.both">Two versions</b>
            <b v-else>What {{ short(pair.to) }} did to it</b>
            <button class="link" @click="mark">{{ other === at ? 'unmark' : 'mark to compare' }} <kbd>m</kbd></button>
            <button v-if="other >= 0" class="link" @click="put({ other: undefined })">no mark</button>
            <span class="room" />
            <label
              ><input type="checkbox" :checked="space" @change="put({ space: space ? undefined : 'ignored' })" /> ignore white space</label
            >
            <span class="picks"
              ><button class="pick" :aria-pressed="!beside" @click="put({ as: undefined })">one below the other</button>
              <button class="pick" :aria-pressed="beside" @click="put({ as: 'beside' })">side by side</button></span
            >
          </div>
          <Diff
            :key="`${pair.from} ${pair.to}`"
            :from="pair.from"
            :to="pair.to"
            :path="pair.path"
            :old-path="pair.fromPath"
            :side-by-side="beside"
            :ignore-space="space"
            :at="-1"
          />
        </section>
      </div>
    </div>
  </div>
</template>

<style scoped>
.story {
  height: 100%;
  display: flex;
  flex-direction: column;
}
header {
  padding: 2px var(--gap) 10px;
  border-bottom: 1px solid var(--rule);
}
header p {
  display: flex;
  flex-wrap: wrap;
  gap: 4px 14px;
  align-items: baseline;
}
h1 {
  font-size: 20px;
}
h1 .mono {
  font-size: 16px;
}
.body {
  flex: 1;
  min-height: 0;
  display: grid;
  grid-template-columns: minmax(0, 5fr) minmax(0, 7fr);
}
.list,
.right {
  overflow: auto;
  min-height: 0;
}
.list {
  border-right: 1px solid var(--rule);
}
.row {
  display: grid;
  grid-template-columns: 88px minmax(0, 1fr) 92px 52px;
  gap: 8px;
  align-items: center;
  width: 100%;
  height: 30px;
  padding: 0 12px 0 var(--gap);
  border: 0;
  background: none;
  color: inherit;
  font: inherit;
  text-align: left;
  cursor: pointer;
  content-visibility: auto;
  contain-intrinsic-size: auto 30px;
}
.row:hover {
  background: var(--hover);
}
.row.on {
  background: var(--ochre-pale);
}
.day,
.who {
  font-size: 12.5px;
}
.says,
.who {
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
}
.flag {
  border: 1px solid var(--ink);
  padding: 0 5px;
  margin-right: 6px;
  font-size: 11.5px;
}
.size {
  border-left: 1px solid var(--rule);
}
.size i {
  display: block;
  height: 8px;
  background: var(--ochre-mid);
}
.hot {
  padding: 10px 16px;
  border-bottom: 1px solid var(--rule);
}
.what {
  background: var(--sheet);
}
.tools {
  display: flex;
  flex-wrap: wrap;
  gap: 4px 14px;
  align-items: baseline;
  padding: 7px 14px;
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
  padding: 12px var(--gap);
}
select {
  max-width: 260px;
  font: inherit;
  background: var(--sheet);
  color: inherit;
  border: 1px solid var(--rule);
}
</style>
