<script setup lang="ts">
import { refDebounced } from '@vueuse/core'
import { computed, ref, useTemplateRef, watch } from 'vue'
import { useRoute, useRouter } from 'vue-router'
import { words } from '@/api/client'
import { describeKeys } from '@/frame/help'
import { useKeys } from '@/frame/keys'
import { includes, useRepository } from '@/frame/repository'
import { useAnnotating, useWrittenAbout } from '@/notes'
import { useAdding, useSelection, type Candidate } from '@/plans/adding'
import { count, many } from '@/words/format'
import { Facets, Views } from '@/listing'
import { useMarks, type Marked } from './marks'
import Rules from './Rules.vue'
import Sections from './Sections.vue'
import SetAside from './SetAside.vue'
import { keys, queryOf, say, titles, type Key, type TaggedItem } from './tagged'
import TaggedCard from './TaggedCard.vue'
import TaggedRows from './TaggedRows.vue'
import { useTagged } from './useTagged'
import Words from './Words.vue'

const repository = useRepository()
const route = useRoute()
const router = useRouter()
const adding = useAdding()
const annotating = useAnnotating()
const id = computed(() => repository.value.id)
const writer = computed(() => includes(repository.value.role, 'writer'))
const query = computed(() => queryOf(route.query))
const by = computed<Key>(() => query.value.by ?? 'word')
const typed = ref(query.value.text ?? '')
const asked = refDebounced(typed, 200)
watch(asked, (t) => void router.replace({ query: { ...route.query, text: t.trim() || undefined } }))
watch(
  () => query.value.text,
  (t) => (t ?? '') !== typed.value.trim() && (typed.value = t ?? ''),
)
const { head, error, isFetching, item, want } = useTagged(id, query)
const at = ref(0)
const picked = ref(new Set<string>())
watch(query, (now, before) => {
  if (JSON.stringify(now) === JSON.stringify(before)) return
  at.value = 0
  picked.value = new Set()
})
watch(head, (h) => h && at.value >= h.total && (at.value = Math.max(0, h.total - 1)))
const here = computed(() => item(at.value))
const list = useTemplateRef('list')
const marks = useMarks(id)

function candidate(t: TaggedItem | undefined): Candidate | null {
  if (!t || t.state === 'gone') return null
  const meaning = head.value?.words.find((w) => w.word === t.word)?.meaning
  return {
    kind: 'lines',
    path: t.path,
    start: t.line,
    end: t.end_line,
    title: t.said,
    lines: t.end_line - t.line + 1,
    why: `tagged comment: ${meaning ?? t.word}`,
  }
}
useSelection(() => candidate(here.value))
useWrittenAbout(() => {
  const t = here.value
  return t && t.state !== 'gone' ? { path: t.path, start: t.line, end: t.end_line } : null
})

/** What an action is for: those picked, else the one at hand. */
const targets = computed<TaggedItem[]>(() => {
  if (!picked.value.size) return here.value?.lead ? [here.value] : []
  const out: TaggedItem[] = []
  for (let n = 0; n < (head.value?.total ?? 0); n++) {
    const t = item(n)
    if (t && picked.value.has(t.lead)) out.push(t)
  }
  return out
})
const asideOpen = ref(false)
function mark(state: Marked, reason = '') {
  const t = targets.value
  if (!t.length || !writer.value) return
  const was = t[0]!
  const before: Marked = was.state === 'kept' || was.state === 'aside' ? was.state : 'open'
  picked.value = new Set()
  void marks.mark(
    t.map((x) => x.lead),
    state,
    reason,
    { state: before, reason: was.reason },
  )
}
function step(to: number, range = false) {
  const next = list.value?.next(at.value, to) ?? at.value
  choose(next, range)
  list.value?.scrollTo(next)
}
/** Picks everything between the one at hand and another. */
function choose(n: number, range: boolean) {
  if (range) {
    const next = new Set(picked.value)
    for (let k = Math.min(n, at.value); k <= Math.max(n, at.value); k++) {
      const lead = item(k)?.lead
      if (lead) next.add(lead)
    }
    picked.value = next
  }
  at.value = n
}
function pick() {
  const lead = here.value?.lead
  if (!lead) return
  const next = new Set(picked.value)
  if (!next.delete(lead)) next.add(lead)
  picked.value = next
}
const open = (n: number) => {
  const t = item(n)
  if (t)
    void router.push({
      name: 'read',
      params: { repository: id.value },
      query: { path: t.path, lines: String(t.line), ...(t.state === 'gone' ? { at: `${t.gone_commit}^` } : {}) },
    })
}
useKeys({
  ArrowDown: () => step(1),
  ArrowUp: () => step(-1),
  ArrowLeft: () => list.value?.fold(at.value, false),
  ArrowRight: () => list.value?.fold(at.value, true),
  Enter: () => open(at.value),
  x: pick,
  k: () => mark('kept'),
  o: () => mark('open'),
  s: () => writer.value && targets.value.length && (asideOpen.value = true),
  Escape: () => (picked.value = new Set()),
})
describeKeys('Tagged comments', [
  ['↑ ↓', 'the comment above or below'],
  ['← →', 'close or open its group'],
  ['Enter', 'read it in its file'],
  ['x', 'pick it; Shift and a click pick a run'],
  ['k', 'keep on purpose'],
  ['s', 'set aside, with a reason'],
  ['o', 'bring back'],
  ['a', 'add it to the plan at hand'],
])
const rulesOpen = ref(false)
const wordsOpen = ref(false)
const table = (format: string) => {
  const q = new URLSearchParams({ format })
  for (const [k, v] of Object.entries(query.value)) for (const x of Array.isArray(v) ? v : [v]) q.append(k, String(x))
  return `/api/repositories/${id.value}/tagged/table?${q}`
}
const narrowed = computed(() => keys.some((k) => query.value[k]?.length) || !!query.value.text)
</script>

