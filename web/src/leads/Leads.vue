<script setup lang="ts">
import { keepPreviousData, useInfiniteQuery } from '@tanstack/vue-query'
import { useVirtualizer } from '@tanstack/vue-virtual'
import { refDebounced } from '@vueuse/core'
import { computed, ref, watch } from 'vue'
import { useRoute, useRouter } from 'vue-router'
import { api, data, words, type Schemas } from '@/api/client'
import { describeKeys } from '@/frame/help'
import { useKeys } from '@/frame/keys'
import { includes, useRepository } from '@/frame/repository'
import { useWrittenAbout } from '@/notes'
import { useAdding, useCarrying, useSelection } from '@/plans/adding'
import SurveyState from '@/shelf/SurveyState.vue'
import { count, many } from '@/words/format'
import { Views } from '@/listing'
import { useMarks, type Marked } from './marks'
import Sections from './Sections.vue'
import SetAside from './SetAside.vue'

const repository = useRepository()
const route = useRoute()
const router = useRouter()
const adding = useAdding()
const id = computed(() => repository.value.id)
const text = (v: unknown) => (typeof v === 'string' && v ? v : undefined)
const kind = computed(() => text(route.query.kind))
const detail = computed(() => text(route.query.detail))
type State = 'open' | 'unread' | 'new' | 'read' | 'kept' | 'aside' | 'all'
const states: Record<State, string> = {
  open: 'open',
  new: 'new since the last survey',
  unread: 'not read by you',
  read: 'read by you',
  kept: 'kept on purpose',
  aside: 'set aside',
  all: 'all',
}
const state = computed<State>(() => (text(route.query.state) as State | undefined) ?? 'open')
const writer = computed(() => includes(repository.value.role, 'writer'))
const marks = useMarks(id)
const typed = ref(text(route.query.text) ?? '')
const asked = refDebounced(typed, 200)
watch(asked, (t) => void router.replace({ query: { ...route.query, text: t || undefined } }))

const page = 200
const {
  data: pages,
  error,
  fetchNextPage,
  hasNextPage,
  isFetching,
} = useInfiniteQuery({
  queryKey: computed(() => ['repository', id.value, 'leads', kind.value, detail.value, asked.value, state.value]),
  queryFn: ({ signal, pageParam }) =>
    data(
      api.GET('/api/repositories/{repository}/leads', {
        params: {
          path: { repository: id.value },
          query: {
            kind: kind.value,
            detail: detail.value,
            text: asked.value || undefined,
            state: state.value,
            offset: pageParam,
            limit: page,
          },
        },
        signal,
      }),
    ),
  initialPageParam: 0,
  getNextPageParam: (last, all) => (all.length * page < last.total ? all.length * page : undefined),
  placeholderData: keepPreviousData,
})
const first = computed(() => pages.value?.pages[0])
const leads = computed(() => pages.value?.pages.flatMap((p) => p.leads) ?? [])
const titles: Record<string, string> = {
  'entry-point': 'Entry points',
  hotspot: 'Hotspots',
  hub: 'Hubs',
  'tagged-comment': 'Tagged comments',
}
const glyphs: Record<string, string> = { 'entry-point': '◗', hotspot: '▮', hub: '◉', 'tagged-comment': '◇' }
const one: Record<string, string> = { 'entry-point': 'entry point', hotspot: 'hotspot', hub: 'hub', 'tagged-comment': 'tagged comment' }
const current = computed(() => first.value?.kinds.find((k) => k.kind === kind.value))
const all = computed(() => first.value?.kinds.reduce((n, k) => n + k.count, 0) ?? 0)

