<script setup lang="ts">
import { computed } from 'vue'
import { ProblemError } from '@/api/client'
import type { Draft } from './draft'
import { setPassage } from './model'
import TextField from './TextField.vue'
import type { Op, Passage } from './use'

/** Questions by which a reader checks what was understood. */
type Question = NonNullable<Passage['questions']>[number]
const props = defineProps<{ passage: Passage; plan: number; draft: Draft }>()
const emit = defineEmits<{ apply: [ops: Op[]] }>()
const list = computed(() => props.passage.questions ?? [])
const put = (next: Question[]) => emit('apply', [setPassage(props.passage, 'questions', next)])
/** What a text field of a question needs. All questions are saved as one: where the
 * list was changed meanwhile, the field is told what became of its own text. */
const kept = (i: number, part: 'ask' | 'answer') => ({
  name: part === 'ask' ? `ask-${i}` : `answer-of-${i}`,
  value: list.value[i]?.[part] ?? '',
  kept: `plan.${props.plan}.${props.passage.id}.question.${i}.${part}`,
  by: props.draft.writer(props.passage.id, 'questions'),
  save: async (_: string, to: string) => {
    try {
      await props.draft.apply([
        setPassage(
          props.passage,
          'questions',
          list.value.map((q, k) => (k === i ? { ...q, [part]: to } : q)),
        ),
      ])
    } catch (e) {
      if (!(e instanceof ProblemError) || typeof e.problem.current !== 'string') throw e
      const now = JSON.parse(e.problem.current) as Question[] | null
      throw new ProblemError({ ...e.problem, current: now?.[i]?.[part] ?? '' }, e.status)
    }
  },
})
function add(e: Event) {
  const field = e.target as HTMLInputElement
  if (!field.value.trim()) return
  put([...list.value, { ask: field.value.trim() }])
  field.value = ''
}
</script>

<template>
  <div>
    <div v-for="(_, i) in list" :key="i" class="question">
      <TextField v-bind="kept(i, 'ask')" label="The question" />
      <TextField v-bind="kept(i, 'answer')" label="The answer, shown when a reader asks for it" />
      <button class="link" @click="put(list.filter((_, k) => k !== i))">remove</button>
    </div>
    <input name="new-question" placeholder="a question by which a reader checks what was understood; Enter adds it" @change="add" />
  </div>
</template>

<style scoped>
.question {
  display: grid;
  grid-template-columns: minmax(0, 1fr) minmax(0, 1fr) auto;
  gap: 8px;
  align-items: center;
  padding: 3px 0;
}
input {
  width: 100%;
  font: inherit;
  color: var(--ink);
  background: var(--sheet);
  border: 1px solid var(--rule);
  border-radius: var(--radius);
  padding: 2px 8px;
}
</style>
