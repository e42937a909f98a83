<script setup lang="ts">
import { computed, nextTick, onScopeDispose, ref, watch } from 'vue'
import { useRoute, useRouter } from 'vue-router'
import { words } from '@/api/client'
import { describeKeys } from '@/frame/help'
import { useKeys } from '@/frame/keys'
import { notice } from '@/frame/notice'
import { useRepository } from '@/frame/repository'
import { usePageTitle } from '@/frame/title'
import { many } from '@/words/format'
import ComposerHead from './ComposerHead.vue'
import ComposerList from './ComposerList.vue'
import { useComposing } from './composing'
import Coverage from './Coverage.vue'
import { useDraft } from './draft'
import Faults from './Faults.vue'
import Health from './Health.vue'
import IdeaList from './IdeaList.vue'
import { joinChapter, keyAt, moveAll, numeral, splitChapter, stepAll, steps } from './model'
import PassageFields from './PassageFields.vue'
import SeveralFields from './SeveralFields.vue'
import { newId, usePlanAtHand, usePlanChanges, type Op } from './use'

/** Where a plan is written: its chapters and passages at the left, the one at hand
 * with its code at the right. */
const repository = useRepository()
const route = useRoute()
const router = useRouter()
const id = computed(() => repository.value.id)
const planId = computed(() => Number(route.params.plan))
const draft = useDraft(id, planId)
const plan = draft.plan
const { take } = usePlanAtHand(id)
const changes = usePlanChanges(id)
watch(planId, (p) => take(p), { immediate: true })
usePageTitle(() => plan.value?.title ?? '')

const all = computed(() => (plan.value ? steps(plan.value) : []))
/** The passage at hand; the address follows a moment later. */
const at = ref('')
watch(
  () => route.query.passage,
  (p) => (at.value = typeof p === 'string' ? p : ''),
  { immediate: true },
)
let due = 0
function putAt(p: string) {
  at.value = p
  clearTimeout(due)
  due = window.setTimeout(() => void router.replace({ query: { ...route.query, passage: p || undefined } }), 80)
}
onScopeDispose(() => clearTimeout(due))
const current = computed(() => all.value.find((s) => s.passage.id === at.value)?.passage)
/** The passage in the form: also one that somebody removed while it is open. */
const open = computed(() => current.value ?? (at.value ? draft.removal(at.value)?.passage : undefined))
/** What is chosen together; the one at hand is always among them. */
const also = ref(new Set<string>())
const chosen = computed(
  () => new Set([...also.value].filter((p) => all.value.some((s) => s.passage.id === p)).concat(current.value ? at.value : [])),
)
function choose(p: string, how: 'one' | 'also' | 'range' = 'one') {
  const order = all.value.map((s) => s.passage.id)
  if (how === 'also') {
    const next = new Set(chosen.value)
    if (next.has(p) && next.size > 1) next.delete(p)
    else next.add(p)
    also.value = next
    if (!next.has(at.value) || next.has(p)) putAt(next.has(p) ? p : ([...next][0] ?? ''))
    return
  }
  if (how === 'range' && at.value) {
    const [a, b] = [order.indexOf(at.value), order.indexOf(p)].sort((x, y) => x - y) as [number, number]
    also.value = new Set([...chosen.value, ...order.slice(Math.max(0, a), b + 1)])
  } else also.value = new Set()
  putAt(p)
}
/** Whether a key is meant for the list: a row has the focus, or nothing has. */
const inList = (e: KeyboardEvent) => e.target === document.body || !!(e.target as HTMLElement).closest('[data-passage]')
/** Binds a key to the list. A row that has the focus is the one at hand first. */
const list = (act: () => unknown) => (e: KeyboardEvent) => {
  if (!inList(e)) return false
  const row = (e.target as HTMLElement).closest<HTMLElement>('[data-passage]')?.dataset.passage
  if (row && !chosen.value.has(row)) choose(row)
  void act()
}
/** The focus goes with what is at hand. */
async function focusRow() {
  await nextTick()
  const row = document.querySelector<HTMLElement>(`[data-passage="${CSS.escape(at.value)}"]`)
  row?.focus({ preventScroll: true })
  row?.scrollIntoView({ block: 'nearest' })
}
const fault = ref('')
async function apply(ops: readonly (Op | null | undefined)[]): Promise<boolean> {
  fault.value = ''
  try {
    await draft.apply(ops.filter((o): o is Op => !!o))
    return true
  } catch (e) {
    fault.value = words(e)
    return false
  }
}
async function turn(redo: boolean) {
  fault.value = ''
  try {
    await (redo ? draft.redo() : draft.undo())
  } catch (e) {
    fault.value = words(e)
  }
}
const undoable = { label: 'undo', do: () => void turn(false) }

