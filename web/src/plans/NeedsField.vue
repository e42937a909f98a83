<script setup lang="ts">
import { computed } from 'vue'
import { steps } from './model'
import type { Op, Passage, Plan } from './use'

/** What must be known before a passage: passages and ideas. */
const props = defineProps<{ plan: Plan; passage: Passage }>()
const emit = defineEmits<{ apply: [ops: Op[]]; choose: [passage: string] }>()
const all = computed(() => steps(props.plan))
const ideas = computed(() => new Map(props.plan.ideas.map((i) => [i.id, i])))
const here = computed(() => all.value.find((s) => s.passage.id === props.passage.id)?.number ?? 0)
const needs = computed(() =>
  (props.passage.needs ?? []).map((id) => {
    const idea = ideas.value.get(id)
    const at = all.value.find((s) => s.passage.id === (idea?.by ?? id))
    const what = idea ? `the idea “${idea.name}”` : at ? `“${at.passage.title}”` : 'something that is gone'
    const place = !at
      ? idea
        ? 'introduced nowhere'
        : ''
      : at.number > here.value
        ? `passage ${at.number}, which comes later`
        : `passage ${at.number}`
    return { id, what, place, passage: at?.passage.id }
  }),
)
const offered = computed(() => {
  const has = new Set([...(props.passage.needs ?? []), props.passage.id])
  return [
    { label: 'Ideas', options: props.plan.ideas.filter((i) => !has.has(i.id)).map((i) => ({ value: i.id, label: i.name })) },
    {
      label: 'Passages',
      options: all.value
        .filter((s) => !has.has(s.passage.id))
        .map((s) => ({ value: s.passage.id, label: `${s.number}. ${s.passage.title}` })),
    },
  ]
})
const matches = (typed: string, o?: { label?: unknown }) =>
  String(o?.label ?? '')
    .toLowerCase()
    .includes(typed.toLowerCase())
</script>

<template>
  <div>
    <p v-for="n in needs" :key="n.id" class="need">
      <button v-if="n.passage" class="link" @click="emit('choose', n.passage)">{{ n.what }}</button><span v-else>{{ n.what }}</span>
      <span class="soft">{{ n.place }}</span>
      <button class="link" @click="emit('apply', [{ kind: 'drop-need', id: passage.id, to: n.id }])">not needed</button>
    </p>
    <a-select
      :value="undefined"
      show-search
      size="small"
      placeholder="a passage or an idea that must be known before"
      aria-label="Add what must be known before"
      style="width: 100%; margin-top: 4px"
      :options="offered"
      :filter-option="matches"
      @select="(v: unknown) => emit('apply', [{ kind: 'add-need', id: passage.id, to: String(v) }])"
    />
  </div>
</template>

<style scoped>
.need {
  display: flex;
  gap: 12px;
  padding: 2px 0;
}
.need .link:last-child {
  margin-left: auto;
}
</style>
