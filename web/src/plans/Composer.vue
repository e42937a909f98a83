<script setup lang="ts">
import { computed, nextTick, ref, watch } from 'vue'
import { useRoute, useRouter } from 'vue-router'
import { VueDraggable } from 'vue-draggable-plus'
import { words } from '@/api/client'
import { describeKeys } from '@/frame/help'
import { useKeys } from '@/frame/keys'
import { notice } from '@/frame/notice'
import { useRepository } from '@/frame/repository'
import { many } from '@/words/format'
import { keyAt, moveTo, numeral, step, steps, where } from './model'
import PassageFields from './PassageFields.vue'
import { newId, usePlan, usePlanAtHand, usePlanChanges, type Op, type Passage } from './use'

const repository = useRepository()
const route = useRoute()
const router = useRouter()
const id = computed(() => repository.value.id)
const planId = computed(() => Number(route.params.plan))
const { data: plan, error } = usePlan(id, planId)
const { take } = usePlanAtHand(id)
const changes = usePlanChanges(id)
watch(planId, (p) => take(p), { immediate: true })

const selected = computed(() => (typeof route.query.passage === 'string' ? route.query.passage : ''))
const all = computed(() => (plan.value ? steps(plan.value) : []))
const current = computed(() => all.value.find((s) => s.passage.id === selected.value)?.passage)
const choose = (p: string) => router.replace({ query: { passage: p || undefined } })
const fault = ref('')

/** Drag moves within these copies; the plan itself changes by the operation. */
const lists = ref<{ id: string; passages: Passage[] }[]>([])
watch(plan, (p) => (lists.value = p?.in_order.map((c) => ({ id: c.id, passages: [...c.passages] })) ?? []), { immediate: true })

async function apply(...ops: (Op | null)[]) {
  const real = ops.filter((o) => o !== null)
  if (!real.length) return
  fault.value = ''
  try {
    await changes.apply(planId.value, real)
  } catch (e) {
    fault.value = words(e)
    lists.value = plan.value?.in_order.map((c) => ({ id: c.id, passages: [...c.passages] })) ?? []
  }
}
function dropped(e: { item: HTMLElement; to: HTMLElement; newIndex?: number }) {
  if (!plan.value || e.newIndex === undefined) return
  void apply(moveTo(plan.value, e.item.dataset.passage ?? '', e.to.dataset.chapter ?? '', e.newIndex))
}
async function move(by: -1 | 1) {
  if (!plan.value || !selected.value) return
  await apply(step(plan.value, selected.value, by))
  await nextTick()
  document.querySelector(`[data-passage="${CSS.escape(selected.value)}"]`)?.scrollIntoView({ block: 'nearest' })
}
function walk(by: number) {
  const i = all.value.findIndex((s) => s.passage.id === selected.value)
  const next = all.value[i < 0 ? 0 : Math.max(0, Math.min(all.value.length - 1, i + by))]
  if (next) void choose(next.passage.id)
}
async function undo() {
  fault.value = ''
  try {
    await changes.undo(planId.value)
    notice('Your last change is taken back.')
  } catch (e) {
    fault.value = words(e)
  }
}
useKeys({
  ArrowDown: () => walk(1),
  ArrowUp: () => walk(-1),
  'Alt+ArrowDown': () => void move(1),
  'Alt+ArrowUp': () => void move(-1),
  'Mod+z': () => void undo(),
  Delete: () => current.value && void remove(current.value),
})
describeKeys('Composing', [
  ['↑ ↓', 'the passage above or below'],
  ['Alt+↑ Alt+↓', 'move it'],
  ['Ctrl+z', 'take your last change back'],
  ['Delete', 'take the passage out'],
])
function addChapter() {
  const chapters = plan.value?.in_order ?? []
  void apply({
    kind: 'add-chapter',
    new_chapter: { id: newId(), order: keyAt(chapters, chapters.length), title: `Chapter ${numeral(chapters.length + 1)}` },
  })
}
function moveChapter(i: number, by: -1 | 1) {
  const chapters = plan.value?.in_order ?? []
  const c = chapters[i]
  const to = i + by
  if (!c || to < 0 || to >= chapters.length) return
  void apply({
    kind: 'move-chapter',
    id: c.id,
    order: keyAt(
      chapters.filter((x) => x.id !== c.id),
      to,
    ),
  })
}
async function removeChapter(c: string) {
  await apply({ kind: 'remove-chapter', id: c })
  if (!fault.value) notice('The chapter is removed.', { action: { label: 'undo', do: () => void undo() } })
}
async function remove(p: Passage) {
  await apply({ kind: 'remove-passage', id: p.id })
  if (!fault.value) notice(`“${p.title}” is removed.`, { action: { label: 'undo', do: () => void undo() } })
}
const set = (kind: string, id: string | undefined, field: string, from: string, to: string) =>
  from === to ? undefined : apply({ kind, id, field, from, to })
