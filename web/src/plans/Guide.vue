<script setup lang="ts">
import { computed, nextTick, onBeforeUnmount, ref, watch } from 'vue'
import { useMediaQuery } from '@vueuse/core'
import { useRoute, useRouter } from 'vue-router'
import { words } from '@/api/client'
import Dialog from '@/frame/Dialog.vue'
import { describeKeys } from '@/frame/help'
import { useKeys } from '@/frame/keys'
import { notice } from '@/frame/notice'
import { includes, useRepository } from '@/frame/repository'
import { usePageTitle } from '@/frame/title'
import { count } from '@/words/format'
import GuideAside from './GuideAside.vue'
import GuidePassage from './GuidePassage.vue'
import GuideContents from './GuideContents.vue'
import { minutesDone, numeral, resume, steps } from './model'
import NewEdition from './NewEdition.vue'
import { usePlaces, useStay, useToday } from './reading'
import { usePlan, usePlanAtHand, usePlanChanges } from './use'

/** Leads a reader through a plan. */
const repository = useRepository()
const route = useRoute()
const router = useRouter()
const id = computed(() => repository.value.id)
const planId = computed(() => Number(route.params.plan))
const edition = computed(() => (typeof route.query.edition === 'string' ? route.query.edition : undefined))
const { data: plan, error } = usePlan(id, planId, edition, true)
const { take } = usePlanAtHand(id)
const changes = usePlanChanges(id)
const places = usePlaces(id, planId)
const { today, left: leftToday, last: lastToday, set: setToday } = useToday(plan)
const stayed = useStay()
watch(planId, (p) => take(p), { immediate: true })
usePageTitle(() => plan.value?.title ?? '')

const all = computed(() => (plan.value ? steps(plan.value) : []))
const at = computed(() => {
  if (!plan.value) return undefined
  return all.value.find((s) => s.passage.id === route.query.passage) ?? resume(plan.value)
})
const done = computed(() => new Set(plan.value?.done_ids))
const left = computed(() => (plan.value ? plan.value.minutes - minutesDone(plan.value) : 0))
const finished = ref(false)
let last = ''
function arrive(passage: string | undefined) {
  const seconds = stayed()
  const body = { passage: passage ?? last, last: last || undefined, seconds: last ? seconds : undefined }
  if (body.passage) void changes.place(planId.value, body).catch(() => {}) // it is kept again at the next step
  last = passage ?? ''
}
watch(
  () => at.value?.passage.id,
  (p) => {
    finished.value = false
    if (p) arrive(p)
  },
  { immediate: true },
)
onBeforeUnmount(() => arrive(undefined))

const go = (number: number) => {
  const s = all.value[number - 1]
  if (s) void router.push({ query: { ...route.query, passage: s.passage.id, from: undefined } })
}
/** Keeps how far one is with a passage; what goes wrong is told. */
async function mark(passage: string, body: { done?: boolean; skipped?: boolean; reason?: string }) {
  try {
    await changes.progress(planId.value, { passage, ...body })
  } catch (e) {
    notice(words(e), { fault: true })
  }
}
/** One goes on at once; that the passage is done is kept meanwhile. */
function onward(body: { done?: boolean; skipped?: boolean; reason?: string }) {
  const now = at.value
  if (!now) return
  if (now.number < all.value.length) go(now.number + 1)
  else finished.value = true
  void mark(now.passage.id, body)
}
const next = () => onward({ done: true })
/** A side trip comes back to where it began. */
const from = computed(() => all.value.find((s) => s.passage.id === route.query.from))
const back = () => (from.value ? go(from.value.number) : at.value && go(at.value.number - 1))