const pane = ref<HTMLElement | null>(null)
const rowHeight = 46
const virtual = useVirtualizer(
  computed(() => ({ count: leads.value.length, getScrollElement: () => pane.value, estimateSize: () => rowHeight, overscan: 16 })),
)
watch(
  () => virtual.value.getVirtualItems().at(-1)?.index,
  (last) => {
    if (last !== undefined && last > leads.value.length - 30 && hasNextPage.value && !isFetching.value) void fetchNextPage()
  },
)
const at = ref(0)
watch([kind, detail, asked, state], () => (at.value = 0))
const target = (l: Schemas['LeadInfo']) => ({
  name: 'read',
  params: { repository: id.value },
  query: { path: l.path, ...(l.line ? { lines: String(l.line) } : {}) },
})

function candidate(l: Schemas['LeadInfo'] | null | undefined) {
  if (!l) return null
  const title = l.kind === 'hotspot' || l.kind === 'hub' ? l.path.split('/').at(-1)! : l.title
  if (!l.line) return { kind: 'file' as const, path: l.path, title, lines: 0, why: l.why }
  return { kind: 'lines' as const, path: l.path, start: l.line, end: l.line, title, lines: 1, why: `${one[l.kind]}: ${l.why}` }
}
const carry = useCarrying()
useSelection(() => candidate(leads.value[at.value]))
useWrittenAbout(() => {
  const l = leads.value[at.value]
  return l ? { path: l.path, start: l.line ?? undefined, end: l.line ?? undefined } : null
})
function step(by: number) {
  at.value = Math.max(0, Math.min(leads.value.length - 1, at.value + by))
  virtual.value.scrollToIndex(at.value)
}
useKeys({
  ArrowDown: () => step(1),
  ArrowUp: () => step(-1),
  Enter: () => leads.value[at.value] && open(leads.value[at.value]!),
  k: () => mark('kept'),
  o: () => mark('open'),
  s: () => writer.value && leads.value[at.value] && (asideOpen.value = true),
  m: () => leads.value[at.value] && void marks.read([leads.value[at.value]!.id], !leads.value[at.value]!.read),
})
const asideOpen = ref(false)
function mark(to: Marked, reason = '') {
  const l = leads.value[at.value]
  if (l && writer.value) void marks.mark([l.id], to, reason, { state: l.state, reason: l.reason })
}
/** Whoever opens a lead has read it. */
function open(l: Schemas['LeadInfo']) {
  if (!l.read) void marks.read([l.id])
  void router.push(target(l))
}
describeKeys('Leads', [
  ['↑ ↓', 'the lead above or below'],
  ['Enter', 'open it'],
  ['m', 'read, or not read'],
  ['k', 'keep on purpose'],
  ['s', 'set aside, with a reason'],
  ['o', 'bring back'],
  ['a', 'add it to the plan at hand'],
])
function add(i: number) {
  at.value = i
  adding.current.value = candidate(leads.value[i])
}
const narrow = (q: Record<string, string | undefined>) => ({ query: { ...route.query, kind: undefined, detail: undefined, ...q } })
</script>

