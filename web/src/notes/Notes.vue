<script setup lang="ts">
import { keepPreviousData, useInfiniteQuery, useQueryClient } from '@tanstack/vue-query'
import { refDebounced } from '@vueuse/core'
import { computed, ref, useTemplateRef, watch } from 'vue'
import { useRoute, useRouter } from 'vue-router'
import { api, data, words } from '@/api/client'
import { notice } from '@/frame/notice'
import { includes, useRepository } from '@/frame/repository'
import { Facets, narrowedBy, Views } from '@/listing'
import { count, many } from '@/words/format'
import Thread from './Thread.vue'
import { useGo, useThread } from './use'

const repository = useRepository()
const route = useRoute()
const router = useRouter()
const id = computed(() => repository.value.id)
const writer = computed(() => includes(repository.value.role, 'writer'))
const keys = ['yours', 'placed', 'state', 'kind', 'tag', 'by', 'on', 'folder'] as const
const titles: Record<string, string> = {
  yours: 'Yours',
  placed: 'Place at the pin',
  state: 'State',
  kind: 'Kind',
  tag: 'Tags',
  by: 'Who wrote in it',
  on: 'About',
  folder: 'Folder',
}
const said: Record<string, Record<string, string>> = {
  yours: {
    unread: 'not read yet',
    mentioned: 'you are mentioned',
    asked: 'you are asked to act',
    written: 'you wrote in',
    told: 'you are told of',
    '(none)': 'nothing to do with you',
  },
  placed: {
    same: 'where it was',
    moved: 'moved with its code',
    changed: 'its code changed',
    gone: 'no place',
    unknown: 'being looked for',
  },
  kind: { ask: 'asks somebody to act' },
  on: { repository: 'the repository', lines: 'lines', symbol: 'a symbol', file: 'a file', folder: 'a folder', commit: 'a commit' },
  tag: { '(none)': 'no tag' },
  folder: { '.': 'the root folder', '(none)': 'in no folder' },
}
function say(key: string, value: string): string {
  const s = said[key]?.[value]
  if (s) return s
  return key === 'tag' ? '#' + value : key === 'folder' ? value + '/' : value
}
const typed = ref(typeof route.query.text === 'string' ? route.query.text : '')
const asked = refDebounced(typed, 200)
watch(asked, (t) => void router.replace({ query: { ...route.query, text: t.trim() || undefined } }))
const query = computed(() => ({
  ...narrowedBy(route.query, keys),
  text: typeof route.query.text === 'string' ? route.query.text : undefined,
}))
const page = 40
const {
  data: pages,
  error,
  fetchNextPage,
  hasNextPage,
  isFetching,
} = useInfiniteQuery({
  queryKey: computed(() => ['repository', id.value, 'notes', 'list', query.value]),
  queryFn: ({ signal, pageParam }) =>
    data(
      api.GET('/api/repositories/{repository}/notes', {
        params: { path: { repository: id.value }, query: { ...query.value, offset: pageParam, limit: page } },
        signal,
      }),
    ),
  initialPageParam: 0,
  getNextPageParam: (last, all) => (all.length * page < last.total ? all.length * page : undefined),
  placeholderData: keepPreviousData,
  refetchInterval: (q) => (q.state.data?.pages[0]?.left ? 1500 : false),
})
const head = computed(() => pages.value?.pages[0])
const threads = computed(() => pages.value?.pages.flatMap((p) => p.threads) ?? [])
const { see, accept } = useThread(id)
const go = useGo(id)
const likely = computed(() => threads.value.filter((t) => (t.placed.candidates[0]?.like ?? 0) >= 0.5).map((t) => t.id))
const unread = computed(() => threads.value.filter((t) => t.unread).map((t) => t.id))
const narrowed = computed(() => keys.some((k) => route.query[k] !== undefined) || !!route.query.text)

const document = (what: string) => {
  const q = new URLSearchParams()
  for (const [k, v] of Object.entries(query.value)) for (const x of Array.isArray(v) ? v : v ? [v] : []) q.append(k, x)
  return `/api/repositories/${id.value}/notes/${what}?${q}`
}
const chooser = useTemplateRef<HTMLInputElement>('chooser')
const client = useQueryClient()
async function takeIn(e: Event) {
  const input = e.target as HTMLInputElement
  const file = input.files?.[0]
  input.value = ''
  if (!file) return
  try {
    const got = await data(
      api.POST('/api/repositories/{repository}/notes/annotations', {
        params: { path: { repository: id.value } },
        body: (await file.text()) as never,
        bodySerializer: (b: unknown) => b as string,
        headers: { 'Content-Type': 'application/ld+json' },
      }),
    )
    await client.invalidateQueries({ queryKey: ['repository', id.value, 'notes'] })
    const first = got.problems[0]
    notice(
      `${many(got.added, 'thread')}${got.files ? ` and ${many(got.files, 'attachment')}` : ''} taken in, ${count(got.there)} were here already, ${count(got.passed)} passed over${first ? `: ${first.why}` : ''}${got.problems.length > 1 ? `; and ${count(got.problems.length - 1)} more problems` : ''}.`,
      { fault: got.problems.length > 0 },
    )
  } catch (err) {
    notice(words(err), { fault: true })
  }
}
</script>

