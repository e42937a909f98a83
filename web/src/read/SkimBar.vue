<script setup lang="ts">
import { computed, ref, watch } from 'vue'
import { count } from '@/words/format'
import type { Budget } from './pane/skim'

const props = defineProps<{ budget: Budget; lines: number | null; shown: number; total: number; byHand: number; whole: boolean }>()
const emit = defineEmits<{ take: [budget: Budget]; step: [by: number]; forget: [] }>()

const typed = ref('')
watch(
  () => props.lines ?? props.total,
  (n) => (typed.value = String(n)),
  { immediate: true },
)
const presets: [Budget, string][] = [
  ['gist', 'The twelve most telling lines'],
  ['screen', 'As many lines as fit on the screen; of a short file all'],
  ['half', 'Half of the lines'],
  ['whole', 'Every line (.)'],
]
const at = computed(() => (props.whole ? 'whole' : props.budget))
function enter() {
  const n = Math.round(Number(typed.value))
  if (n >= 1) emit('take', Math.min(n, 999_999))
  else typed.value = String(props.lines ?? props.total)
}
</script>

<template>
  <div class="skim" role="group" aria-label="How many lines show">
    <span class="soft">most telling</span>
    <input
      v-model="typed"
      type="number"
      min="1"
      :max="total"
      step="10"
      inputmode="numeric"
      aria-label="Show this file in so many lines"
      title="Show this file in so many lines (- fewer, = more)"
      @change="enter"
      @keydown.enter="enter"
    />
    <span
      class="soft"
      :title="
        lines !== null
          ? `${count(shown)} lines show now${byHand ? `; ${count(byHand)} regions opened or folded by hand` : ''}`
          : 'All lines show'
      "
      ><template v-if="lines !== null && shown > lines">({{ count(shown) }} show) </template>of {{ count(total) }} lines</span
    >
    <button
      v-for="[name, why] in presets"
      :key="String(name)"
      class="pick"
      :aria-pressed="at === name || (name === 'whole' && lines === null && at !== 'screen')"
      :title="why"
      @click="emit('take', name)"
    >
      {{ name }}
    </button>
    <button v-if="byHand && lines !== null" class="link" title="Forget what was opened and folded by hand" @click="emit('forget')">
      undo {{ count(byHand) }} by hand
    </button>
  </div>
</template>

<style scoped>
.skim {
  display: flex;
  align-items: baseline;
  gap: 7px;
  white-space: nowrap;
  flex: none;
}
input {
  width: 5.2ch;
  box-sizing: content-box;
  padding: 1px 4px;
  border: 1px solid var(--rule);
  border-radius: var(--radius);
  background: var(--sheet);
  color: var(--ink);
  font: 600 12.5px var(--mono);
  text-align: center;
  appearance: textfield;
}
input::-webkit-inner-spin-button {
  appearance: none;
}
</style>