const leaving = ref(false)
const reason = ref('')
const reasons = ['I know this', 'not for my work', 'later']
function leave() {
  reason.value = ''
  leaving.value = true
  void nextTick(() => document.querySelector<HTMLInputElement>('[name="skip-reason"]')?.focus())
}
function skip() {
  leaving.value = false
  onward({ skipped: true, reason: reason.value.trim() })
}
const skipped = computed(() => plan.value?.skipped.find((s) => s.passage === at.value?.passage.id))
const contents = ref(false)
const notes = ref(false)
const phone = useMediaQuery('(max-width: 700px)')
watch(
  () => route.query.passage,
  () => (contents.value = notes.value = false),
)
useKeys({
  c: () => (contents.value = !contents.value),
  n: next,
  s: leave,
  b: back,
  ArrowRight: () => at.value && go(at.value.number + 1),
  ArrowLeft: back,
})
describeKeys('The guide', [
  ['c', 'contents: chapters and passages'],
  ['n', 'done, next passage'],
  ['b ←', 'back; from a side trip to where it began'],
  ['→', 'on, without marking anything'],
  ['s', 'leave it out, with a reason'],
  ['q', 'ask the writers a question'],
  ['[ ]', 'the hop before or next of a way'],
])
const writer = computed(() => includes(repository.value.role, 'writer'))
const told = computed(() => {
  const p = plan.value!
  if (p.private) return 'private'
  if (!p.edition) return p.newest ? 'the draft' : 'not published yet'
  return `edition ${p.edition}${p.ahead && p.edition === p.newest ? ', the draft is ahead' : ''}`
})
</script>

<template>
  <div v-if="error" class="page narrow">
    <h1>This plan does not open</h1>
    <p class="prose">{{ words(error) }}</p>
  </div>
  <div v-else-if="plan" class="guide">
    <header>
      <button class="contents" :aria-expanded="contents" title="Chapters and passages (c)" @click="contents = !contents">
        Contents <kbd>c</kbd>
      </button>
      <h2>{{ plan.title }}</h2>
      <span class="soft by">{{ told }} · by {{ plan.mine ? 'you' : plan.by || 'an account that is gone' }}</span>
      <span class="room" />
      <span v-if="leftToday !== null" class="soft">{{ leftToday }} min left for today</span>
      <router-link v-if="plan.may_write" :to="{ name: 'compose', params: { repository: id, plan: plan.id } }">compose</router-link>
      <button v-if="phone && at && !finished" class="link" @click="notes = true">notes</button>
    </header>
    <NewEdition v-if="!edition && plan.edition && plan.newest > plan.edition" class="newer" :repository="id" :plan="plan" />
    <section v-if="!at" class="page narrow">
      <h1>Nothing to read yet</h1>
      <p class="prose">This plan has no passages. Select a file, lines, a folder or a lead anywhere, and press <kbd>a</kbd>.</p>
    </section>
    <section v-else-if="finished" class="page narrow finished">
      <p class="place">end of the plan</p>
      <h1>You have reached the end</h1>
      <p class="prose">
        {{ count(plan.done) }} of {{ count(plan.passages) }} passages done<template v-if="plan.skipped.length"
          >, {{ count(plan.skipped.length) }} left out</template
        >.
        <template v-if="plan.done + plan.skipped.length < plan.passages">The others stay open; choose one from the contents.</template>
        <template v-else>You know now what this plan set out to show.</template>
      </p>
      <p>
        <button class="link" @click="contents = true">Contents</button> ·
        <router-link :to="{ name: 'plans', params: { repository: id } }">All plans</router-link> ·
        <router-link :to="{ name: 'read', params: { repository: id } }">Read on by yourself</router-link>
      </p>
    </section>
    <section v-else class="main">
      <p v-if="from && from.passage.id !== at.passage.id" class="trip">
        A side trip from <b>“{{ from.passage.title }}”</b>.
        <button class="link" @click="back">back to {{ numeral(from.chapter + 1) }}, passage {{ from.number }} <kbd>b</kbd></button>
      </p>
      <GuidePassage :plan="plan" :at="at" :html="plan.texts?.[at.passage.id]">
        <GuideAside v-if="!phone" :repository="id" :plan="plan" :passage="at.passage" :places="places" :writer="writer" />
      </GuidePassage>
      <form v-if="leaving" class="onward" @submit.prevent="skip" @keydown.esc="leaving = false">
        <span>Leave it out, because</span>
        <a-input v-model:value="reason" name="skip-reason" :maxlength="500" placeholder="a reason, or none" style="width: 240px" />
        <button v-for="r in reasons" :key="r" type="button" class="link" @click="((reason = r), skip())">{{ r }}</button>
        <a-button html-type="submit">Leave it out</a-button>
        <button type="button" class="link" @click="leaving = false">Cancel</button>
      </form>
      <div v-else class="onward">
        <span v-if="skipped" class="soft">left out{{ skipped.reason ? `: ${skipped.reason}` : '' }}</span>
        <button v-if="at.number > 1" class="link" @click="back">back <kbd>b</kbd></button>
        <button v-if="done.has(at.passage.id) || skipped" class="link" @click="mark(at.passage.id, {})">
          {{ skipped ? 'not left out after all' : 'not done after all' }}
        </button>
        <button v-else class="link" @click="leave">leave it out … <kbd>s</kbd></button>
        <span class="soft left">{{ left > 0 ? `${left} min left` : 'all read' }}</span>
        <a-button type="primary" @click="next">{{ at.number < all.length ? 'Done, next passage' : 'Done, finish' }} <kbd>n</kbd></a-button>
      </div>
    </section>
    <GuideContents
      v-if="contents"
      :repository="id"
      :plan="plan"
      :edition="edition"
      :at="at?.passage.id"
      :places="places"
      :today="today?.minutes"
      :until="lastToday"
      @close="contents = false"
      @today="setToday"
    />
    <Dialog v-if="notes && phone && at" title="Ideas and questions" @close="notes = false">
      <GuideAside :repository="id" :plan="plan" :passage="at.passage" :places="places" :writer="writer" />
    </Dialog>
  </div>
  <p v-else class="page soft">Opening the plan …</p>