const value = (e: Event) => (e.target as HTMLInputElement).value
async function share() {
  await navigator.clipboard.writeText(`${location.origin}/r/${id.value}/plans/${planId.value}`)
  notice('The address of this plan is copied. Whoever may read this repository can follow it.')
}
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
  <div v-if="error" class="page narrow">
    <h1>This plan does not open</h1>
    <p class="prose">{{ words(error) }}</p>
  </div>
  <div v-else-if="plan && !plan.may_write" class="page narrow">
    <h1>{{ plan.title }}</h1>
    <p class="prose">
      Only writers change this plan. <router-link :to="{ name: 'guide', params: { repository: id, plan: planId } }">Follow it</router-link>
    </p>
  </div>
  <div v-else-if="plan" class="composer">
    <section class="list">
      <div class="head">
        <input
          class="title"
          :value="plan.title"
          aria-label="Title of the plan"
          maxlength="200"
          @change="(e) => set('set-plan', undefined, 'title', plan!.title, value(e))"
        />
        <div class="acts">
          <a-button size="small" @click="undo">Undo <kbd>Ctrl Z</kbd></a-button>
          <a-button size="small" @click="share">Copy address</a-button>
          <router-link :to="{ name: 'guide', params: { repository: id, plan: planId } }"
            ><a-button size="small" type="primary">Follow it</a-button></router-link
          >
        </div>
      </div>
      <textarea
        class="purpose"
        rows="2"
        :value="plan.purpose"
        aria-label="Purpose of the plan"
        placeholder="What is this plan for, and what will a reader know after it?"
        @change="(e) => set('set-plan', undefined, 'purpose', plan!.purpose, value(e))"
      />
      <p v-if="fault" class="fault" role="alert">{{ fault }}</p>
      <div v-for="(c, i) in plan.in_order" :key="c.id" class="chapter">
        <div class="chapter-head">
          <span class="numeral">{{ numeral(i + 1) }}</span>
          <input
            :value="c.title"
            :aria-label="`Title of chapter ${numeral(i + 1)}`"
            maxlength="200"
            @change="(e) => set('set-chapter', c.id, 'title', c.title, value(e))"
          />
          <span class="soft">{{ c.passages.reduce((n, p) => n + p.minutes, 0) }} min</span>
          <button class="link" :disabled="i === 0" :aria-label="`Move chapter ${numeral(i + 1)} up`" @click="moveChapter(i, -1)">up</button>
          <button
            class="link"
            :disabled="i === plan.in_order.length - 1"
            :aria-label="`Move chapter ${numeral(i + 1)} down`"
            @click="moveChapter(i, 1)"
          >
            down
          </button>
          <a-popconfirm
            :title="c.passages.length ? `Remove the chapter with its ${many(c.passages.length, 'passage')}?` : 'Remove the chapter?'"
            ok-text="Remove"
            cancel-text="Keep"
            @confirm="removeChapter(c.id)"
          >
            <button class="link">remove</button>
          </a-popconfirm>
        </div>
        <VueDraggable
          v-if="lists[i]"
          v-model="lists[i]!.passages"
          group="passages"
          handle=".grip"
          :animation="120"
          class="passages"
          :data-chapter="c.id"
          @end="dropped"
        >
          <div
            v-for="p in lists[i]!.passages"
            :key="p.id"
            class="passage"
            :class="{ at: p.id === selected }"
            :data-passage="p.id"
            role="button"
            tabindex="0"
            :aria-pressed="p.id === selected"
            @click="choose(p.id)"
            @keydown.enter="choose(p.id)"
          >
            <span class="grip" title="Drag to reorder; or Alt with the arrow keys" aria-hidden="true">⋮⋮</span>
            <span class="what"
              ><b>{{ p.title }}</b
              ><span class="mono soft">{{ where(p.target) }}</span></span
            >
            <span class="soft">{{ p.minutes }} min</span>
          </div>
        </VueDraggable>
        <p v-if="!c.passages.length" class="soft none">No passages yet; drag one here, or add with <kbd>a</kbd> from Read and Leads.</p>
      </div>
      <div class="foot">
        <a-button size="small" @click="addChapter">Add a chapter</a-button>
        <span class="soft">{{ many(plan.passages, 'passage') }}, {{ plan.minutes }} min</span>
        <span class="room" />
        <a-popconfirm title="Remove this plan and everybody's progress in it?" ok-text="Remove" cancel-text="Keep" @confirm="removePlan"
          ><button class="link">remove the plan</button></a-popconfirm
        >
      </div>
      <p class="soft keys"><kbd>↑</kbd> <kbd>↓</kbd> choose · <kbd>Alt ↑</kbd> <kbd>Alt ↓</kbd> move · <kbd>Del</kbd> remove</p>
    </section>
    <section class="detail">
      <PassageFields
        v-if="current"
        :key="current.id"
        :passage="current"
        :repository="id"
        @set="(field, from, to) => set('set-passage', current!.id, field, from, to)"
        @remove="remove(current!)"
      />
      <div v-else class="page">
        <h2>Choose a passage</h2>
        <p class="prose">
          Its text stands here beside the code it leads to. Passages are added from anywhere: select a file, lines, a folder or a lead, and
          press <kbd>a</kbd>.
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
  grid-template-columns: minmax(420px, 42%) minmax(0, 1fr);
}
.list {
  overflow: auto;
  padding: 16px 20px 20px var(--gap);
  border-right: 1px solid var(--rule);
}
.head {
  display: flex;
  flex-direction: column-reverse;
  gap: 8px;
  margin-bottom: 4px;
}
.acts {
  display: flex;
  gap: 6px;
  flex: none;
}
input,
textarea {
  font: inherit;
  color: inherit;
  background: none;
  border: 1px solid transparent;
  border-radius: var(--radius);
  padding: 2px 6px;
  margin-left: -6px;
  min-width: 0;
}
input:hover,
textarea:hover,
input:focus,
textarea:focus {
  border-color: var(--rule);
  background: var(--sheet);
}
textarea::placeholder {
  color: var(--ink-soft);
  opacity: 1;
}
.title {
  flex: 1;
  font: 600 20px/1.3 var(--serif);
}
.purpose {
  width: 100%;
  font: 15px/1.45 var(--serif);
  resize: vertical;
}
.chapter {
  margin-top: 16px;
}
.chapter-head {
  display: flex;
  gap: 10px;
  align-items: baseline;
  border-bottom: 1px solid var(--rule);
  padding-bottom: 3px;
}
.chapter-head input {
  flex: 1;
  font: 600 15.5px/1.3 var(--serif);
}
.chapter-head .soft,
.chapter-head .link {
  font-size: 12px;
}
.link:disabled {
  color: var(--ink-soft);
  text-decoration: none;
  cursor: default;
  opacity: 0.6;
}
.numeral {
  color: var(--plum);
  font: 600 15px var(--serif);
  width: 22px;
}
.passages {
  min-height: 8px;
}
.passage {
  display: grid;
  grid-template-columns: 22px minmax(0, 1fr) auto;
  gap: 8px;
  align-items: center;
  padding: 5px 8px 5px 0;
  border-bottom: 1px solid var(--rule-soft);
  cursor: pointer;
}
.passage:hover,
.passage.at {
  background: var(--hover);
}
.passage.at {
  box-shadow: inset 3px 0 var(--plum);
}
.grip {
  cursor: grab;
  color: var(--ink-soft);
  text-align: center;
  letter-spacing: -2px;
}
.what {
  min-width: 0;
}
.what b {
  display: block;
  font-weight: 500;
}
.what b,
.what .mono {
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
}
.what .mono {
  display: block;
  font-size: 12px;
}
.none {
  padding: 6px 0 0 30px;
  font-size: 12.5px;
}
.foot {
  display: flex;
  gap: 14px;
  align-items: center;
  margin-top: 16px;
}
.room {
  flex: 1;
}
.keys {
  font-size: 12px;
  margin-top: 10px;
}
.detail {
  min-height: 0;
  overflow: hidden;
}
</style>
