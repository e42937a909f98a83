<script setup lang="ts">
import { useQuery } from '@tanstack/vue-query'
import { computed, ref, useTemplateRef } from 'vue'
import { api, data, words } from '@/api/client'
import { useKeys } from '@/frame/keys'
import { notice } from '@/frame/notice'
import { Thread, useThread, WriteField } from '@/notes'
import { steps } from './model'
import Prose from './Prose.vue'
import { since, type ReaderPlace } from './reading'
import { usePlanChanges, type Passage, type Plan } from './use'

/** Beside a passage: the ideas one needs, what was asked here, and who is where. */
const props = defineProps<{ repository: number; plan: Plan; passage: Passage; places: readonly ReaderPlace[]; writer: boolean }>()
const changes = usePlanChanges(() => props.repository)
const { write } = useThread(() => props.repository)
const ideas = computed(() => {
  const needs = new Set(props.passage.needs ?? [])
  return props.plan.ideas.filter((i) => needs.has(i.id) || i.by === props.passage.id || props.passage.text?.includes(`idea:${i.id}`))
})
const number = computed(() => new Map(steps(props.plan).map((s) => [s.passage.id, s.number])))
const { data: on } = useQuery({
  queryKey: computed(() => ['repository', props.repository, 'notes', 'passage', props.plan.id, props.passage.id]),
  queryFn: ({ signal }) =>
    data(
      api.GET('/api/repositories/{repository}/annotations', {
        params: { path: { repository: props.repository }, query: { plan: props.plan.id, passage: props.passage.id } },
        signal,
      }),
    ),
})
const question = ref('')
const asking = ref(false)
const box = useTemplateRef<HTMLElement>('box')
function ask() {
  asking.value = true
  requestAnimationFrame(() => box.value?.querySelector('textarea')?.focus())
}
async function send() {
  const { kind, path, start, end, commit } = props.passage.target
  const at = { at: commit, plan: props.plan.id, passage: props.passage.id }
  const lines = start && (kind === 'lines' || kind === 'symbol' || kind === 'extract' || kind === 'pair')
  const target = lines
    ? { kind: 'lines' as const, path, start, end, ...at }
    : path && kind !== 'folder' && kind !== 'planned'
      ? { kind: 'file' as const, path, ...at }
      : kind === 'folder' && path
        ? { kind: 'folder' as const, path, ...at }
        : { kind: 'repository' as const, ...at }
  if (await write({ target, text: question.value, kind: 'question', private: false })) {
    question.value = ''
    asking.value = false
    notice('Asked. Whoever writes plans here is told.')
  }
}
useKeys({ q: ask })
async function show(on: boolean) {
  try {
    await changes.reading(props.plan.id, props.plan.edition, on)
  } catch (e) {
    notice(words(e), { fault: true })
  }
}
</script>

<template>
  <aside ref="box" class="beside">
    <section v-if="ideas.length">
      <h2>Ideas</h2>
      <div v-for="i in ideas" :id="`idea-${i.id}`" :key="i.id" class="idea">
        <b>{{ i.name }}</b>
        <span v-if="i.by === passage.id" class="soft"> · new here</span>
        <router-link
          v-else-if="i.by && number.has(i.by)"
          class="soft"
          :to="{ query: { ...$route.query, passage: i.by, from: passage.id } }"
        >
          from {{ number.get(i.by) }}</router-link
        >
        <Prose v-if="i.text" :text="i.text" />
      </div>
    </section>
    <section>
      <h2>Questions here</h2>
      <Thread v-for="t in on?.threads ?? []" :key="t.id" :repository="repository" :thread="t" :writer="writer" class="thread" />
      <template v-if="asking">
        <WriteField v-model="question" :repository="repository" name="question" label="What do you ask the writers?" @save="send" />
        <p class="acts">
          <button class="link" :disabled="!question.trim()" @click="send">ask</button>
          <button class="link" @click="asking = false">not now</button>
        </p>
      </template>
      <p v-else>
        <button class="link" @click="ask">ask the writers … <kbd>q</kbd></button>
      </p>
    </section>
    <section v-if="!plan.private" class="foot">
      <p v-if="places.length" class="soft">
        here now:
        <template v-for="(p, i) in places.slice(0, 8)" :key="p.person"
          >{{ i ? ', ' : '' }}<b>{{ p.name.split(' ')[0] }}</b
          ><template v-if="number.has(p.passage)"> in {{ number.get(p.passage) }}</template
          ><template v-if="since(p.at)">, {{ since(p.at) }}</template></template
        ><template v-if="places.length > 8"> and {{ places.length - 8 }} more</template>
      </p>
      <a-checkbox
        :checked="plan.shown"
        title="Others who read this plan see which passage you are at; those who write it see what you have done, left out, and how long you stayed"
        @change="show(!plan.shown)"
        >show others where I am</a-checkbox
      >
    </section>
  </aside>
</template>

<style scoped>
.beside {
  display: flex;
  flex-direction: column;
  gap: 20px;
  padding: 14px 0 4px;
  margin-top: 14px;
  border-top: 1px solid var(--rule);
}
h2 {
  font-size: 15.5px;
  margin-bottom: 6px;
}
.idea {
  margin-bottom: 8px;
  font-size: 13px;
}
.idea:target {
  background: var(--hover);
}
.idea :deep(.prose) {
  font-size: 13.5px;
  margin: 2px 0 0;
}
.thread {
  padding-bottom: 8px;
  margin-bottom: 8px;
  border-bottom: 1px solid var(--rule-soft);
}
.acts {
  display: flex;
  gap: 14px;
}
.foot {
  font-size: 13px;
}
.foot b {
  color: var(--ink);
}
</style>
