<script setup lang="ts">
import { dateTime } from '@/words/format'
import Decision from './Decision.vue'

/** Offers what was typed and never saved. */
defineProps<{ text: string; at: number }>()
const emit = defineEmits<{ back: []; drop: [] }>()
</script>

<template>
  <Decision>
    <b>You typed this here and it was not saved</b> ({{ dateTime(new Date(at).toISOString()) }}): <q>{{ text }}</q>
    <template #choices>
      <button type="button" class="link" @click="emit('back')">Put it back</button>
      <button type="button" class="link" @click="emit('drop')">Delete it</button>
    </template>
  </Decision>
</template>
