<script setup lang="ts">
import { useQuery, useQueryClient } from '@tanstack/vue-query'
import { computed, ref } from 'vue'
import { api, data, words, type Schemas } from '@/api/client'
import { notice } from '@/frame/notice'

/** A secret with which whoever serves the repository may say that there are new
 * commits. */
const props = defineProps<{ repository: number }>()
const queries = useQueryClient()
const params = computed(() => ({ path: { repository: props.repository } }))
const { data: news } = useQuery({
  queryKey: computed(() => ['repository', props.repository, 'news']),
  queryFn: ({ signal }) => data(api.GET('/api/repositories/{repository}/news', { params: params.value, signal })),
  retry: false,
})
const made = ref<Schemas['HookInfo'] | null>(null)
async function attempt(what: () => Promise<unknown>) {
  try {
    await what()
    await queries.invalidateQueries({ queryKey: ['repository', props.repository, 'news'] })
  } catch (e) {
    notice(words(e), { fault: true })
  }
}
const make = () => attempt(async () => (made.value = await data(api.POST('/api/repositories/{repository}/hook', { params: params.value }))))
const end = () =>
  attempt(async () => {
    await data(api.DELETE('/api/repositories/{repository}/hook', { params: params.value }))
    made.value = null
  })
const origin = location.origin
</script>

<template>
  <section v-if="news">
    <h2>New commits</h2>
    <p v-if="!news.can_fetch" class="soft">It was taken in from a file: there is nowhere to fetch new commits from.</p>
    <template v-else>
      <p class="soft">
        New commits are fetched when a writer asks for it in the history, or when a signed call comes. The pin stays until you move it.
        {{ news.hooked ? 'Signed calls are taken.' : 'No calls are taken yet.' }}
      </p>
      <div class="row">
        <a-button @click="make">{{ news.hooked ? 'Make a new secret' : 'Take signed calls' }}</a-button>
        <a-button v-if="news.hooked" @click="end">Take none any more</a-button>
      </div>
      <dl v-if="made">
        <dt>POST to</dt>
        <dd class="mono">{{ origin }}{{ made.path }}</dd>
        <dt>Secret</dt>
        <dd class="mono">{{ made.secret }} <span class="soft">(shown this once)</span></dd>
        <dt>Header</dt>
        <dd>{{ made.signature }}</dd>
      </dl>
    </template>
  </section>
</template>

<style scoped>
section {
  display: grid;
  gap: 10px;
  padding: 18px 0;
  border-bottom: 1px solid var(--rule);
}
.row {
  display: flex;
  gap: 10px;
}
dl {
  display: grid;
  grid-template-columns: 70px 1fr;
  gap: 3px 10px;
  margin: 0;
}
dt {
  color: var(--ink-soft);
}
dd {
  margin: 0;
  overflow-wrap: anywhere;
}
</style>
