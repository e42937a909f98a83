<script setup lang="ts">
import { computed, ref } from 'vue'
import type { Draft } from './draft'
import { steps } from './model'
import TextField from './TextField.vue'
import { newId, type Idea, type Op, type Plan } from './use'

/** The ideas of a plan: concepts and words of the repository, each introduced by
 * one passage and linked where its name stands in a text. */
const props = defineProps<{ plan: Plan; draft: Draft }>()
const emit = defineEmits<{ apply: [ops: Op[]]; choose: [passage: string] }>()
const name = ref('')
const all = computed(() => steps(props.plan))
function add() {
  if (!name.value.trim()) return
  emit('apply', [{ kind: 'add-idea', new_idea: { id: newId(), name: name.value.trim() } }])
  name.value = ''
}
function introduce(i: Idea, e: Event) {
  const to = (e.target as HTMLSelectElement).value
  emit('apply', [{ kind: 'set-idea', id: i.id, field: 'by', from: i.by ?? '', to }])
}
/** What a text field of an idea needs. */
const kept = (i: Idea, field: 'name' | 'text') => ({
  name: `idea-${field}`,
  value: i[field] ?? '',
  kept: `plan.${props.plan.id}.${i.id}.${field}`,
  by: props.draft.writer(i.id, field),
  save: (from: string, to: string) => props.draft.apply([{ kind: 'set-idea', id: i.id, field, from, to }]),
})
</script>

<template>
  <div class="ideas">
    <p class="soft">
      A word or a concept that a reader must know: explained once, introduced by one passage, and linked where its name stands in a text.
    </p>
    <div v-for="i in plan.ideas" :key="i.id" class="idea">
      <div class="row">
        <TextField class="name" v-bind="kept(i, 'name')" label="Name of the idea" :most="200" />
        <label class="soft"
          >introduced by
          <select :value="i.by ?? ''" name="idea-by" @change="(e) => introduce(i, e)">
            <option value="">no passage</option>
            <option v-for="s in all" :key="s.passage.id" :value="s.passage.id">{{ s.number }}. {{ s.passage.title }}</option>
          </select></label
        >
        <button class="link" @click="emit('apply', [{ kind: 'remove-idea', id: i.id }])">remove</button>
      </div>
      <TextField v-bind="kept(i, 'text')" :label="`What ${i.name} is`" placeholder="what it is, in a sentence or two" :rows="2" />
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
