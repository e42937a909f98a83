<script setup lang="ts">
import { useTemplateRef } from 'vue'
import { useSheet } from '@/frame/sheet'
import { count } from '@/words/format'
import { mostHits } from './find'

const typed = defineModel<string>({ required: true })
defineProps<{ total: number; more: boolean; at: number; repositoryWide: unknown }>()
const emit = defineEmits<{ step: [by: number]; close: [] }>()
const box = useTemplateRef<HTMLInputElement>('box')
const focus = () => box.value?.select()
const bar = useTemplateRef<HTMLElement>('bar')
useSheet({ element: () => bar.value, modal: false, close: () => emit('close') })
defineExpose({ focus })
</script>

<template>
  <div ref="bar" class="find" role="search">
    <input
      ref="box"
      v-model="typed"
      type="search"
      placeholder="Find in this file"
      aria-label="Find in this file"
      title="Capitals count only where you type some"
      @keydown.enter.prevent="(e) => emit('step', e.shiftKey ? -1 : 1)"
    />
    <span class="soft" role="status">
      <template v-if="!typed">folds open where a hit is</template>
      <template v-else-if="!total">nothing in this file</template>
      <template v-else>{{ count(at + 1) }} of {{ more ? `more than ${count(mostHits)}` : count(total) }}</template>
    </span>
    <button class="link" :disabled="!total" title="The hit before (Shift Enter)" @click="emit('step', -1)">before</button>
    <button class="link" :disabled="!total" title="The next hit (Enter)" @click="emit('step', 1)">next</button>
    <router-link v-if="typed" :to="repositoryWide as string" title="Every line of the repository at the pin that holds this"
      >in the whole repository</router-link
    >
    <span class="room" />
    <button class="link" @click="emit('close')">close <kbd>Esc</kbd></button>
  </div>
</template>

<style scoped>
.find {
  display: flex;
  align-items: baseline;
  gap: 12px;
  padding: 5px 18px 5px var(--gap);
  border-bottom: 1px solid var(--rule);
  background: var(--sheet);
  white-space: nowrap;
}
input {
  width: 220px;
  border: 1px solid var(--rule);
  border-radius: var(--radius);
  background: var(--paper);
  color: var(--ink);
  padding: 2px 7px;
  font: 12.5px var(--mono);
}
.room {
  flex: 1;
}
button:disabled {
  opacity: 0.45;
}
</style>
