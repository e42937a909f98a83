<script setup lang="ts">
import { useQuery } from '@tanstack/vue-query'
import { computed } from 'vue'
import { api, data } from '@/api/client'
import Thread from './Thread.vue'
import { useGo } from './use'

/** The threads on a folder, on the repository where the path is empty, or about a
 * commit and those that it follows up. */
const props = defineProps<{ repository: number; path?: string; commit?: string; writer: boolean }>()
const go = useGo(() => props.repository)
const { data: on } = useQuery({
  queryKey: computed(() => ['repository', props.repository, 'notes', 'here', props.path ?? '', props.commit ?? '']),
  queryFn: ({ signal }) =>
    data(
      api.GET('/api/repositories/{repository}/annotations', {
        params: {
          path: { repository: props.repository },
          query: props.commit ? { at: props.commit, about: true } : { path: props.path },
        },
        signal,
      }),
    ),
})
</script>

<template>
  <section v-if="on?.threads.length" class="here" aria-label="Notes">
    <h3>✱ Notes</h3>
    <Thread
      v-for="t in on.threads"
      :key="t.id"
      :repository="repository"
      :thread="t"
      :writer="writer"
      :placed="!!commit && t.target.kind !== 'commit'"
      class="one"
      @go="go(t)"
    />
  </section>
</template>

<style scoped>
.here {
  margin: 12px 0;
}
.one {
  padding: 6px 0 6px 11px;
  margin-top: 6px;
  border-left: 2px solid var(--ink);
  max-width: 720px;
}
</style>