<template>
  <div class="notes">
    <aside>
      <h2>Notes</h2>
      <p class="always">
        <router-link class="plain" :class="{ on: route.query.yours === 'unread' }" :to="{ query: { yours: 'unread' } }"
          ><b>{{ count(head?.unread ?? 0) }}</b> since you were here</router-link
        >
        <router-link class="plain" :class="{ on: route.query.placed === 'gone' }" :to="{ query: { placed: 'gone' } }"
          ><b>{{ count(head?.unplaced ?? 0) }}</b> without a place at the pin</router-link
        >
        <router-link class="plain" :class="{ on: !narrowed }" :to="{ query: {} }"
          ><b>{{ count(head?.all ?? 0) }}</b> in all</router-link
        >
      </p>
      <Facets :facets="head?.facets ?? []" :titles="titles" :say="say" />
    </aside>
    <div class="main">
      <div class="head">
        <p>
          <b>{{ head ? many(head.total, 'thread') : 'Threads' }}</b>
          <span v-if="head?.left" class="soft"> · the places of {{ count(head.left) }} are still looked for</span>
        </p>
        <span class="room" />
        <button v-if="writer && likely.length" class="link" @click="accept(likely)">
          attach {{ many(likely.length, 'thread') }} to the likeliest place
        </button>
        <button v-if="unread.length" class="link" @click="see(unread)">mark these as read</button>
        <span class="soft"
          >take along <a :href="document('annotations')" download>JSON-LD</a> · <a :href="document('digest')" download>Markdown</a></span
        >
        <template v-if="writer">
          <button class="link" title="Web Annotations, also of another copy of this repository" @click="chooser?.click()">take in …</button>
          <input ref="chooser" type="file" accept=".jsonld,.json,application/ld+json" hidden @change="takeIn" />
        </template>
        <Views :repository="id" page="notes" :writer="writer" />
        <a-input
          v-model:value="typed"
          name="narrow"
          placeholder="narrow by words"
          allow-clear
          style="width: 190px"
          aria-label="Narrow by words"
        />
      </div>
      <p v-if="error" class="state" role="alert">{{ words(error) }}</p>
      <p v-else-if="head && !head.all" class="state">
        Nobody has written anything here yet. Open a file, choose lines or a name, and press <kbd>r</kbd>: what you write stays with the
        code when it moves.
      </p>
      <p v-else-if="head && !head.total && !isFetching" class="state soft">No thread fits all of this.</p>
      <div class="list">
        <Thread v-for="t in threads" :key="t.id" :repository="id" :thread="t" :writer="writer" placed class="one" @go="go(t)" />
        <p v-if="hasNextPage" class="state"><button class="link" :disabled="isFetching" @click="fetchNextPage()">show more</button></p>
      </div>
    </div>
  </div>
</template>

<style scoped>
.notes {
  height: 100%;
  display: grid;
  grid-template-columns: 262px minmax(0, 1fr);
}
aside {
  border-right: 1px solid var(--rule);
  padding: 16px 14px 14px var(--gap);
  overflow: auto;
}
.always {
  display: grid;
  gap: 2px;
  margin: 10px 0 16px;
}
.always b {
  display: inline-block;
  min-width: 26px;
  text-align: right;
  margin-right: 4px;
}
.always a.on {
  font-weight: 600;
  background: var(--hover);
}
.main {
  display: flex;
  flex-direction: column;
  min-height: 0;
}
.head {
  display: flex;
  align-items: center;
  gap: 16px;
  padding: 10px var(--gap);
  border-bottom: 1px solid var(--rule);
}
.head b {
  font: 600 17px/1.3 var(--serif);
}
.room {
  flex: 1;
}
.state {
  margin: 16px var(--gap);
  max-width: 620px;
}
.list {
  flex: 1;
  min-height: 0;
  overflow: auto;
}
.one {
  padding: 12px var(--gap);
  border-bottom: 1px solid var(--rule-soft);
  max-width: 900px;
}
</style>
