<script setup lang="ts">
import { keepPreviousData, useQuery, useQueryClient } from '@tanstack/vue-query'
import { computed, ref } from 'vue'
import { useRoute, useRouter } from 'vue-router'
import { api, data, words, type Schemas } from '@/api/client'
import { notice } from '@/frame/notice'
import { includes, useRepository } from '@/frame/repository'
import { age, count, date, many } from '@/words/format'
import Pulse from './Pulse.vue'
import Sections from './Sections.vue'

/** Whom to ask about a place, and the places that hardly anybody knows. */
const repository = useRepository()
const route = useRoute()
const router = useRouter()
const queries = useQueryClient()
const id = computed(() => repository.value.id)
const keeper = computed(() => includes(repository.value.role, 'keeper'))
const hidden = computed(() => repository.value.people_hidden)
const text = (v: unknown) => (typeof v === 'string' ? v : '')
const number = (v: unknown, otherwise: number) => Number(text(v)) || otherwise
const place = computed(() => text(route.query.path))
const silent = computed(() => number(route.query.silent, 365))
const days = computed(() => number(route.query.days, 0))
const put = (q: Record<string, string | undefined>) => void router.replace({ query: { ...route.query, ...q } })
const params = computed(() => ({ path: { repository: id.value } }))
const half = computed(() => repository.value.half_life || 180)
const { data: known, error } = useQuery({
  queryKey: computed(() => ['repository', id.value, 'knowers', place.value, silent.value, days.value, half.value]),
  queryFn: ({ signal }) =>
    data(
      api.GET('/api/repositories/{repository}/knowers', {
        params: { ...params.value, query: { path: place.value, silent: silent.value, days: days.value, half_life: half.value } },
        signal,
      }),
    ),
  enabled: computed(() => !hidden.value),
  placeholderData: keepPreviousData,
  retry: false,
})
const { data: little } = useQuery({
  queryKey: computed(() => ['repository', id.value, 'little-known', silent.value, half.value]),
  queryFn: ({ signal }) =>
    data(
      api.GET('/api/repositories/{repository}/little-known', {
        params: { ...params.value, query: { silent: silent.value, half_life: half.value } },
        signal,
      }),
    ),
  enabled: computed(() => !hidden.value),
  placeholderData: keepPreviousData,
  retry: false,
})
const { data: joins } = useQuery({
  queryKey: computed(() => ['repository', id.value, 'people-joined']),
  queryFn: ({ signal }) => data(api.GET('/api/repositories/{repository}/people-joined', { params: params.value, signal })),
  enabled: computed(() => !hidden.value),
  retry: false,
})
const { data: below } = useQuery({
  queryKey: computed(() => ['repository', id.value, 'folder', place.value]),
  queryFn: ({ signal }) =>
    data(api.GET('/api/repositories/{repository}/folder', { params: { ...params.value, query: { path: place.value } }, signal })),
  retry: false,
})
const crumbs = computed(() => {
  const parts = place.value ? place.value.split('/') : []
  return [{ name: repository.value.name, path: '' }, ...parts.map((name, i) => ({ name, path: parts.slice(0, i + 1).join('/') }))]
})
const here = computed(() => (known.value?.people ?? []).filter((p) => !p.gone))
const left = computed(() => (known.value?.people ?? []).filter((p) => p.gone))
const most = computed(() => Math.max(1e-9, ...(known.value?.people ?? []).map((p) => p.weight)))
const since = (at: string | null | undefined) =>
  at && repository.value.pinned_at ? age(at, repository.value.pinned_at).replace(' earlier', ' before the pin') : date(at)
/** How well somebody knows the place now, in words. */
const knows = (p: Schemas['KnowerTo']) =>
  p.weight >= 0.5 * most.value ? 'knows it best now' : p.weight >= 0.5 ? 'knows it' : 'knew it once'

const joining = ref<Schemas['KnowerTo'] | Schemas['OtherName'] | null>(null)
const everybody = computed<Schemas['OtherName'][]>(() => {
  const all = [...(known.value?.people ?? []), ...(known.value?.others ?? [])].map(({ name, email }) => ({ name, email }))
  return all.sort((a, b) => a.name.localeCompare(b.name))
})
async function attempt(what: () => Promise<unknown>, told: string) {
  try {
    await what()
    notice(told)
    await queries.invalidateQueries({ queryKey: ['repository', id.value] })
  } catch (e) {
    notice(words(e), { fault: true })
  }
}
function join(email: string) {
  const from = joining.value
  const to = everybody.value.find((p) => p.email === email)
  joining.value = null
  if (!from || !to) return
  const body = { from: { name: from.name, email: from.email }, to }
  void attempt(
    () => data(api.POST('/api/repositories/{repository}/people-joined', { params: params.value, body })),
    `${from.name} and ${to.name} are one person from now on; the survey is made again for it.`,
  )
}
const unjoin = (join: number) =>
  attempt(
    () => data(api.DELETE('/api/repositories/{repository}/people-joined/{join}', { params: { path: { repository: id.value, join } } })),
    'They are two people again; the survey is made again for it.',
  )
