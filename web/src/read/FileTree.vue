<script setup lang="ts">
import { useVirtualizer } from '@tanstack/vue-virtual'
import { useMediaQuery } from '@vueuse/core'
import { computed, nextTick, ref, watch } from 'vue'
import { useRoute, useRouter } from 'vue-router'
import { api, data, words } from '@/api/client'
import { describeKeys } from '@/frame/help'
import { useKeys } from '@/frame/keys'
import { includes, useRepository } from '@/frame/repository'
import { useOverview } from '@/overview/use'
import { useWrittenAbout } from '@/notes'
import { useAdding, useCarrying, useSelection, type Candidate } from '@/plans/adding'
import SurveyState from '@/shelf/SurveyState.vue'
import { count, date, many, size } from '@/words/format'
import InShort from './InShort.vue'
import { orders, Tree, type OrderName, type Row } from './tree'

const props = defineProps<{ folder: string }>()
const repository = useRepository()
const route = useRoute()
const router = useRouter()
const id = computed(() => repository.value.id)
const { data: overview } = useOverview(id)
const adding = useAdding()
const order = computed<OrderName>(() =>
  typeof route.query.order === 'string' && route.query.order in orders ? (route.query.order as OrderName) : 'tree',
)
const fault = ref('')

const fetchFolder = async (folder: string) => {
  const got = await data(
    api.GET('/api/repositories/{repository}/folder', { params: { path: { repository: id.value }, query: { path: folder } } }),
  )
  return got.children
}
const tree = ref(new Tree(fetchFolder))
const attempt = (p: Promise<void>) => p.catch((e) => (fault.value = words(e)))

// A stage that ends brings new figures: the open folders are fetched anew.
watch(
  () => overview.value?.survey.stages.filter((s) => s.state === 'complete').length,
  async () => {
    const next = new Tree(fetchFolder)
    await attempt(next.unfold(''))
    for (const f of tree.value.open) if (f) await next.unfold(f).catch(() => {})
    if (props.folder) await attempt(next.reveal(props.folder))
    tree.value = next
  },
  { immediate: true },
)
watch(
  () => props.folder,
  (f) => f && attempt(tree.value.reveal(f)),
)

const rows = computed(() => tree.value.rows(orders[order.value]))
const pane = ref<HTMLElement | null>(null)
/** In pixels; a finger needs more than a mouse. */
const phone = useMediaQuery('(max-width: 700px)')
const rowHeight = computed(() => (phone.value ? 32 : 25))
const virtual = useVirtualizer(
  computed(() => ({ count: rows.value.length, getScrollElement: () => pane.value, estimateSize: () => rowHeight.value, overscan: 20 })),
)
const at = ref(0)
const current = computed<Row | undefined>(() => rows.value[at.value])
useWrittenAbout(() => {
  const p = current.value?.path
  return p ? { path: p.path, folder: p.folder } : { folder: true, path: props.folder ?? '' }
})
const carry = useCarrying()
function candidate(p: Row['path']): Candidate {
  const lines = p.folder ? Math.min(p.lines ?? 0, 500) : (p.lines ?? 0)
  return { kind: p.folder ? 'folder' : 'file', path: p.path, title: p.name, lines }
}
useSelection(() => (current.value ? candidate(current.value.path) : null))
watch(
  () => [props.folder, rows.value.length],
  async () => {
    const i = rows.value.findIndex((r) => r.path.path === props.folder)
    if (!props.folder || i < 0) return
    at.value = i
    await nextTick() // the list has its height then
    virtual.value.scrollToIndex(i, { align: 'start' })
  },
)

