<script setup lang="ts">
import { keepPreviousData, useQuery } from '@tanstack/vue-query'
import { computed } from 'vue'
import { api, data } from '@/api/client'
import { faultWords, steps } from './model'
import type { Plan } from './use'

/** What is wrong with a draft, as it goes: a count as a tab, and the list. */
const props = defineProps<{ repository: number; plan: Plan; acknowledged: boolean; open: boolean }>()
const emit = defineEmits<{ open: []; choose: [passage: string] }>()
const { data: faults } = useQuery({
  queryKey: computed(() => ['plans', props.repository, props.plan.id, 'faults', props.plan.seq]),
  queryFn: ({ signal }) =>
    data(
      api.GET('/api/repositories/{repository}/plans/{plan}/problems', {
        params: { path: { repository: props.repository, plan: props.plan.id } },
        signal,
      }),
    ),
  enabled: computed(() => props.acknowledged),
  placeholderData: keepPreviousData,
})
const titles = computed(() => new Map(steps(props.plan).map((s) => [s.passage.id, s.passage.title])))
const ideas = computed(() => new Map(props.plan.ideas.map((i) => [i.id, i.name])))
const said = (f: NonNullable<typeof faults.value>[number]) =>
  faultWords(
    f,
    (p) => titles.value.get(p) ?? 'a passage',
    (i) => ideas.value.get(i) ?? 'an idea',
  )
</script>

<template>
  <button :class="{ on: open }" @click="emit('open')">
    Problems <b v-if="faults?.length">{{ faults.length }}</b><template v-else-if="faults"> none</template>
  </button>
  <Teleport v-if="open" defer to=".detail">
    <ul class="faults" aria-label="Problems">
      <li v-for="(f, i) in faults ?? []" :key="i">
        <button v-if="f.passages[0]" class="link" @click="emit('choose', f.passages[0])">{{ said(f) }}</button>
        <span v-else>{{ said(f) }}</span>
      </li>
      <li v-if="faults && !faults.length" class="soft">
        Nothing is wrong: every passage says what for, nothing is used before it is introduced, and the plan fits its readers' time.
      </li>
    </ul>
  </Teleport>
</template>

<style scoped>
.faults {
  flex: 1;
  min-height: 0;
  overflow: auto;
  list-style: none;
  margin: 0;
  padding: 12px 20px;
}
.faults li {
  padding: 4px 0;
  border-bottom: 1px solid var(--rule-soft);
}
.faults button {
  text-align: left;
}
</style>
