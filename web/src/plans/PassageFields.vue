<script setup lang="ts">
import { computed } from 'vue'
import TargetView from '@/read/TargetView.vue'
import { where } from './model'
import type { Passage } from './use'

const props = defineProps<{ passage: Passage; repository: number }>()
const emit = defineEmits<{ set: [field: string, from: string, to: string]; remove: [] }>()
const value = (e: Event) => (e.target as HTMLInputElement).value
const target = computed(() => props.passage.target)
</script>

<template>
  <div class="fields">
    <div class="row">
      <label class="grow">
        Title
        <input :value="passage.title" name="passage-title" maxlength="200" @change="(e) => emit('set', 'title', passage.title, value(e))" />
      </label>
      <label>
        Minutes
        <input
          :value="passage.minutes"
          name="passage-minutes"
          type="number"
          min="0"
          max="600"
          @change="(e) => emit('set', 'minutes', String(passage.minutes), value(e))"
        />
      </label>
    </div>
    <label>
      What to look for
      <textarea
        :value="passage.purpose"
        name="passage-purpose"
        rows="5"
        placeholder="What a reader should notice here, and know after it. `code` stands between backticks."
        @change="(e) => emit('set', 'purpose', passage.purpose, value(e))"
      />
    </label>
    <p v-if="passage.why" class="soft">why here: {{ passage.why }}</p>
    <div class="bar">
      <span class="mono">{{ where(target) }}</span>
      <span class="room" />
      <button class="link" @click="emit('remove')">remove the passage</button>
    </div>
    <TargetView :key="passage.id" class="code" :target="target" />
  </div>
</template>

<style scoped>
.fields {
  height: 100%;
  display: flex;
  flex-direction: column;
  gap: 10px;
  padding: 16px 0 0;
}
.fields > :not(.code) {
  padding: 0 22px;
}
label {
  display: grid;
  gap: 3px;
  color: var(--ink-soft);
}
.row {
  display: flex;
  gap: 14px;
}
.grow {
  flex: 1;
}
input,
textarea {
  font: inherit;
  color: var(--ink);
  background: var(--sheet);
  border: 1px solid var(--rule);
  border-radius: var(--radius);
  padding: 4px 9px;
  width: 100%;
}
input[type='number'] {
  width: 84px;
}
textarea {
  font: 15.5px/1.45 var(--serif);
  resize: vertical;
}
textarea::placeholder {
  color: var(--ink-soft);
  opacity: 1;
}
.bar {
  display: flex;
  gap: 14px;
  align-items: baseline;
  border-top: 1px solid var(--rule);
  padding-top: 8px !important;
}
.bar .mono {
  font-weight: 600;
  overflow: hidden;
  text-overflow: ellipsis;
}
.room {
  flex: 1;
}
.code {
  flex: 1;
  min-height: 0;
  border-top: 1px solid var(--rule);
}
</style>
