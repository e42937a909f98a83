<script setup lang="ts">
import { computed, ref } from 'vue'
import { useRouter } from 'vue-router'
import { words } from '@/api/client'
import { notice } from '@/frame/notice'
import { includes, useRepository } from '@/frame/repository'
import { many } from '@/words/format'
import type { Composer } from './composing'
import type { Draft } from './draft'
import Publish from './Publish.vue'
import { initials } from './reading'
import TextField from './TextField.vue'
import { usePlanChanges, type Op, type Plan } from './use'

/** The head of the composer: what the plan is called and for, how long it is, and
 * what to do with the whole. */
const props = defineProps<{ repository: number; plan: Plan; draft: Draft; here: readonly Composer[] }>()
const emit = defineEmits<{ apply: [ops: Op[]]; turn: [redo: boolean] }>()
const router = useRouter()
const now = useRepository()
const changes = usePlanChanges(() => props.repository)
/** What a text field of the plan needs. */
const kept = (field: 'title' | 'purpose') => ({
  name: `plan-${field}`,
  value: props.plan[field],
  kept: `plan.${props.plan.id}.${field}`,
  by: props.draft.writer('', field),
  save: (from: string, to: string) => props.draft.apply([{ kind: 'set-plan', field, from, to }]),
})
const needed = computed(() => props.plan.in_order.flatMap((c) => c.passages).reduce((n, p) => n + (p.optional ? 0 : p.minutes), 0))
const over = computed(() => (props.plan.budget ? needed.value - props.plan.budget : 0))
const publishing = ref(false)
/** A draft for what this plan was drafted for, within the minutes that readers have. */
const drafting = computed(() => {
  const g = props.plan.goal
  const query = {
    plan: props.plan.id,
    minutes: props.plan.budget || undefined,
    ...(g && { goal: g.kind, path: g.path, line: g.line, name: g.name, words: g.words, since: g.base, order: g.direction }),
  }
  return { name: 'draft-plan', params: { repository: props.repository }, query }
})
async function copy() {
  try {
    const made = await changes.copy(props.plan.id, `${props.plan.title}, for others`.slice(0, 200), !includes(now.value.role, 'writer'))
    await router.push({ name: 'compose', params: { repository: props.repository, plan: made.id } })
    notice('This is the copy. Change it for its readers; the first stays as it is.')
  } catch (e) {
    notice(words(e), { fault: true })
  }
}
const state = computed(() => {
  if (props.draft.away.value) return 'not saved yet: the server does not answer. It is kept here and sent again.'
  if (props.draft.waiting.value) return 'saving …'
  const p = props.plan
  if (p.private) return 'private: only you see it'
  if (!p.newest) return 'not published yet: only writers see it'
  return p.ahead ? `ahead of edition ${p.newest}` : `as in edition ${p.newest}`
})
</script>

<template>
  <div class="head">
    <div class="acts">
      <a-button size="small" title="Ctrl Z" @click="emit('turn', false)">Undo</a-button>
      <a-button size="small" title="Ctrl Y" @click="emit('turn', true)">Redo</a-button>
      <router-link :to="drafting"
        ><a-button size="small" title="What the survey would have one read, beside this plan">Draft …</a-button></router-link
      >
      <a-button size="small" @click="copy">Duplicate</a-button>
      <router-link :to="{ name: 'guide', params: { repository, plan: plan.id }, query: { edition: 'draft' } }"
        ><a-button size="small">As a reader</a-button></router-link
      >
      <a-button v-if="!plan.private" size="small" type="primary" :disabled="!plan.ahead" @click="publishing = true">Publish …</a-button>
      <span class="who"
        ><b v-for="o in here" :key="o.person" :title="`${o.name} is writing in this plan, too`">{{ initials(o.name) }}</b></span
      >
    </div>
    <p class="soft state" :class="{ fault: draft.away.value }" role="status">{{ state }}</p>
    <TextField class="title" label="Title of the plan" :most="200" v-bind="kept('title')" />
    <TextField class="purpose" label="What is this plan for, and what will a reader know after it?" :rows="2" v-bind="kept('purpose')" />
    <p class="soft sum">
      {{ many(plan.passages, 'passage') }}, <b :class="{ over: over > 0 }">{{ needed }} min</b
      ><template v-if="needed < plan.minutes"> and {{ plan.minutes - needed }} optional</template>; readers have
      <input
        type="number"
        name="plan-budget"
        min="0"
        max="10000"
        step="5"
        :value="plan.budget || ''"
        placeholder="any"
        aria-label="Minutes that readers have"
        @change="
          (e) =>
            emit('apply', [
              { kind: 'set-plan', field: 'budget', from: String(plan.budget), to: (e.target as HTMLInputElement).value || '0' },
            ])
        "
      />
      min
    </p>
    <Publish v-if="publishing" :repository="repository" :plan="plan" @close="publishing = false" @published="draft.reload" />
  </div>
</template>

<style scoped>
.head {
  display: grid;
  gap: 3px;
}
.acts {
  display: flex;
  gap: 6px;
  align-items: center;
}
.who {
  margin-left: auto;
}
.who b {
  padding: 1px 6px;
  border: 1px solid var(--plum);
  border-radius: 10px;
  color: var(--plum);
  font: 600 11px/16px var(--sans);
}
.state {
  font-size: 12px;
}
.title :deep(textarea) {
  font: 600 19px/1.3 var(--serif);
}
.purpose :deep(textarea) {
  font: 14.5px/1.4 var(--serif);
}
.sum {
  font-size: 12.5px;
}
.sum b {
  color: var(--ink);
}
.sum b.over {
  color: var(--fault);
}
.sum input {
  width: 58px;
  font: inherit;
  color: inherit;
  padding: 0 4px;
  background: var(--sheet);
  border: 1px solid var(--rule);
  border-radius: var(--radius);
}
</style>
