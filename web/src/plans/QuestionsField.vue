<script setup lang="ts">
import { computed } from 'vue'
import { setPassage } from './model'
import type { Op, Passage } from './use'

/** Questions by which a reader checks what was understood. */
const props = defineProps<{ passage: Passage }>()
const emit = defineEmits<{ apply: [ops: Op[]] }>()
const list = computed(() => props.passage.questions ?? [])
const put = (next: { ask: string; answer?: string }[]) => emit('apply', [setPassage(props.passage, 'questions', next)])
function set(i: number, part: 'ask' | 'answer', e: Event) {
  const to = (e.target as HTMLInputElement).value
  put(list.value.map((q, k) => (k === i ? { ...q, [part]: to } : q)))
}
function add(e: Event) {
  const field = e.target as HTMLInputElement
  if (!field.value.trim()) return
  put([...list.value, { ask: field.value.trim() }])
  field.value = ''
}
</script>

<template>
  <div>
    <div v-for="(q, i) in list" :key="i" class="question">
      <input :value="q.ask" :name="`ask-${i}`" aria-label="The question" @change="(e) => set(i, 'ask', e)" />
      <input
        :value="q.answer ?? ''"
        :name="`answer-of-${i}`"
        placeholder="the answer, shown when a reader asks for it"
        @change="(e) => set(i, 'answer', e)"
      />
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
