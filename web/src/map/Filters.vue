<script setup lang="ts">
import { computed } from 'vue'
import type { MovesPerson } from './use'
import type { State } from './address'
import type { Chart } from './chart'
import { isOn, marks } from './filter'
import { coverTitles } from '@/plans/covering'
import { count } from '@/words/format'

const props = defineProps<{ chart: Chart; state: State; people: MovesPerson[]; shown: number; total: number; plan: string }>()
const emit = defineEmits<{ set: [change: Partial<State>] }>()
const options = (list: string[], all: string) => [{ value: '', label: all }, ...[...list].sort().map((v) => ({ value: v, label: v }))]
const people = computed(() => [
  { value: '', label: 'by anybody' },
  ...props.people.map((p) => ({ value: p.name, label: `by ${p.name}`, title: `${p.name}, ${count(p.commits)} commits` })),
])
const coverList = [
  { value: '', label: 'covered or not' },
  ...Object.entries(coverTitles).map(([value, label]) => ({ value, label: value === 'here' ? 'read in the plan at hand' : label })),
]
const markList = [{ value: '', label: 'any mark' }, ...Object.entries(marks).map(([value, label]) => ({ value, label }))]
const on = computed(() => isOn(props.state))
const byName = (text: string, o?: { label?: unknown }) => String(o?.label).toLowerCase().includes(text.toLowerCase())
</script>

<template>
  <div class="filters" role="search" aria-label="Narrow the rows">
    <a-input
      :value="state.name"
      allow-clear
      placeholder="Path holds …"
      aria-label="Path holds"
      class="wide"
      @update:value="emit('set', { name: $event })"
    />
    <a-select
      :value="state.role"
      :options="options(chart.info.roles, 'any role')"
      :dropdown-match-select-width="false"
      aria-label="Role"
      @change="emit('set', { role: $event as string })"
    />
    <a-select
      :value="state.language"
      :options="options(chart.info.languages, 'any language')"
      :dropdown-match-select-width="false"
      aria-label="Language"
      show-search
      @change="emit('set', { language: $event as string })"
    />
    <a-select
      v-if="people.length > 1"
      :value="state.by"
      :options="people"
      :dropdown-match-select-width="false"
      aria-label="Changed by"
      show-search
      :filter-option="byName"
      @change="emit('set', { by: $event as string })"
    />
    <a-select
      :value="state.mark"
      :options="markList"
      :dropdown-match-select-width="false"
      aria-label="Mark"
      @change="emit('set', { mark: $event as State['mark'] })"
    />
    <a-select
      v-if="plan || state.covers"
      :value="state.covers"
      :options="coverList"
      :dropdown-match-select-width="false"
      :title="`Leads, as “${plan}” decides about them`"
      aria-label="Covered by the plan at hand"
      @change="emit('set', { covers: $event as State['covers'] })"
    />
    <template v-if="on">
      <span class="soft told">{{ count(shown) }} of {{ count(total) }} files;</span>
      <span class="soft told">the rest is</span>
      <button class="link" @click="emit('set', { rest: state.rest === 'gone' ? 'dim' : 'gone' })">
        {{ state.rest === 'gone' ? 'hidden' : 'dimmed' }}
      </button>
      <button class="link" @click="emit('set', { name: '', role: '', language: '', by: '', mark: '', covers: '' })">clear</button>
    </template>
    <slot />
  </div>
</template>

<style scoped>
.filters {
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: 4px 8px;
  padding: 8px var(--gap) 0;
  white-space: nowrap;
}
.filters :deep(.ant-select) {
  min-width: 92px;
  max-width: 150px;
}
.wide {
  flex: none;
  width: 150px;
}
.told {
  font-size: 12px;
}
</style>