const hide = (on: boolean) =>
  attempt(
    () =>
      data(
        api.PUT('/api/repositories/{repository}/settings', {
          params: params.value,
          body: {
            name: repository.value.name,
            subfolder: repository.value.subfolder,
            half_life: repository.value.half_life,
            people_hidden: on,
          },
        }),
      ),
    on ? 'What people did is told nowhere in this repository now.' : 'What people did is told again.',
  )
const spans = [
  { days: 182, title: 'half a year' },
  { days: 365, title: 'a year' },
  { days: 730, title: 'two years' },
  { days: 0, title: 'all time' },
]
</script>

<template>
  <div class="who">
    <Sections />
    <div v-if="hidden" class="note">
      <p>A keeper has turned people's figures off in this repository: who did what is told nowhere, nor in tables or feeds.</p>
      <p v-if="keeper"><button class="link" @click="hide(false)">Turn them on again</button></p>
    </div>
    <div v-else class="body">
      <section class="ask">
        <h1>Who to ask</h1>
        <p class="place">
          about
          <template v-for="(c, i) in crumbs" :key="c.path"
            ><span v-if="i" class="soft"> / </span
            ><button class="link" :aria-current="c.path === place" @click="put({ path: c.path || undefined })">
              {{ c.name }}
            </button></template
          >
        </p>
        <p v-if="below?.children.length" class="below">
          <button v-for="x in below.children.slice(0, 40)" :key="x.path" class="link" @click="put({ path: x.path })">
            {{ x.name }}{{ x.folder ? '/' : '' }}
          </button>
          <span v-if="below.children.length > 40" class="soft"
            >and {{ count(below.children.length - 40) }} more, from the Map or a file</span
          >
        </p>
        <p class="soft rules">
          Changes count half after {{ count(half) }} days. Whoever changed nothing anywhere for
          <select :value="silent" aria-label="Days of silence" @change="put({ silent: ($event.target as HTMLSelectElement).value })">
            <option v-for="n in [90, 182, 365, 730]" :key="n" :value="n">{{ n }}</option>
          </select>
          days before the pin has left. Activity of
          <button
            v-for="s in spans"
            :key="s.days"
            class="pick"
            :aria-pressed="days === s.days"
            @click="put({ days: s.days ? String(s.days) : undefined })"
          >
            {{ s.title }}
          </button>
        </p>
        <p v-if="error" class="fault" role="alert">{{ words(error) }}</p>
        <template v-else-if="known">
          <p v-if="!known.people.length" class="soft">No commit that is known changed it: merges alone may have brought it.</p>
          <p v-else-if="!here.length" class="lost">Nobody who changed it is still here. The last to leave:</p>
          <ul>
            <li v-for="p in [...here, ...left]" :key="p.email + p.name" :class="{ gone: p.gone }">
              <div class="name">
                <b>{{ p.name || p.email || 'nobody named' }}</b>
                <span class="soft">{{ p.gone ? `has left: last seen ${since(p.last_at)}` : knows(p) }}</span>
              </div>
              <span class="bar" :title="`changes weighing ${p.weight.toFixed(1)}`"
                ><i :style="{ width: `${(100 * p.weight) / most}%` }"
              /></span>
              <Pulse :counts="p.activity" :title="`Commits to it, from ${date(known.from)} to the pin`" />
              <span class="soft last"
                >{{ many(p.changes, 'change') }}, last {{ since(p.last_here) }}
                <router-link
                  :to="{
                    name: 'history',
                    params: { repository: id },
                    query: { keep: [`by:${p.name}`, ...(place ? [`path:${place}`] : [])] },
                  }"
                  >which</router-link
                >
                <button v-if="keeper" class="link" @click="joining = joining === p ? null : p">is the same as …</button></span
              >
              <div v-if="joining === p" class="join">
                <select aria-label="The same person as" @change="join(($event.target as HTMLSelectElement).value)">
                  <option value="">the same person as …</option>
                  <option v-for="o in everybody.filter((o) => o.email !== p.email)" :key="o.email + o.name" :value="o.email">
                    {{ o.name }} {{ o.email ? `‹${o.email}›` : '' }}
                  </option>
                </select>
                <span class="soft">Joined by hand; anybody may see it below, and a keeper may take it back.</span>
              </div>
            </li>
          </ul>
          <p v-if="known.total > known.people.length" class="soft">{{ count(known.total - known.people.length) }} more changed it less.</p>
        </template>
        <p v-else class="soft">Reckoning …</p>
      </section>
      <aside>
        <h2>Hardly known</h2>
        <p class="soft">Folders with code whose lines one person knows, or nobody who is still here.</p>
        <template v-if="little">
          <button v-for="f in little.folders" :key="f.path" class="folder" :class="{ on: f.path === place }" @click="put({ path: f.path })">
            <b class="mono">{{ f.path }}/</b>
            <span class="soft">{{ f.one ? `${f.one} alone` : 'nobody' }} · {{ many(f.files, 'file') }}</span>
          </button>
          <p v-if="!little.folders.length" class="soft">None of {{ many(little.of, 'folder') }}: two people or more know each.</p>
          <p v-if="little.total > little.folders.length" class="soft">and {{ count(little.total - little.folders.length) }} more</p>
        </template>
        <template v-if="joins?.length">
          <h2>Joined by hand</h2>
          <p v-for="j in joins" :key="j.id" class="soft">
            {{ j.from.name }} ‹{{ j.from.email }}› is {{ j.to.name }} ‹{{ j.to.email }}›
            <button v-if="keeper" class="link" @click="unjoin(j.id)">take back</button>
          </p>
        </template>
        <p v-if="keeper" class="off">
          <button class="link" @click="hide(true)">Turn people's figures off</button>
          <span class="soft"> for everybody, in tables and feeds too.</span>
        </p>
      </aside>
    </div>
  </div>
