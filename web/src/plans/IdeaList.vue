<script setup lang="ts">
import { computed, ref } from 'vue'
import { steps } from './model'
import { newId, type Idea, type Op, type Plan } from './use'

/** The ideas of a plan: concepts and words of the repository, each introduced by
 * one passage and linked where its name stands in a text. */
const props = defineProps<{ plan: Plan }>()
const emit = defineEmits<{ apply: [ops: Op[]]; choose: [passage: string] }>()
const name = ref('')
const all = computed(() => steps(props.plan))
function add() {
  if (!name.value.trim()) return
  emit('apply', [{ kind: 'add-idea', new_idea: { id: newId(), name: name.value.trim() } }])
  name.value = ''
}
function set(i: Idea, field: 'name' | 'text' | 'by', e: Event) {
  const to = (e.target as HTMLInputElement).value
  const from = i[field] ?? ''
  if (to !== from) emit('apply', [{ kind: 'set-idea', id: i.id, field, from, to }])
}
</script>

<template>
  <div class="ideas">
    <p class="soft">
      A word or a concept that a reader must know: explained once, introduced by one passage, and linked where its name stands in a text.
    </p>
    <div v-for="i in plan.ideas" :key="i.id" class="idea">
      <div class="row">
        <input :value="i.name" name="idea-name" maxlength="200" aria-label="Name of the idea" @change="(e) => set(i, 'name', e)" />
        <label class="soft"
          >introduced by
          <select :value="i.by ?? ''" name="idea-by" @change="(e) => set(i, 'by', e)">
            <option value="">no passage</option>
            <option v-for="s in all" :key="s.passage.id" :value="s.passage.id">{{ s.number }}. {{ s.passage.title }}</option>
          </select></label
        >
        <button class="link" @click="emit('apply', [{ kind: 'remove-idea', id: i.id }])">remove</button>
      </div>
      <textarea
        :value="i.text ?? ''"
        name="idea-text"
        rows="2"
        maxlength="20000"
        placeholder="what it is, in a sentence or two"
        @change="(e) => set(i, 'text', e)"
      />
    </div>
    <form class="row" @submit.prevent="add">
      <input v-model="name" name="new-idea" maxlength="200" placeholder="a new idea: its name" />
      <a-button size="small" html-type="submit" :disabled="!name.trim()">Add</a-button>
    </form>
  </div>
</template>

<style scoped>
.ideas {
  padding: 12px 20px;
}
.idea {
  padding: 8px 0;
  border-bottom: 1px solid var(--rule-soft);
}
.row {
  display: flex;
  gap: 12px;
  align-items: baseline;
  margin-top: 4px;
}
.row > input {
  flex: 1;
  font-weight: 600;
}
input,
textarea,
select {
  font: inherit;
  color: var(--ink);
  background: var(--sheet);
  border: 1px solid var(--rule);
  border-radius: var(--radius);
  padding: 2px 8px;
}
select {
  max-width: 220px;
}
textarea {
  width: 100%;
  margin-top: 4px;
  resize: vertical;
}
</style>