async function move(by: -1 | 1) {
  if (!plan.value || !chosen.value.size) return
  void apply(stepAll(plan.value, chosen.value, by))
  await focusRow()
}
function walk(by: number, extend = false) {
  const i = all.value.findIndex((s) => s.passage.id === at.value)
  const next = all.value[i < 0 ? 0 : Math.max(0, Math.min(all.value.length - 1, i + by))]
  if (!next) return
  choose(next.passage.id, extend ? 'range' : 'one')
  void focusRow()
}
async function remove() {
  const ids = [...chosen.value]
  const title = current.value?.title
  if (!ids.length) return
  const rest = all.value.filter((s) => !chosen.value.has(s.passage.id))
  const here = all.value.findIndex((s) => s.passage.id === at.value)
  const after = rest.find((s) => s.number > here) ?? rest.at(-1)
  choose(after?.passage.id ?? '')
  void focusRow()
  if (await apply(ids.map((p) => ({ kind: 'remove-passage', id: p }))))
    notice(ids.length > 1 ? `${many(ids.length, 'passage')} removed.` : `“${title}” is removed.`, { action: undoable })
}
function newChapter() {
  const chapters = plan.value?.in_order ?? []
  const title = `Chapter ${numeral(chapters.length + 1)}`
  void apply([{ kind: 'add-chapter', new_chapter: { id: newId(), order: keyAt(chapters, chapters.length), title } }])
}
/** Something to try stands nowhere in the code: it is begun here. */
async function newTrial() {
  const chapters = plan.value?.in_order ?? []
  const c = chapters.find((x) => x.id === current.value?.chapter) ?? chapters.at(-1)
  if (!c) return
  const passage = newId()
  const place = current.value ? c.passages.findIndex((p) => p.id === at.value) + 1 : c.passages.length
  const target = { kind: 'try' as const, path: '', commit: repository.value.pin, try: { commands: 'make test' } }
  const new_passage = { id: passage, chapter: c.id, order: keyAt(c.passages, place), title: 'Try it', purpose: '', minutes: 5, target }
  if (await apply([{ kind: 'add-passage', new_passage }])) choose(passage)
}
useKeys({
  ArrowDown: list(() => walk(1)),
  ArrowUp: list(() => walk(-1)),
  'Shift+ArrowDown': list(() => walk(1, true)),
  'Shift+ArrowUp': list(() => walk(-1, true)),
  'Alt+ArrowDown': list(() => move(1)),
  'Alt+ArrowUp': list(() => move(-1)),
  'Mod+z': () => void turn(false),
  'Mod+y': () => void turn(true),
  'Mod+Shift+z': () => void turn(true),
  Delete: list(remove),
  Enter: list(() => document.querySelector<HTMLElement>('[name="passage-title"]')?.focus()),
  x: list(() => current.value && plan.value && apply(splitChapter(plan.value, at.value))),
})
describeKeys('Composing', [
  ['↑ ↓', 'the passage above or below; with Shift, several'],
  ['Alt+↑ Alt+↓', 'move what is chosen'],
  ['Enter', 'write in it; Esc leads back to the list'],
  ['x', 'begin a chapter with it'],
  ['Delete', 'remove what is chosen'],
  ['Ctrl+z Ctrl+y', 'undo, redo'],
])
const here = useComposing(id, planId, at)
const sides = ['passage', 'ideas', 'faults', 'coverage', 'pin'] as const
/** What is shown at the right; the address follows. */
const side = ref<(typeof sides)[number]>('passage')
watch(
  () => route.query.side,
  (x) => (side.value = sides.find((s) => s === x) ?? 'passage'),
  { immediate: true },
)
watch(side, (x) => {
  const said = x === 'passage' ? undefined : x
  if (route.query.side !== said) void router.replace({ query: { ...route.query, side: said } })
})
watch(at, (p) => p && (side.value = 'passage'))
function toList() {
  ;(document.activeElement as HTMLElement | null)?.blur()
  void focusRow()
}
const leave = (e: BeforeUnloadEvent) => draft.waiting.value && draft.away.value && e.preventDefault()
window.addEventListener('beforeunload', leave)
onScopeDispose(() => window.removeEventListener('beforeunload', leave))
async function removePlan() {
  try {
    await changes.remove(planId.value)
    await router.push({ name: 'plans', params: { repository: id.value } })
    notice('The plan is removed.')
  } catch (e) {
    notice(words(e), { fault: true })
  }
}
</script>

