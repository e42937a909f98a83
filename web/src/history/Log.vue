<script setup lang="ts">
import { computed, nextTick, onUnmounted, useTemplateRef, watch } from 'vue'
import { useRoute, useRouter } from 'vue-router'
import { api, data, words } from '@/api/client'
import { onChange } from '@/api/events'
import { describeKeys } from '@/frame/help'
import { useKeys } from '@/frame/keys'
import { notice } from '@/frame/notice'
import { useRepository } from '@/frame/repository'
import { count, date, many } from '@/words/format'
import CommitCard from './CommitCard.vue'
import LogRows from './LogRows.vue'
import Narrowing from './Narrowing.vue'
import News from './News.vue'
import Sections from './Sections.vue'
import { around, queryOf, termsOf, type Term } from './terms'
import { useChangedLines } from './useChangedLines'
import { pageSize, useLog } from './useLog'

const repository = useRepository()
const route = useRoute()
const router = useRouter()
const id = computed(() => repository.value.id)
const terms = computed(() => termsOf(route.query))
const log = useLog(id, terms)
const { head, error, again } = log
const changed = useChangedLines(id, terms)
const { asks, rows: changedRows, read, end, fault, running } = changed
const selected = computed(() => (typeof route.query.commit === 'string' ? route.query.commit : ''))
const top = Number(typeof route.query.row === 'string' ? route.query.row : 0) || 0
const list = useTemplateRef('list')
const field = useTemplateRef('field')

const total = computed(() => (asks.value ? changedRows.value.length : (head.value?.total ?? 0)))
const row = (n: number) => (asks.value ? changedRows.value[n] : log.row(n))
const change = (next: Term[]) =>
  void router.push({ query: { ...route.query, keep: undefined, drop: undefined, row: undefined, ...queryOf(next) } })
const select = (commit: string) => void router.replace({ query: { ...route.query, commit } })
const open = (commit: string) => void router.push({ name: 'commit', params: { repository: id.value, commit }, query: queryOf(terms.value) })
function stand(n: number) {
  if (String(n) !== (route.query.row ?? '0')) void router.replace({ query: { ...route.query, row: n ? String(n) : undefined } })
}
async function step(by: number) {
  let n = -1
  for (const [page, rows] of log.pages) {
    const i = rows.findIndex((r) => r.id === selected.value)
    if (i >= 0) n = page * pageSize + i
  }
  if (asks.value) n = changedRows.value.findIndex((r) => r.id === selected.value)
  const to = Math.max(0, Math.min(total.value - 1, n < 0 ? top : n + by))
  const w = row(to)
  if (!w) return
  select(w.id)
  await list.value?.show(to)
}
async function goTo(commit: string) {
  const n = await log.find(commit)
  if (n >= 0) await list.value?.show(n, 'center')
  return n
}
// a commit in the address is brought into sight, unless the place is said as well
let arrived = false
watch(
  () => [head.value, list.value] as const,
  async ([h, l]) => {
    if (!h || !l || arrived) return
    arrived = true
    if (!selected.value || asks.value) return
    // a tag or branch in the address stands for its commit
    const full = selected.value.length >= 40
    const n = route.query.row === undefined || !full ? await goTo(selected.value) : -1
    if (!full && n >= 0 && row(n)) select(row(n)!.id)
  },
)
const toPin = async () => {
  select(repository.value.pin)
  await goTo(repository.value.pin)
}
useKeys({
  ArrowDown: () => void step(1),
  ArrowUp: () => void step(-1),
  j: () => void step(1),
  k: () => void step(-1),
  Enter: () => selected.value && open(selected.value),
  f: () => void nextTick(() => field.value?.focus()),
  p: () => void toPin(),
})
describeKeys('The log', [
  ['↑ ↓', 'the commit above or below'],
  ['Enter', 'open it'],
  ['f', 'narrow the commits'],
  ['p', 'to the pin'],
])
onUnmounted(
  onChange((e) => {
    if (e?.kind === 'history' && e.repository === id.value) void again()
  }),
)
/** Which terms, taken away, would leave something. */
const ways = computed(() => (head.value?.terms ?? []).map((t, n) => ({ t, n })).filter(({ t }) => t.without > 0))
const unread = computed(() => error.value && words(error.value).includes('being read'))
async function feed() {
  try {
    const made = await data(api.POST('/api/repositories/{repository}/feed', { params: { path: { repository: id.value } } }))
    const q = tableAddress('')
      .split('?')[1]!
      .replace(/^format=&?/, '')
    await navigator.clipboard.writeText(`${location.origin}${made.path}${q ? `?${q}` : ''}`)
    notice('The address of your feed is copied. Whoever has it reads what you may read; making a new one stops it.')
  } catch (e) {
    notice(words(e), { fault: true })
  }
}
const tableAddress = (format: string) => {
  const q = new URLSearchParams({ format })
  const { keep, drop } = queryOf(terms.value)
  for (const k of keep ?? []) q.append('keep', k)
  for (const k of drop ?? []) q.append('drop', k)
  return `/api/repositories/${id.value}/log/table?${q}`
}
</script>

