<script setup lang="ts">
import Decision from './Decision.vue'
import type { Question } from './useKeptText'

/** Asks about words that somebody else changed as well. The text holds theirs until
 * one decides. */
defineProps<{ questions: readonly Question[] }>()
const emit = defineEmits<{ answer: [question: Question, chosen: 'mine' | 'theirs' | 'both'] }>()
const quoted = (s: string) => s.trim() || 'nothing'
</script>

<template>
  <Decision v-for="(q, i) in questions" :key="i">
    <b>{{ q.by || 'Somebody' }} changed the same words.</b> Theirs, in the text now: <q>{{ quoted(q.theirs) }}</q> Yours:
    <q>{{ quoted(q.mine) }}</q>
    <template #choices>
      <button type="button" class="link" @click="emit('answer', q, 'mine')">Use yours</button>
      <button type="button" class="link" @click="emit('answer', q, 'both')">Keep both</button>
      <button type="button" class="link" @click="emit('answer', q, 'theirs')">Leave theirs</button>
    </template>
  </Decision>
</template>
