<script setup lang="ts">
import { keepPreviousData, useQuery } from '@tanstack/vue-query'
import { computed } from 'vue'
import { useRoute, useRouter } from 'vue-router'
import { api, data, words } from '@/api/client'
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
  queryFn: ({ signal }) => data(api.GET('/api/repositories/{repository}/refs', { params: { path: { repository: id.value } }, signal })),
  retry: false,
})
const from = computed(() => text(route.query.from) || repository.value.pin)
const to = computed(() => text(route.query.to) || refs.value?.head || repository.value.pin)
const fork = computed(() => route.query.since === 'fork')
const view = computed(() => text(route.query.view) || 'files')
const { data: c, error } = useQuery({
  queryKey: computed(() => ['repository', id.value, 'compare', from.value, to.value, fork.value]),
  queryFn: ({ signal }) =>
    data(
      api.GET('/api/repositories/{repository}/compare', {
        params: { path: { repository: id.value }, query: { from: from.value, to: to.value, fork: fork.value || undefined } },
        signal,
      }),
    ),
  placeholderData: keepPreviousData,
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
        lines: Math.min(700, c.value.added + c.value.deleted),
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
          {{ c.total === 1 ? 'differs' : 'differ' }}, +{{ count(c.added) }} −{{ count(c.deleted) }} lines.</template
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
      <Apart v-if="view === 'files'" :changes="c.changes" :total="c.total" @choose="(path) => put({ view: 'lines', path })" />
      <Diffs v-else-if="view === 'lines'" :from="c.base" :to="c.to.id" :changes="c.changes" :total="c.total" />
      <Said v-else-if="view === 'said'" :repository="id" :from="c.from.id" :to="c.to.id" :fork="fork" :newer="c.to.id" :older="c.base" />
      <div v-else class="commits">
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
</style>
