<script setup lang="ts">
import { keepPreviousData, useInfiniteQuery, useQuery } from '@tanstack/vue-query'
import { computed } from 'vue'
import { useRoute, useRouter } from 'vue-router'
import { api, data as answer, words } from '@/api/client'
import { useRepository } from '@/frame/repository'
import { useSelection } from '@/plans/adding'
import { count, date, many, short } from '@/words/format'
import Apart from './Apart.vue'
import Diffs from './Diffs.vue'
import Said from './Said.vue'
import Sections from './Sections.vue'
import SurveyIt from './SurveyIt.vue'

/** Two commits compared: how far they went apart, and in what they differ. */
const repository = useRepository()
const route = useRoute()
const router = useRouter()
const id = computed(() => repository.value.id)
const text = (v: unknown) => (typeof v === 'string' ? v : '')
const put = (q: Record<string, string | undefined>) => void router.replace({ query: { ...route.query, ...q } })
const { data: refs } = useQuery({
  queryKey: computed(() => ['repository', id.value, 'refs']),
  queryFn: ({ signal }) => answer(api.GET('/api/repositories/{repository}/refs', { params: { path: { repository: id.value } }, signal })),
  retry: false,
})
const from = computed(() => text(route.query.from) || repository.value.pin)
const to = computed(() => text(route.query.to) || refs.value?.head || repository.value.pin)
const fork = computed(() => route.query.since === 'fork')
const view = computed(() => text(route.query.view) || 'files')
const asked = computed(() => ({ from: from.value, to: to.value, fork: fork.value || undefined }))
/** The files come page by page: a whole history may differ in ten thousand. */
const { data, error, hasNextPage, fetchNextPage, isFetchingNextPage } = useInfiniteQuery({
  queryKey: computed(() => ['repository', id.value, 'compare', asked.value]),
  queryFn: ({ signal, pageParam }) =>
    answer(
      api.GET('/api/repositories/{repository}/compare', {
        params: { path: { repository: id.value }, query: { ...asked.value, offset: pageParam } },
        signal,
      }),
    ),
  initialPageParam: 0,
  getNextPageParam: (_last, pages) => {
    const n = pages.reduce((sum, p) => sum + p.changes.length, 0)
    return n < pages[0]!.total ? n : undefined
  },
  placeholderData: keepPreviousData,
  retry: false,
})
const c = computed(() => data.value?.pages[0])
const changes = computed(() => data.value?.pages.flatMap((p) => p.changes) ?? [])
/** All lines are counted behind the first page. */
const { data: differs } = useQuery({
  queryKey: computed(() => ['repository', id.value, 'compare-size', asked.value]),
  queryFn: ({ signal }) =>
    answer(
      api.GET('/api/repositories/{repository}/compare/size', {
        params: { path: { repository: id.value }, query: asked.value },
        signal,
      }),
    ),
  enabled: computed(() => !!c.value && c.value.from.id !== c.value.to.id),
  retry: false,
})
useSelection(() =>
  c.value
    ? {
        kind: 'comparison',
        path: '',
        base: c.value.from.id,
        commit: c.value.to.id,
        title: `From ${called(c.value.from)} to ${called(c.value.to)}`,
        lines: Math.min(700, (differs.value?.added ?? 0) + (differs.value?.deleted ?? 0)),
      }
    : null,
)
const called = (e: { id: string; pin: boolean; refs: readonly { name: string }[] }) =>
  e.pin ? 'the pin' : (e.refs[0]?.name ?? short(e.id))
function pick(which: 'from' | 'to', e: Event) {
  const value = (e.target as HTMLInputElement).value.trim()
  if (value) put({ [which]: value })
}
const shownAs = (v: string) => (v === repository.value.pin ? 'the pin' : v)
const views = [
  { name: 'files', title: 'Files, folded' },
  { name: 'lines', title: 'Lines' },
  { name: 'said', title: 'What the code says' },
  { name: 'commits', title: 'Commits' },
]
</script>