</template>

<style scoped>
.guide {
  height: 100%;
  display: flex;
  flex-direction: column;
  position: relative;
}
header {
  flex: none;
  display: flex;
  align-items: baseline;
  gap: 14px;
  padding: 6px var(--gap);
  border-bottom: 1px solid var(--rule-soft);
  white-space: nowrap;
}
h2 {
  font-size: 15.5px;
  min-width: 0;
  overflow: hidden;
  text-overflow: ellipsis;
}
.contents {
  padding: 1px 10px;
  font: inherit;
  color: var(--plum);
  background: none;
  border: 1px solid var(--plum);
  border-radius: var(--radius);
  cursor: pointer;
}
.by {
  min-width: 0;
  overflow: hidden;
  text-overflow: ellipsis;
}
.room {
  flex: 1;
}
.newer {
  flex: none;
  margin: 8px var(--gap) 0;
}
.main {
  flex: 1;
  display: flex;
  flex-direction: column;
  min-height: 0;
}
.trip {
  flex: none;
  margin: 8px var(--gap) 0;
  padding: 4px 10px;
  background: var(--hover);
}
.onward {
  flex: none;
  display: flex;
  justify-content: end;
  align-items: center;
  flex-wrap: wrap;
  gap: 6px 18px;
  padding: 7px var(--gap);
  border-top: 1px solid var(--rule-soft);
}
.place {
  color: var(--plum);
  font-weight: 600;
  font-size: 12.5px;
}
.finished {
  display: grid;
  gap: 10px;
  align-content: start;
}
@media (max-width: 700px) {
  header {
    gap: 10px;
    padding: 6px 12px;
  }
  .by,
  .contents kbd {
    display: none;
  }
  .onward {
    padding: 7px 12px;
    justify-content: space-between;
  }
  .onward kbd,
  .onward .left {
    display: none;
  }
}
</style>
