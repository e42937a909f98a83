<script setup lang="ts">
import { useQuery } from '@tanstack/vue-query'
import { computed, ref } from 'vue'
import { api, data, words } from '@/api/client'
import { notice } from '@/frame/notice'
import { many } from '@/words/format'
import ChangesList from './ChangesList.vue'
import { usePlanChanges, type Plan } from './use'

/** Tells that a newer edition is there, what changed in it, and takes it. */
const props = defineProps<{ repository: number; plan: Plan }>()
const changes = usePlanChanges(() => props.repository)
const open = ref(false)
const path = computed(() => ({ repository: props.repository, plan: props.plan.id }))
const { data: list } = useQuery({
  queryKey: computed(() => ['plans', props.repository, props.plan.id, 'differences', props.plan.edition, props.plan.newest]),
  queryFn: ({ signal }) =>
    data(
      api.GET('/api/repositories/{repository}/plans/{plan}/differences', {
        params: { path: path.value, query: { from: String(props.plan.edition), to: String(props.plan.newest) } },
        signal,
      }),
    ),
})
const { data: editions } = useQuery({
  queryKey: computed(() => ['plans', props.repository, props.plan.id, 'editions', props.plan.newest]),
  queryFn: ({ signal }) => data(api.GET('/api/repositories/{repository}/plans/{plan}/editions', { params: { path: path.value }, signal })),
})
const newer = computed(() => editions.value?.filter((e) => e.number > props.plan.edition) ?? [])
async function take() {
  try {
    await changes.reading(props.plan.id, props.plan.newest, props.plan.shown)
    notice(`You read edition ${props.plan.newest} now. What you have done stays done.`)
  } catch (e) {
    notice(words(e), { fault: true })
  }
}
</script>

<template>
  <section class="newer" aria-label="A newer edition">
    <p>
      <b>Edition {{ plan.newest }} is there</b>; you read edition {{ plan.edition }}.
      <button class="link" :aria-expanded="open" @click="open = !open">{{ list ? many(list.length, 'change') : 'what changed' }}</button>
      <button class="link" @click="take">take it</button>
    </p>
    <template v-if="open">
      <p v-for="e in newer" :key="e.number" class="soft">edition {{ e.number }}, {{ e.by }}: {{ e.note || 'no note' }}</p>
      <ChangesList v-if="list" :changes="list" />
    </template>
  </section>
</template>

<style scoped>
.newer {
  padding: 8px 12px;
  margin-bottom: 10px;
  border: 1px solid var(--plum);
  font-size: 13px;
}
.newer button {
  margin-left: 10px;
}
</style>
