<script setup lang="ts">
import type { Question } from './useKeptText'

/** Asks about words that somebody else changed as well. The text holds theirs until
 * one decides. */
defineProps<{ questions: readonly Question[] }>()
const emit = defineEmits<{ answer: [question: Question, chosen: 'mine' | 'theirs' | 'both'] }>()
const quoted = (s: string) => s.trim() || 'nothing'
</script>

<template>
  <div v-for="(q, i) in questions" :key="i" class="question" role="alert">
    <p>
      <b>{{ q.by || 'Somebody' }} changed the same words.</b> Theirs, in the text now: <q>{{ quoted(q.theirs) }}</q> Yours:
      <q>{{ quoted(q.mine) }}</q>
    </p>
    <button type="button" class="link" @click="emit('answer', q, 'mine')">Use yours</button>
    <button type="button" class="link" @click="emit('answer', q, 'both')">Keep both</button>
    <button type="button" class="link" @click="emit('answer', q, 'theirs')">Leave theirs</button>
  </div>
</template>

<style scoped>
.question {
  padding: 6px 10px;
  margin: 4px 0;
  background: var(--hover);
  border-left: 2px solid var(--plum);
  font: 12.5px/1.5 var(--sans);
}
.question p {
  max-height: 30vh;
  overflow: auto;
}
.question button {
  margin-right: 14px;
}
</style>