function toggle(r: Row) {
  if (tree.value.open.has(r.path.path)) tree.value.fold(r.path.path)
  else void attempt(tree.value.unfold(r.path.path))
}
function open(r: Row | undefined) {
  if (!r) return
  if (r.path.folder) toggle(r)
  else void router.push({ name: 'read', params: { repository: id.value }, query: { path: r.path.path } })
}
function step(by: number) {
  at.value = Math.max(0, Math.min(rows.value.length - 1, at.value + by))
  virtual.value.scrollToIndex(at.value)
}
useKeys({
  ArrowDown: () => step(1),
  ArrowUp: () => step(-1),
  ArrowRight: () => current.value?.path.folder && !tree.value.open.has(current.value.path.path) && toggle(current.value),
  ArrowLeft: () => {
    const c = current.value
    if (!c) return
    if (c.path.folder && tree.value.open.has(c.path.path)) return toggle(c)
    for (let i = at.value - 1; i >= 0; i--) if (rows.value[i]!.depth < c.depth) return void (at.value = i)
  },
  Enter: () => open(current.value),
})
describeKeys('Files', [
  ['↑ ↓', 'the row above or below'],
  ['→ ←', 'unfold and fold a folder'],
  ['Enter', 'open the file'],
])
const columns: { name: OrderName; title: string }[] = [
  { name: 'lines', title: 'Lines' },
  { name: 'size', title: 'Size' },
  { name: 'changes', title: 'Changes' },
  { name: 'recent', title: 'Recent' },
]
const orderTo = (name: OrderName) => ({ query: { ...route.query, order: name === 'tree' ? undefined : name } })
</script>

<template>
  <div class="tree">
    <SurveyState v-if="overview && overview.survey.state !== 'complete'" :survey="overview.survey" class="state" />
    <p v-if="fault" class="fault state" role="alert">{{ fault }}</p>
    <div class="head row">
      <span class="name"
        ><router-link :to="orderTo('tree')" class="plain" :class="{ by: order === 'tree' }">File or folder</router-link></span
      >
      <span class="role">Role</span>
      <span class="language">Language</span>
      <span v-for="c in columns" :key="c.name" class="n" :class="c.name === 'changes' || c.name === 'recent' ? 'happened' : 'is'">
        <router-link
          :to="orderTo(c.name)"
          class="plain"
          :class="{ by: order === c.name }"
          :title="c.name === 'recent' ? 'Changes, each counting half once it is a half-life old' : `Order by ${c.title.toLowerCase()}`"
          >{{ c.title }}</router-link
        >
      </span>
      <span class="when">Last change</span>
      <span class="marks">Marks</span>
    </div>
    <div ref="pane" class="pane" role="tree" aria-label="Files and folders">
      <div :style="{ height: `${virtual.getTotalSize()}px`, position: 'relative' }">
        <div class="window" :style="{ transform: `translateY(${virtual.getVirtualItems()[0]?.start ?? 0}px)` }">
          <div
            v-for="v in virtual.getVirtualItems()"
            :key="rows[v.index]!.path.path"
            class="row"
            :class="{ at: v.index === at }"
            role="treeitem"
            :aria-level="rows[v.index]!.depth + 1"
            :aria-expanded="rows[v.index]!.path.folder ? tree.open.has(rows[v.index]!.path.path) : undefined"
            :aria-selected="v.index === at"
            :data-path="rows[v.index]!.path.path"
            v-bind="carry(candidate(rows[v.index]!.path))"
            @click="at = v.index"
            @dblclick="open(rows[v.index])"
          >
            <template v-for="r in [rows[v.index]!]" :key="r.path.path">
              <span class="name" :style="{ paddingLeft: `${r.depth * 18}px` }">
                <button
                  v-if="r.path.folder"
                  class="fold"
                  :aria-label="`${tree.open.has(r.path.path) ? 'Fold' : 'Unfold'} ${r.path.path}`"
                  @click.stop="((at = v.index), toggle(r))"
                >
                  {{ tree.open.has(r.path.path) ? '▾' : '▸' }} <b>{{ r.path.name }}/</b>
                </button>
                <router-link v-else :to="{ name: 'read', params: { repository: id }, query: { path: r.path.path } }" class="plain file">{{
                  r.path.name
                }}</router-link>
              </span>
              <span class="role soft" :title="r.path.role_evidence">{{ r.path.folder ? many(r.path.files, 'file') : r.path.role }}</span>
              <span class="language soft">{{
                r.path.language || (r.path.folder ? '' : r.path.mode === 'file' || r.path.mode === 'executable' ? '' : r.path.mode)
              }}</span>
              <span class="n">{{ count(r.path.lines) }}</span>
              <span class="n soft">{{ size(r.path.size) }}</span>
              <span class="n">{{ count(r.path.commits) }}</span>
              <span class="n soft">{{ r.path.recent === null ? '–' : r.path.recent.toFixed(1) }}</span>
              <span class="when soft">{{ date(r.path.last_at) }}</span>
              <span class="marks">
                <span v-if="r.path.starts" :title="many(r.path.starts, 'start')" :aria-label="many(r.path.starts, 'start')">◗</span>
                <span
                  v-if="r.path.tagged"
                  class="tag"
                  :title="many(r.path.tagged, 'tagged comment')"
                  :aria-label="many(r.path.tagged, 'tagged comment')"
                  >◇{{ r.path.tagged > 1 ? count(r.path.tagged) : '' }}</span
                >
                <span v-if="r.path.role === 'test'" title="a test" aria-label="a test">□</span>
              </span>
            </template>
          </div>
        </div>
      </div>
      <p v-if="!rows.length" class="soft none">
        {{ overview?.survey.state === 'complete' ? 'There are no files at this commit.' : 'The tree is not listed yet.' }}
      </p>
    </div>
    <InShort
      v-if="current"
      :repository="id"
      :path="current.path.path"
      :folder="current.path.folder"
      :writer="includes(repository.role, 'writer')"
    />
    <div class="foot soft">
      <span>◗ a start</span><span><i class="tag">◇</i> tagged comments</span><span>□ a test</span>
      <span class="room" />
      <span v-if="overview"
        >{{ many(overview.overview.counts.files, 'file') }} in {{ many(overview.overview.counts.folders, 'folder') }}; a folder's figures
        are its files' summed</span
      >
      <button class="link" :disabled="!current" @click="adding.current.value = adding.selected.value">
        add {{ current?.path.name }} to the plan <kbd>a</kbd>
      </button>
    </div>
  </div>