<template>
  <div class="page-tagged">
    <Sections>
      <Views :repository="id" page="tagged" :writer="writer" />
      <button class="link" title="The agreed words, what they mean, and your team’s own" @click="wordsOpen = true">words</button>
      <button class="link" title="Rules that hide tagged comments" @click="rulesOpen = true">
        {{ head?.hidden ? `${count(head.hidden)} hidden by rules` : 'rules' }}
      </button>
      <span class="soft">take along <a :href="table('csv')" download>CSV</a> · <a :href="table('json')" download>JSON</a></span>
    </Sections>
    <div class="body">
      <aside>
        <label class="by"
          >Grouped by
          <a-select
            :value="by"
            size="small"
            :options="keys.map((k) => ({ value: k, label: titles[k].toLowerCase() }))"
            style="width: 132px"
            @change="(v: unknown) => router.replace({ query: { ...route.query, by: String(v) } })"
        /></label>
        <Facets
          :facets="head?.facets ?? []"
          :titles="titles"
          :say="say"
          :hint="(k, v) => (k === 'word' ? head?.words.find((w) => w.word === v)?.meaning : undefined)"
          :usual="{ state: 'open' }"
        />
      </aside>
      <div class="main">
        <div class="head">
          <p>
            <b>{{ head ? many(head.total, 'tagged comment') : 'Tagged comments' }}</b>
            <span v-if="head?.stale" class="soft"> · a survey is under way; this is what the last one found</span>
            <router-link v-if="narrowed" :to="{ query: { by: route.query.by } }" class="clear">show all that are open</router-link>
          </p>
          <a-input
            v-model:value="typed"
            name="narrow"
            placeholder="narrow by words, path or symbol"
            allow-clear
            style="width: 236px"
            aria-label="Narrow by words, path or symbol"
          />
        </div>
        <p v-if="error" class="state" role="alert">{{ words(error) }}</p>
        <p v-else-if="head && !head.total && !isFetching" class="state soft">
          <template v-if="head.hidden">Everything that would fit is hidden by rules: {{ count(head.hidden) }}.</template>
          <template v-else-if="narrowed">No tagged comment fits all of this.</template>
          <template v-else>No comment of this repository carries an open agreed word. Which words count is under “words”.</template>
        </p>
        <TaggedRows
          v-if="head?.total"
          ref="list"
          :groups="head.groups"
          :by="by"
          :words="head.words"
          :item="item"
          :at="at"
          :picked="picked"
          :pin-at="head.pin_at"
          @at="choose"
          @want="want"
          @open="open"
        />
        <div v-if="head" class="foot soft">
          <span v-if="picked.size">
            {{ many(picked.size, 'comment') }} picked:
            <template v-if="writer">
              <button class="link" @click="mark('kept')">keep on purpose</button> ·
              <button class="link" @click="asideOpen = true">set aside</button> ·
              <button class="link" @click="mark('open')">bring back</button> ·
            </template>
            <button class="link" @click="picked = new Set()">let go</button>
          </span>
          <template v-else>
            <span><kbd>↑</kbd> <kbd>↓</kbd> choose</span><span><kbd>x</kbd> pick several</span><span><kbd>Enter</kbd> read</span>
          </template>
        </div>
      </div>
      <TaggedCard
        v-if="here && head"
        :repository="id"
        :item="here"
        :words="head.words"
        :pin="repository.pin"
        :pin-at="head.pin_at"
        :writer="writer"
        @keep="mark('kept')"
        @aside="asideOpen = true"
        @back="mark('open')"
        @add="adding.current.value = candidate(here)"
        @write="annotating.asked.value++"
      />
    </div>
    <SetAside
      v-if="asideOpen"
      v-model="asideOpen"
      :leads="targets.length"
      :title="targets.length === 1 ? targets[0]!.said : ''"
      @aside="(why) => mark('aside', why)"
    />
    <Rules v-if="rulesOpen" v-model="rulesOpen" :repository="id" :writer="writer" />
    <Words v-if="wordsOpen" v-model="wordsOpen" :repository="id" :writer="writer" />
  </div>
</template>

<style scoped>
.page-tagged {
  height: 100%;
  display: flex;
  flex-direction: column;
}
.body {
  flex: 1;
  min-height: 0;
  display: grid;
  grid-template-columns: 232px minmax(0, 1fr) 388px;
  border-top: 1px solid var(--rule);
}
aside {
  border-right: 1px solid var(--rule);
  padding: 12px 10px 12px var(--gap);
  overflow: auto;
}
.by {
  display: flex;
  align-items: center;
  gap: 8px;
  margin-bottom: 12px;
  white-space: nowrap;
}
.main {
  display: flex;
  flex-direction: column;
  min-height: 0;
  min-width: 0;
}
.head {
  display: flex;
  align-items: center;
  justify-content: space-between;
  gap: 16px;
  padding: 8px 14px 8px 18px;
  border-bottom: 1px solid var(--rule);
}
.head b {
  font: 600 17px/1.3 var(--serif);
}
.clear {
  margin-left: 12px;
  font-size: 12.5px;
}
.state {
  margin: 16px 18px;
}
.foot {
  flex: none;
  display: flex;
  gap: 20px;
  padding: 6px 18px;
  border-top: 1px solid var(--rule);
  font-size: 12px;
  min-height: 32px;
}
@media (max-width: 1100px) {
  .body {
    grid-template-columns: 190px minmax(0, 1fr) 300px;
  }
}
</style>