<template>
  <div class="whole">
    <Sections><Views :repository="id" page="leads" :writer="writer" /></Sections>
    <div class="leads">
      <aside>
        <h2>What was found</h2>
        <nav aria-label="Kinds of leads">
          <router-link :to="narrow({})" class="plain" :class="{ here: !kind }"
            >Everything <span class="soft">{{ count(all) }}</span></router-link
          >
          <template v-for="k in first?.kinds ?? []" :key="k.kind">
            <router-link :to="narrow({ kind: k.kind })" class="plain" :class="{ here: kind === k.kind && !detail }" :title="k.doc">
              <span
                ><i aria-hidden="true" :class="k.kind">{{ glyphs[k.kind] }}</i> {{ titles[k.kind] }}</span
              >
              <span class="soft">{{ count(k.count) }}</span>
            </router-link>
            <router-link
              v-for="d in k.details"
              :key="d.detail"
              :to="narrow({ kind: k.kind, detail: d.detail })"
              class="plain detail"
              :class="{ here: kind === k.kind && detail === d.detail }"
              :title="d.meaning"
            >
              <span
                >{{ d.detail }} <small v-if="d.meaning" class="soft">{{ d.meaning }}</small></span
              >
              <span class="soft">{{ count(d.count) }}</span>
            </router-link>
          </template>
        </nav>
      </aside>
      <div class="main">
        <div class="head">
          <div>
            <h1>{{ detail ?? (kind ? titles[kind] : 'Leads') }}</h1>
            <p class="soft">
              {{ current?.doc ?? 'Everything the survey found worth reading, best first.' }}
              <router-link v-if="first?.new && state !== 'new'" :to="{ query: { ...route.query, state: 'new' } }"
                >{{ count(first.new) }} new since the last survey</router-link
              >
            </p>
          </div>
          <a-select
            :value="state"
            :options="(Object.keys(states) as State[]).map((k) => ({ value: k, label: states[k] }))"
            style="width: 190px"
            aria-label="Which leads"
            @change="(v: unknown) => router.replace({ query: { ...route.query, state: v === 'open' ? undefined : String(v) } })"
          />
          <a-input
            v-model:value="typed"
            placeholder="narrow by path or words"
            allow-clear
            style="width: 240px"
            aria-label="Narrow by path or words"
          />
        </div>
        <SurveyState v-if="first && first.survey.state !== 'complete'" :survey="first.survey" class="state" />
        <p v-if="error" class="fault state" role="alert">{{ words(error) }}</p>
        <p v-else-if="first && !leads.length" class="soft state">
          <template v-if="asked"
            >No lead{{ kind ? ` among ${titles[kind]?.toLowerCase()}` : '' }} has “{{ asked }}” in its path or words.</template
          >
          <template v-else-if="first.survey.state === 'complete'">The survey found none.</template>
          <template v-else>Leads are gathered in the last stage of the survey.</template>
        </p>
        <div ref="pane" class="pane" role="listbox" aria-label="Leads">
          <div :style="{ height: `${virtual.getTotalSize()}px`, position: 'relative' }">
            <div class="window" :style="{ transform: `translateY(${virtual.getVirtualItems()[0]?.start ?? 0}px)` }">
              <div
                v-for="v in virtual.getVirtualItems()"
                :key="leads[v.index]!.id"
                class="lead"
                role="option"
                :aria-selected="v.index === at"
                :class="{ at: v.index === at }"
                :data-lead="leads[v.index]!.id"
                v-bind="carry(candidate(leads[v.index]!)!)"
                @click="at = v.index"
              >
                <i :class="leads[v.index]!.kind" :title="one[leads[v.index]!.kind]">{{ glyphs[leads[v.index]!.kind] }}</i>
                <div class="what">
                  <router-link
                    :to="target(leads[v.index]!)"
                    class="title"
                    :class="{ unread: !leads[v.index]!.read }"
                    @click="leads[v.index]!.read || marks.read([leads[v.index]!.id])"
                    >{{ leads[v.index]!.title }}</router-link
                  >
                  <div class="soft why">
                    <span v-if="!['hotspot', 'hub'].includes(leads[v.index]!.kind)" class="mono"
                      >{{ leads[v.index]!.path }}<template v-if="leads[v.index]!.line">:{{ leads[v.index]!.line }}</template></span
                    >
                    <span v-if="leads[v.index]!.state !== 'open'">
                      {{ states[leads[v.index]!.state] }}<template v-if="leads[v.index]!.by"> by {{ leads[v.index]!.by }}</template
                      ><template v-if="leads[v.index]!.reason">: “{{ leads[v.index]!.reason }}”</template>
                    </span>
                    <span v-else>{{ leads[v.index]!.why }}</span>
                  </div>
                </div>
                <span class="acts">
                  <span v-if="leads[v.index]!.new" class="soft">new</span>
                  <router-link
                    v-if="leads[v.index]!.plan"
                    :to="{ name: 'guide', params: { repository: id, plan: leads[v.index]!.plan } }"
                    title="A plan has it"
                    >▬ in a plan</router-link
                  >
                  <button v-else class="link" :aria-label="`Add ${leads[v.index]!.title} to the plan`" @click.stop="add(v.index)">
                    add to plan
                  </button>
                  <template v-if="writer">
                    <button
                      v-if="leads[v.index]!.state === 'open'"
                      class="link"
                      :aria-label="`Set ${leads[v.index]!.title} aside`"
                      @click.stop="((at = v.index), (asideOpen = true))"
                    >
                      set aside
                    </button>
                    <button v-else class="link" @click.stop="((at = v.index), mark('open'))">bring back</button>
                  </template>
                </span>
              </div>
            </div>
          </div>
        </div>
        <div v-if="first" class="foot soft">
          <span>{{ many(first.total, 'lead') }}{{ asked || kind ? ` of ${count(all)}` : '' }}</span>
          <router-link v-if="first.aside && state === 'open'" :to="{ query: { ...route.query, state: 'aside' } }"
            >{{ count(first.aside) }} set aside or kept on purpose</router-link
          >
          <span><kbd>↑</kbd> <kbd>↓</kbd> choose</span><span><kbd>Enter</kbd> read</span><span><kbd>a</kbd> add to the plan</span
          ><span v-if="writer"><kbd>s</kbd> set aside</span>
        </div>
      </div>
    </div>
    <SetAside v-if="asideOpen && leads[at]" v-model="asideOpen" :leads="1" :title="leads[at]!.title" @aside="(why) => mark('aside', why)" />
  </div>