</template>

<style scoped>
.tree {
  height: 100%;
  display: flex;
  flex-direction: column;
}
.state {
  margin: 14px var(--gap) 0;
}
.row {
  display: grid;
  grid-template-columns: minmax(200px, 1fr) 104px 112px 78px 74px 78px 66px 104px 74px;
  align-items: center;
  height: 25px;
  padding: 0 var(--gap);
  gap: 0 10px;
  white-space: nowrap;
}
.row > span {
  overflow: hidden;
  text-overflow: ellipsis;
}
.head {
  flex: none;
  height: 36px;
  border-bottom: 1px solid var(--rule);
  color: var(--ink-soft);
}
.head .is a {
  color: var(--teal);
}
.head .happened a {
  color: var(--ochre-text);
}
.by {
  font-weight: 600;
  text-decoration: underline;
  text-underline-offset: 4px;
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
.window .row:hover {
  background: var(--hover);
}
.window .row.at {
  background: var(--hover);
  box-shadow: inset 3px 0 var(--ink);
}
.n {
  text-align: right;
}
.when {
  text-align: right;
}
.fold {
  border: 0;
  background: none;
  padding: 0;
  font: inherit;
  color: inherit;
  cursor: pointer;
}
.fold b {
  font-family: var(--serif);
  font-size: 14.5px;
}
.file {
  padding-left: 16px;
}
.tag {
  color: var(--ochre-text);
  font-style: normal;
}
.marks {
  display: flex;
  gap: 6px;
}
.none {
  padding: 20px var(--gap);
}
.foot {
  flex: none;
  display: flex;
  gap: 18px;
  padding: 7px var(--gap);
  border-top: 1px solid var(--rule);
  font-size: 12px;
}
.room {
  flex: 1;
}
@media (max-width: 1100px) {
  .row {
    grid-template-columns: minmax(180px, 1fr) 92px 84px 60px 66px 62px 52px 96px 60px;
    gap: 0 8px;
  }
}
@media (max-width: 700px) {
  /* the name, how large it is, how often it changed */
  .row {
    grid-template-columns: minmax(0, 1fr) 62px 66px;
    padding: 0 12px;
    height: 32px;
  }
  .row > span:nth-child(2),
  .row > span:nth-child(3),
  .row > span:nth-child(5),
  .row > span:nth-child(n + 7),
  .foot > span {
    display: none;
  }
}
</style>
