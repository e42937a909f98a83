<script setup lang="ts">
import { dateTime } from '@/words/format'

/** Offers what was typed and never saved. */
defineProps<{ text: string; at: number }>()
const emit = defineEmits<{ back: []; drop: [] }>()
</script>

<template>
  <div class="left" role="alert">
    <p>
      <b>You typed this here and it was not saved</b> ({{ dateTime(new Date(at).toISOString()) }}): <q>{{ text }}</q>
    </p>
    <button type="button" class="link" @click="emit('back')">Put it back</button>
    <button type="button" class="link" @click="emit('drop')">Delete it</button>
  </div>
</template>

<style scoped>
.left {
  padding: 6px 10px;
  margin: 4px 0;
  background: var(--hover);
  border-left: 2px solid var(--plum);
  font: 12.5px/1.5 var(--sans);
}
.left p {
  max-height: 20vh;
  overflow: auto;
}
.left button {
  margin-right: 14px;
}
</style>
