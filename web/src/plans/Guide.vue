<script setup lang="ts">
import { computed, ref, watch } from 'vue'
import { useRoute, useRouter } from 'vue-router'
import { words } from '@/api/client'
import { describeKeys } from '@/frame/help'
import { useKeys } from '@/frame/keys'
import { notice } from '@/frame/notice'
import { useRepository } from '@/frame/repository'
import TargetView from '@/read/TargetView.vue'
import { count, short } from '@/words/format'
import { minutesDone, numeral, resume, steps, where } from './model'
import Prose from './Prose.vue'
import { usePlan, usePlanAtHand, usePlanChanges } from './use'

const repository = useRepository()
const route = useRoute()
const router = useRouter()
const id = computed(() => repository.value.id)
const planId = computed(() => Number(route.params.plan))
const { data: plan, error } = usePlan(id, planId)
const { take } = usePlanAtHand(id)
const changes = usePlanChanges(id)
watch(planId, (p) => take(p), { immediate: true })

const all = computed(() => (plan.value ? steps(plan.value) : []))
const at = computed(() => {
  if (!plan.value) return undefined
  return all.value.find((s) => s.passage.id === route.query.passage) ?? resume(plan.value)
})
const done = computed(() => new Set(plan.value?.done_ids))
const left = computed(() => (plan.value ? plan.value.minutes - minutesDone(plan.value) : 0))
const finished = ref(false)
watch(
  () => at.value?.passage.id,
  (p) => {
    finished.value = false
    if (p) void changes.place(planId.value, p).catch(() => {}) // kept again at the next step
  },
  { immediate: true },
)

function go(number: number) {
  const s = all.value[number - 1]
  if (s) void router.push({ query: { passage: s.passage.id } })
}
async function mark(on: boolean) {
  if (!at.value) return
  try {
    await changes.done(planId.value, at.value.passage.id, on)
  } catch (e) {
    notice(words(e), { fault: true })
    throw e
  }
}
async function next() {
  const now = at.value
  if (!now) return
  await mark(true)
  if (now.number < all.value.length) go(now.number + 1)
  else finished.value = true
}
useKeys({
  n: () => void next().catch(() => {}),
  b: () => at.value && go(at.value.number - 1),
  ArrowRight: () => at.value && go(at.value.number + 1),
  ArrowLeft: () => at.value && go(at.value.number - 1),
})
describeKeys('The guide', [
  ['n', 'done, next passage'],
  ['b ←', 'back'],
  ['→', 'skip for now'],
])
async function share() {
  await navigator.clipboard.writeText(`${location.origin}/r/${id.value}/plans/${planId.value}`)
  notice('The address of this plan is copied. Whoever may read this repository can follow it.')
}
const target = computed(() => at.value?.passage.target)
</script>

<template>
  <div v-if="error" class="page narrow">
    <h1>This plan does not open</h1>
    <p class="prose">{{ words(error) }}</p>
  </div>
  <div v-else-if="plan" class="guide">
    <aside>
      <h1>{{ plan.title }}</h1>
      <p class="soft by">
        by {{ plan.mine ? 'you' : plan.by || 'an account that is gone' }}{{ plan.private ? ' · private' : '' }} ·
        <button class="link" @click="share">copy address</button>
        <template v-if="plan.may_write">
          · <router-link :to="{ name: 'compose', params: { repository: id, plan: plan.id } }">compose</router-link></template
        >
      </p>
      <Prose v-if="plan.purpose" :text="plan.purpose" />
      <ol v-for="(c, i) in plan.in_order" :key="c.id" class="chapter">
        <h2>
          <span class="numeral">{{ numeral(i + 1) }}</span>{{ c.title || 'Without a title' }}
        </h2>
        <li v-for="p in c.passages" :key="p.id">
          <router-link
            :to="{ query: { passage: p.id } }"
            class="plain step"
            :class="{ here: p.id === at?.passage.id }"
            :aria-current="p.id === at?.passage.id ? 'step' : undefined"
          >
            <span
              class="box"
              :class="{ done: done.has(p.id), here: p.id === at?.passage.id }"
              :title="done.has(p.id) ? 'done' : p.id === at?.passage.id ? 'you are here' : 'not done'"
            />
            <span class="title">{{ p.title }}</span><span class="soft">{{ p.minutes }} min</span>
          </router-link>
        </li>
        <p v-if="!c.passages.length" class="soft empty">no passages yet</p>
      </ol>
    </aside>
    <section v-if="!at" class="page narrow">
      <h1>Nothing to read yet</h1>
      <p class="prose">This plan has no passages. Select a file, lines, a folder or a lead anywhere, and press <kbd>a</kbd>.</p>
    </section>
    <section v-else-if="finished" class="page narrow finished">
      <p class="place">end of the plan</p>
      <h1>You have reached the end</h1>
      <p class="prose">
        {{ count(plan.done) }} of {{ count(plan.passages) }} passages done.
        <template v-if="plan.done < plan.passages">The others stay open; choose one at the left.</template>
        <template v-else>You know now what this plan set out to show.</template>
      </p>
      <p>
        <router-link :to="{ name: 'plans', params: { repository: id } }">All plans</router-link> ·
        <router-link :to="{ name: 'read', params: { repository: id } }">Read on by yourself</router-link>
      </p>
    </section>
    <section v-else class="passage">
      <div class="text">
        <p class="place">{{ numeral(at.chapter + 1) }} · passage {{ at.number }} of {{ all.length }} · {{ at.passage.minutes }} min</p>
        <h1>{{ at.passage.title }}</h1>
        <Prose v-if="at.passage.purpose" :text="at.passage.purpose" />
        <p v-if="at.passage.why" class="soft">why here: {{ at.passage.why }}</p>
      </div>
      <div class="sheet">
        <div class="bar">
          <span class="mono">{{ where(at.passage.target) }}</span>
          <span class="soft">at {{ target!.commit === repository.pin ? 'the pin' : `commit ${short(target!.commit)}` }}</span>
          <span class="room" />
          <router-link
            v-if="target!.kind !== 'folder'"
            :to="{
              name: 'read',
              params: { repository: id },
              query: {
                path: target!.path,
                at: target!.commit === repository.pin ? undefined : target!.commit,
                lines: target!.kind === 'lines' ? `${target!.start}-${target!.end}` : undefined,
              },
            }"
            >open in Read</router-link
          >
          <router-link v-else :to="{ name: 'read', params: { repository: id }, query: { folder: target!.path } }">open in Read</router-link>
        </div>
        <TargetView :key="at.passage.id" class="code" :target="target!" />
      </div>
      <div class="onward">
        <button v-if="at.number > 1" class="link" @click="go(at.number - 1)">back <kbd>b</kbd></button>
        <button v-if="done.has(at.passage.id)" class="link" @click="mark(false)">not done after all</button>
        <button v-else-if="at.number < all.length" class="link" @click="go(at.number + 1)">skip for now <kbd>→</kbd></button>
        <span class="soft">{{ left > 0 ? `${left} min left` : 'all read' }}</span>
        <a-button type="primary" @click="next">{{ at.number < all.length ? 'Done, next passage' : 'Done, finish' }} <kbd>n</kbd></a-button>
      </div>
    </section>
  </div>
  <p v-else class="page soft">Opening the plan …</p>