<template>
  <div class="log">
    <Sections>
      <span class="room" />
      <News />
    </Sections>
    <div class="ask">
      <Narrowing ref="field" :repository="id" :terms="terms" :told="head?.terms ?? []" @change="change" />
    </div>
    <p class="state soft" role="status">
      <template v-if="asks">
        <template v-if="fault"
          ><span class="fault">{{ fault }}</span></template
        >
        <template v-else-if="end">
          {{ many(changedRows.length, 'commit') }} found in the changes of {{ count(end.read)
          }}<template v-if="end.more">; these are the first, there may be others</template
          ><span v-if="end.fault" class="fault"> — {{ end.fault }}</span
          >.<template v-if="!end.found">
            No line that was added or taken away holds it as it is typed; merges are left out, and capitals do not count.</template
          >
        </template>
        <template v-else-if="running">
          {{ many(changedRows.length, 'commit') }} so far; the changes of {{ count(read) }} of {{ count(head?.total ?? 0) }} are read
          <button class="link" @click="changed.stop()">stop</button>
        </template>
        <template v-else>Stopped after the changes of {{ many(read, 'commit') }}; there may be others.</template>
      </template>
      <template v-else-if="head && !head.problems.length">
        <template v-if="terms.length">{{ count(head.total) }} of {{ many(head.all, 'commit') }}</template
        ><template v-else>{{ many(head.all, 'commit') }} on all branches and tags</template
        ><template v-if="head.first"
          >,
          {{
            date(head.first) === date(head.last) ? `on ${date(head.first)}` : `${date(head.first)} to ${date(head.last)}, both included`
          }}</template
        >.
        <button v-if="head.pin_row >= 0" class="link" @click="toPin">to the pin</button>
        <span v-if="total" class="take"
          >take away as <a :href="tableAddress('csv')" download>CSV</a>, <a :href="tableAddress('json')" download>JSON</a>,
          <button class="link" title="An address for a feed reader: new commits that fit what is asked here" @click="feed">
            a feed
          </button></span
        >
        <template v-if="head.unread"> {{ many(head.unread, 'branch or tag', 'branches and tags') }} are still being read.</template>
        <template v-if="!head.lanes && head.total"> Some commits are left out, so no lines are drawn between them.</template>
      </template>
    </p>
    <div class="body">
      <div class="list">
        <div v-if="head?.problems.length" class="note" role="alert">
          <p v-for="p in head.problems" :key="p" class="fault">{{ p }}.</p>
          <p class="soft">Nothing is shown until that is taken away or written otherwise.</p>
        </div>
        <div v-else-if="unread" class="note">
          <p>The history of this repository is being read. The commits stand here when that is done.</p>
        </div>
        <p v-else-if="error" class="note fault" role="alert">{{ words(error) }} <button class="link" @click="again">again</button></p>
        <div v-else-if="head && !head.total && !asks" class="note">
          <p>No commit fits all of this together.</p>
          <ul>
            <li v-for="{ t, n } in ways" :key="n">
              <button class="link" @click="change(terms.filter((_, i) => i !== n))">
                without “{{ around(t.says)[0] }} {{ t.value }} {{ around(t.says)[1] }}”
              </button>
              {{ many(t.without, 'commit') }}
            </li>
          </ul>
          <p v-if="!ways.length" class="soft">Taking any one of them away does not help either.</p>
        </div>
        <p v-else-if="!head" class="note soft">Asking …</p>
        <LogRows
          v-else
          ref="list"
          :key="asks ? 'changed' : 'all'"
          :total="total"
          :row="row"
          :lanes="head.lanes && !asks"
          :selected="selected"
          :top="top"
          @select="select"
          @open="open"
          @want="log.want"
          @top="stand"
        />
      </div>
      <CommitCard v-if="selected" :key="selected" :commit="selected" class="card" @open="open(selected)" />
      <aside v-else class="card legend">
        <h2>How to read this</h2>
        <p>
          The thick line is the <b>trunk</b>: what the pin came from, first parents only. Thin lines at its left are branches. A ring is a
          merge.
        </p>
        <p>The bar at the right of a commit is how many lines it changed.</p>
        <p>Choose a commit to see all that it says.</p>
      </aside>
    </div>
  </div>
</template>

<style scoped>
.log {
  height: 100%;
  display: flex;
  flex-direction: column;
}
.room {
  flex: 1;
}
.take {
  float: right;
}
.ask {
  padding: 0 var(--gap);
}
.state {
  padding: 5px var(--gap) 7px;
  font-size: 12.5px;
  min-height: 30px;
}
.body {
  flex: 1;
  min-height: 0;
  display: grid;
  grid-template-columns: minmax(0, 1fr) 340px;
  border-top: 1px solid var(--rule);
}
.list {
  min-height: 0;
  min-width: 0;
}
.card {
  border-left: 1px solid var(--rule);
  background: var(--sheet);
  overflow: auto;
  padding: 14px 18px;
}
.legend p {
  margin-top: 8px;
  font-family: var(--serif);
  font-size: 14.5px;
}
.note {
  padding: 18px var(--gap);
}
.note ul {
  margin: 8px 0;
  padding-left: 18px;
}
</style>
