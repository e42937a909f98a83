<script setup lang="ts">
import { computed } from 'vue'
import { many } from '@/words/format'
import type { Asked } from './proposing'

/** What a draft is for, and how long its readers have. */
const props = defineProps<{ asked: Asked; plans: readonly { id: number; title: string }[] }>()
const emit = defineEmits<{ ask: [asked: Asked] }>()
const change = (to: Partial<Asked>) => emit('ask', { ...props.asked, ...to })
const goals = computed(() => [
  { goal: 'whole' as const, says: 'understand the whole' },
  { goal: 'folder' as const, says: 'start contributing to a folder' },
  { goal: 'question' as const, says: 'pursue a question' },
  { goal: 'since' as const, says: 'review what changed since' },
  ...(props.asked.goal === 'symbol' ? [{ goal: 'symbol' as const, says: `change ${props.asked.name}` }] : []),
])
const spans = [15, 30, 60, 120, 240, 480, 960]
const span = (n: number) => (n < 60 ? `${n} min` : n % 480 === 0 && n >= 480 ? many(n / 480, 'day') : many(n / 60, 'hour'))
const ways = [
  { order: 'outside-in' as const, says: 'from outside in', why: 'from where it starts, along what that leans on' },
  { order: 'inside-out' as const, says: 'from inside out', why: 'what others stand on first' },
]
const typed = (e: Event) => (e.target as HTMLInputElement).value.trim() || undefined
</script>

<template>
  <form class="asking" @submit.prevent>
    <fieldset>
      <legend>I want to</legend>
      <label v-for="g in goals" :key="g.goal">
        <input type="radio" name="goal" :value="g.goal" :checked="asked.goal === g.goal" @change="change({ goal: g.goal })" />
        {{ g.says }}
      </label>
      <input
        v-if="asked.goal === 'folder'"
        name="draft-folder"
        :value="asked.path"
        placeholder="the folder’s path, e.g. core/plan"
        @change="(e) => change({ path: typed(e) })"
      />
      <input
        v-if="asked.goal === 'question'"
        name="draft-words"
        maxlength="200"
        :value="asked.words"
        placeholder="words to look for"
        @change="(e) => change({ words: typed(e) })"
      />
      <input
        v-if="asked.goal === 'since'"
        name="draft-since"
        :value="asked.since"
        placeholder="a tag, branch or commit"
        @change="(e) => change({ since: typed(e) })"
      />
    </fieldset>
    <fieldset>
      <legend>and have</legend>
      <div class="spans">
        <button
          v-for="n in spans"
          :key="n"
          type="button"
          :aria-pressed="asked.minutes === n"
          :class="{ on: asked.minutes === n }"
          @click="change({ minutes: n })"
        >
          {{ span(n) }}
        </button>
      </div>
      <label
        ><input
          type="number"
          name="draft-minutes"
          min="5"
          max="2400"
          :value="asked.minutes"
          @change="(e) => change({ minutes: Math.min(2400, Math.max(5, Number((e.target as HTMLInputElement).value) || 60)) })"
        />
        minutes</label
      >
    </fieldset>
    <fieldset>
      <legend>reading</legend>
      <label v-for="w in ways" :key="w.order">
        <input type="radio" name="order" :value="w.order" :checked="asked.order === w.order" @change="change({ order: w.order })" />
        <span
          >{{ w.says }}<small>{{ w.why }}</small></span
        >
      </label>
    </fieldset>
    <fieldset>
      <legend>for</legend>
      <select
        name="draft-plan"
        aria-label="The plan it is drafted for"
        :value="asked.plan ?? 0"
        @change="(e) => change({ plan: Number((e.target as HTMLSelectElement).value) || undefined })"
      >
        <option :value="0">a new plan</option>
        <option v-for="p in plans" :key="p.id" :value="p.id">{{ p.title }}</option>
      </select>
    </fieldset>
  </form>
</template>

<style scoped>
.asking {
  display: grid;
  gap: 16px;
  align-content: start;
  padding: 20px 18px;
  font: 13px/1.45 var(--sans);
}
fieldset {
  display: grid;
  gap: 6px;
  margin: 0;
  padding: 0;
  border: 0;
}
legend {
  padding: 0;
  margin-bottom: 4px;
  font: italic 15px/1.3 var(--serif);
  color: var(--ink-soft);
}
label {
  display: flex;
  gap: 8px;
  align-items: baseline;
}
small {
  display: block;
  color: var(--ink-soft);
  font-size: 12px;
}
input:not([type='radio']),
select {
  width: 100%;
  padding: 4px 8px;
  background: var(--sheet);
  color: var(--ink);
  border: 1px solid var(--rule);
  border-radius: var(--radius);
  font: inherit;
}
input[type='number'] {
  width: 84px;
}
input[type='radio'] {
  accent-color: var(--plum);
}
.spans {
  display: flex;
  flex-wrap: wrap;
  gap: 4px;
}
.spans button {
  padding: 2px 8px;
  background: none;
  color: var(--ink);
  border: 1px solid var(--rule);
  border-radius: var(--radius);
  font: inherit;
  cursor: pointer;
}
.spans .on {
  border-color: var(--plum);
  background: var(--plum-wash);
  color: var(--plum);
}
</style>