</template>

<style scoped>
.who {
  height: 100%;
  display: flex;
  flex-direction: column;
}
.body {
  flex: 1;
  min-height: 0;
  display: grid;
  grid-template-columns: minmax(0, 1fr) 340px;
  border-top: 1px solid var(--rule);
}
.ask,
aside {
  overflow: auto;
  padding: 14px var(--gap);
}
aside {
  border-left: 1px solid var(--rule);
  background: var(--sheet);
}
aside h2 + p {
  margin-bottom: 8px;
}
.folder + h2,
p + h2 {
  margin-top: 18px;
}
.place {
  font: 16px/1.6 var(--serif);
}
.place button,
.below button {
  font-family: var(--mono);
  font-size: 13px;
}
.place button[aria-current='true'] {
  color: var(--ink);
  font-weight: 600;
}
.below {
  display: flex;
  flex-wrap: wrap;
  gap: 2px 14px;
  margin: 4px 0 8px;
}
.below button {
  font-size: 12px;
}
.rules {
  font-size: 12.5px;
  margin-bottom: 10px;
}
.rules .pick {
  margin-right: 8px;
}
select {
  font: inherit;
  color: inherit;
  background: var(--sheet);
  border: 1px solid var(--rule);
  border-radius: var(--radius);
}
ul {
  list-style: none;
  margin: 0;
  padding: 0;
}
li {
  display: grid;
  grid-template-columns: minmax(180px, 1fr) 120px 150px minmax(0, 1.1fr);
  gap: 4px 16px;
  align-items: center;
  padding: 8px 0;
  border-top: 1px solid var(--rule-soft);
}
.name b {
  display: block;
}
.name .soft,
.last {
  font-size: 12.5px;
}
.gone .bar i {
  background: none;
  border: 1px solid var(--ochre-mid);
}
.bar {
  border-left: 1px solid var(--rule);
}
.bar i {
  display: block;
  height: 9px;
  background: var(--ochre);
  min-width: 1px;
}
.join {
  grid-column: 1 / -1;
  display: flex;
  gap: 12px;
  align-items: center;
}
.folder {
  display: block;
  width: 100%;
  padding: 4px 0;
  border: 0;
  border-top: 1px solid var(--rule-soft);
  background: none;
  color: inherit;
  font: inherit;
  text-align: left;
  cursor: pointer;
}
.folder b {
  display: block;
  overflow-wrap: anywhere;
}
.folder:hover,
.folder.on {
  background: var(--hover);
}
.folder .soft {
  font-size: 12.5px;
}
.lost {
  font-family: var(--serif);
  margin-bottom: 4px;
}
.off {
  margin-top: 22px;
  font-size: 12.5px;
}
.note {
  padding: 18px var(--gap);
}
</style>