<template>
  <div v-if="draft.error.value" class="page narrow">
    <h1>This plan cannot be written in</h1>
    <p class="prose">{{ words(draft.error.value) }}</p>
    <p><router-link :to="{ name: 'guide', params: { repository: id, plan: planId } }">Follow it</router-link></p>
  </div>
  <div v-else-if="plan" class="composer" @keydown.esc="toList">
    <section class="list">
      <ComposerHead :repository="id" :plan="plan" :draft="draft" :here="here" @apply="apply" @turn="turn" />
      <p v-if="fault" class="fault" role="alert">{{ fault }}</p>
      <ComposerList
        :repository="id"
        :plan="plan"
        :draft="draft"
        :at="at"
        :chosen="chosen"
        :here="here"
        @choose="choose"
        @apply="apply"
        @drop="(chapter, index) => plan && apply(moveAll(plan, chosen, chapter, index))"
        @join="(chapter) => plan && apply(joinChapter(plan, chapter))"
      />
      <div class="foot">
        <a-button size="small" @click="newChapter">Add a chapter</a-button>
        <a-button size="small" :disabled="!plan.in_order.length" @click="newTrial">Add something to try</a-button>
        <span class="room" />
        <a-popconfirm
          title="Remove this plan with its editions and everybody's progress?"
          ok-text="Remove"
          cancel-text="Keep"
          @confirm="removePlan"
          ><button class="link">remove the plan</button></a-popconfirm
        >
      </div>
    </section>
    <section class="detail">
      <nav class="tabs" aria-label="What is shown">
        <button :class="{ on: side === 'passage' }" @click="side = 'passage'">Passage</button>
        <button :class="{ on: side === 'ideas' }" @click="side = 'ideas'">Ideas {{ plan.ideas.length }}</button>
        <Faults
          :repository="id"
          :plan="plan"
          :acknowledged="draft.waiting.value === 0"
          :open="side === 'faults'"
          @open="side = 'faults'"
          @choose="(p) => (choose(p), (side = 'passage'))"
        />
        <Coverage
          :repository="id"
          :plan="plan"
          :acknowledged="draft.waiting.value === 0"
          :open="side === 'coverage'"
          @open="side = 'coverage'"
          @apply="apply"
          @choose="(p) => (choose(p), (side = 'passage'))"
        />
        <Health
          :repository="id"
          :plan="plan"
          :acknowledged="draft.waiting.value === 0"
          :open="side === 'pin'"
          @open="side = 'pin'"
          @apply="apply"
          @choose="(p) => (choose(p), (side = 'passage'))"
        />
      </nav>
      <IdeaList v-if="side === 'ideas'" class="body" :plan="plan" :draft="draft" @apply="apply" @choose="choose" />
      <SeveralFields
        v-else-if="side === 'passage' && chosen.size > 1"
        class="body"
        :repository="id"
        :plan="plan"
        :chosen="chosen"
        @apply="apply"
        @remove="remove"
        @choose="choose"
      />
      <PassageFields
        v-else-if="side === 'passage' && open"
        :key="open.id"
        class="body"
        :passage="open"
        :plan="plan"
        :repository="id"
        :draft="draft"
        @apply="apply"
        @remove="remove"
        @choose="choose"
        @leave="choose('')"
      />
      <div v-else-if="side === 'passage'" class="page">
        <h2>Choose a passage</h2>
        <p class="prose">
          Its text stands here beside the code it leads to. Passages are added from anywhere: select a file, lines, a name, a folder, a
          commit or a lead, and press <kbd>a</kbd>.
        </p>
      </div>
    </section>
  </div>
  <p v-else class="page soft">Opening the plan …</p>
</template>

<style scoped>
.composer {
  height: 100%;
  display: grid;
  grid-template-columns: minmax(420px, 44%) minmax(0, 1fr);
}
.list {
  overflow: auto;
  padding: 12px 14px 20px var(--gap);
  border-right: 1px solid var(--rule);
}
.foot {
  display: flex;
  gap: 10px;
  align-items: center;
  margin-top: 16px;
}
.room {
  flex: 1;
}
.detail {
  display: flex;
  flex-direction: column;
  min-height: 0;
}
.tabs {
  flex: none;
  display: flex;
  gap: 18px;
  align-items: baseline;
  padding: 8px 20px 0;
}
.tabs :deep(button) {
  padding: 2px 0 4px;
  background: none;
  border: 0;
  border-bottom: 2px solid transparent;
  font: inherit;
  color: var(--ink-soft);
  cursor: pointer;
}
.tabs :deep(button.on) {
  color: var(--ink);
  font-weight: 600;
  border-bottom-color: var(--plum);
}
.body {
  flex: 1;
  min-height: 0;
  overflow: auto;
}
</style>