<template>
  <div class="compare">
    <Sections />
    <header>
      <datalist id="compare-refs">
        <option :value="repository.pin">the pin</option>
        <option v-for="r in [...(refs?.branches ?? []), ...(refs?.tags ?? [])]" :key="r.kind + r.name" :value="r.name">{{ r.kind }}</option>
      </datalist>
      <div class="ends">
        <label
          >from
          <input
            class="mono"
            list="compare-refs"
            :value="shownAs(from)"
            spellcheck="false"
            @focus="($event.target as HTMLInputElement).select()"
            @change="pick('from', $event)"
        /></label>
        <button class="link" title="The other way round" @click="put({ from: to, to: from })">turn round</button>
        <label
          >to
          <input
            class="mono"
            list="compare-refs"
            :value="shownAs(to)"
            spellcheck="false"
            @focus="($event.target as HTMLInputElement).select()"
            @change="pick('to', $event)"
        /></label>
        <label
          ><input type="checkbox" :checked="fork" @change="put({ since: fork ? undefined : 'fork' })" /> only since they went apart</label
        >
        <button class="link" @click="put({ from: undefined, to: undefined, since: undefined })">what changed since the pin</button>
      </div>
      <p v-if="error" class="fault" role="alert">{{ words(error) }}</p>
      <p v-else-if="c" class="sum">
        <b>{{ called(c.to) }}</b> <span class="soft">({{ short(c.to.id) }}, {{ date(c.to.time) }})</span>
        <template v-if="c.from.id === c.to.id">
          is the same commit as <b>{{ called(c.from) }}</b>: nothing changed since.</template
        >
        <template v-else
          >{{ c.ahead ? ` is ${many(c.ahead, 'commit')} ahead of ` : ' has nothing new beside ' }}<b>{{ called(c.from) }}</b>
          <span class="soft"> ({{ short(c.from.id) }}, {{ date(c.from.time) }})</span
          ><template v-if="c.behind"> and {{ many(c.behind, 'commit') }} behind it</template
          ><template v-if="!c.fork.id">; they share no history</template>. {{ many(c.total, 'file') }}
          {{ c.total === 1 ? 'differs' : 'differ'
          }}<template v-if="differs">, +{{ count(differs.added) }} −{{ count(differs.deleted) }} lines.</template
          ><template v-else-if="c.total">; the lines are being counted …</template></template
        >
        <SurveyIt v-if="!c.to.surveyed" class="unsurveyed" :commit="c.to.id" :surveying="false" />
      </p>
      <p v-else class="soft">Comparing …</p>
      <div v-if="c && c.from.id !== c.to.id" class="picks">
        <button
          v-for="v in views"
          :key="v.name"
          class="pick"
          :aria-pressed="view === v.name"
          @click="put({ view: v.name, path: undefined })"
        >
          {{ v.title }}
        </button>
      </div>
    </header>
    <template v-if="c && !error && c.from.id !== c.to.id">
      <Apart v-if="view === 'files'" :changes="changes" :total="c.total" @choose="(path) => put({ view: 'lines', path })" />
      <p v-if="hasNextPage && (view === 'files' || view === 'lines')" class="more soft">
        {{ count(changes.length) }} of {{ count(c.total) }} files that differ are shown.
        <button class="link" :disabled="isFetchingNextPage" @click="fetchNextPage()">
          {{ isFetchingNextPage ? 'fetching …' : 'show more' }}
        </button>
      </p>
      <Diffs v-if="view === 'lines'" :from="c.base" :to="c.to.id" :changes="changes" :total="c.total" />
      <Said v-if="view === 'said'" :repository="id" :from="c.from.id" :to="c.to.id" :fork="fork" :newer="c.to.id" :older="c.base" />
      <div v-if="view === 'commits'" class="commits">
        <section
          v-for="side in [
            { list: c.newer, n: c.ahead, of: c.to },
            { list: c.older, n: c.behind, of: c.from },
          ]"
          :key="side.of.id + side.n"
        >
          <h2>Only in {{ called(side.of) }}</h2>
          <router-link
            v-for="r in side.list"
            :key="r.id"
            class="plain row"
            :to="{ name: 'commit', params: { repository: id, commit: r.id } }"
          >
            <span class="soft">{{ date(r.time) }}</span> <span class="subject">{{ r.subject || '(no message)' }}</span>
            <span class="soft">{{ r.person }}</span>
          </router-link>
          <p v-if="!side.list.length" class="soft">None.</p>
          <p v-if="side.n > side.list.length" class="soft">{{ count(side.n - side.list.length) }} older ones are not listed.</p>
        </section>
      </div>
    </template>
  </div>
</template>

<style scoped>
.compare {
  min-height: 100%;
}
header {
  padding: 2px var(--gap) 8px;
  border-bottom: 1px solid var(--rule);
}
.ends {
  display: flex;
  flex-wrap: wrap;
  gap: 6px 16px;
  align-items: baseline;
}
.ends input.mono {
  width: 210px;
  background: var(--sheet);
  color: inherit;
  border: 1px solid var(--rule);
  border-radius: var(--radius);
  padding: 3px 8px;
}
.sum {
  margin: 8px 0;
  font: 15.5px/1.5 var(--serif);
}
.sum .soft {
  font: 12.5px var(--sans);
}
.unsurveyed {
  margin-left: 8px;
}
.picks {
  display: flex;
  gap: 18px;
}
.commits {
  display: grid;
  grid-template-columns: 1fr 1fr;
  gap: 30px;
  padding: 12px var(--gap);
}
.row {
  display: grid;
  grid-template-columns: 92px minmax(0, 1fr) 110px;
  gap: 8px;
  padding: 3px 0;
  border-top: 1px solid var(--rule-soft);
}
.row:hover {
  background: var(--hover);
}
.row .soft {
  font-size: 12.5px;
}
.subject {
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
}
.more {
  flex: none;
  padding: 4px var(--gap);
}
</style>