</template>

<style scoped>
.whole {
  height: 100%;
  display: flex;
  flex-direction: column;
}
.acts {
  display: flex;
  gap: 16px;
  white-space: nowrap;
}
.title.unread {
  font-weight: 600;
}
.leads {
  flex: 1;
  min-height: 0;
  border-top: 1px solid var(--rule);
  display: grid;
  grid-template-columns: 280px minmax(0, 1fr);
}
aside {
  border-right: 1px solid var(--rule);
  padding: 18px 16px 18px var(--gap);
  overflow: auto;
}
aside nav {
  margin-top: 10px;
}
aside nav a {
  display: flex;
  justify-content: space-between;
  gap: 10px;
  padding: 4px 8px;
  margin-left: -8px;
}
aside nav a:hover {
  background: var(--hover);
  text-decoration: none;
}
aside nav .here {
  font-weight: 600;
  background: var(--hover);
}
aside nav .detail {
  padding-left: 26px;
}
aside nav small {
  display: block;
  font-size: 11.5px;
  font-weight: 400;
}
i {
  font-style: normal;
}
i.entry-point {
  color: var(--ink);
}
i.hotspot,
i.tagged-comment {
  color: var(--ochre-text);
}
.main {
  display: flex;
  flex-direction: column;
  min-height: 0;
}
.head {
  display: flex;
  align-items: end;
  gap: 12px;
  padding: 16px var(--gap) 10px;
  border-bottom: 1px solid var(--rule);
}
.head > :first-child {
  flex: 1;
}
.state {
  margin: 14px var(--gap);
}
.pane {
  flex: 1;
  min-height: 0;
  overflow: auto;
}
.window {
  position: absolute;
  inset: 0 0 auto;
}
.lead {
  height: 46px;
  display: grid;
  grid-template-columns: 20px minmax(0, 1fr) auto;
  align-items: center;
  padding: 0 var(--gap);
  border-bottom: 1px solid var(--rule-soft);
}
.lead:hover,
.lead.at {
  background: var(--hover);
}
.lead.at {
  box-shadow: inset 3px 0 var(--ink);
}
.what {
  min-width: 0;
  padding-right: 20px;
}
.title,
.why {
  display: block;
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
}
.title {
  color: var(--ink);
}
.why {
  font-size: 12px;
}
.why .mono {
  font-size: 12px;
  margin-right: 12px;
}
.foot {
  flex: none;
  display: flex;
  gap: 20px;
  padding: 7px var(--gap);
  border-top: 1px solid var(--rule);
  font-size: 12px;
}
</style>