</template>

<style scoped>
.guide {
  height: 100%;
  display: grid;
  grid-template-columns: 300px minmax(0, 1fr);
}
aside {
  border-right: 1px solid var(--rule);
  padding: 18px 18px 18px var(--gap);
  overflow: auto;
}
aside h1 {
  font-size: 20px;
}
aside :deep(.prose) {
  font-size: 14.5px;
  margin-top: 8px;
}
.by {
  margin-top: 2px;
}
.chapter {
  list-style: none;
  padding: 0;
  margin: 16px 0 0;
}
.chapter h2 {
  font-size: 15.5px;
  display: flex;
}
.numeral {
  color: var(--plum);
  width: 26px;
  flex: none;
}
.step {
  display: grid;
  grid-template-columns: 20px minmax(0, 1fr) auto;
  gap: 6px;
  align-items: baseline;
  padding: 3px 0 3px 26px;
  color: var(--ink-soft);
}
.step:hover {
  text-decoration: none;
  background: var(--hover);
}
.step.here {
  color: var(--ink);
  font-weight: 600;
}
.step .title {
  overflow-wrap: anywhere;
}
.step .soft {
  font-weight: 400;
  font-size: 12px;
}
.box {
  width: 10px;
  height: 10px;
  border: 1.5px solid var(--ink-soft);
  align-self: center;
}
.box.done {
  background: var(--plum);
  border-color: var(--plum);
}
.box.here:not(.done) {
  border-color: var(--plum);
  background: linear-gradient(90deg, var(--plum) 50%, transparent 50%);
}
.empty {
  padding-left: 26px;
}
.passage {
  display: flex;
  flex-direction: column;
  min-height: 0;
  padding: 18px 34px 12px;
}
.text {
  flex: none;
  max-height: 45%;
  overflow: auto;
  max-width: 820px;
}
.place {
  color: var(--plum);
  font-weight: 600;
  font-size: 12.5px;
}
.text h1 {
  margin: 2px 0 8px;
}
.sheet {
  flex: 1;
  min-height: 140px;
  margin-top: 10px;
  border: 1px solid var(--rule);
  display: flex;
  flex-direction: column;
  background: var(--paper);
}
.bar {
  flex: none;
  display: flex;
  gap: 16px;
  align-items: baseline;
  padding: 6px 14px;
  border-bottom: 1px solid var(--rule);
  background: var(--sheet);
}
.bar .mono {
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
  font-weight: 600;
}
.bar .soft,
.bar a {
  white-space: nowrap;
}
.room {
  flex: 1;
}
.code {
  flex: 1;
  min-height: 0;
}
.onward {
  flex: none;
  display: flex;
  justify-content: end;
  align-items: center;
  gap: 20px;
  padding-top: 10px;
}
.finished {
  display: grid;
  gap: 10px;
  align-content: start;
}
</style>
