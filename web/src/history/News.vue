<script setup lang="ts">
import { useQuery, useQueryClient } from '@tanstack/vue-query'
import { computed, onUnmounted } from 'vue'
import { api, data, words, type Schemas } from '@/api/client'
import { onChange } from '@/api/events'
import { notice } from '@/frame/notice'
import { includes, useRepository } from '@/frame/repository'
import { date, many, short } from '@/words/format'

/** How the pin stands beside the source: what is new since, and fetching more.
 * The pin itself stays until a keeper moves it. */
const repository = useRepository()
const queries = useQueryClient()
const id = computed(() => repository.value.id)
const { data: news } = useQuery({
  queryKey: computed(() => ['repository', id.value, 'news']),
  queryFn: ({ signal }) => data(api.GET('/api/repositories/{repository}/news', { params: { path: { repository: id.value } }, signal })),
  retry: false,
})
onUnmounted(
  onChange((e) => {
    if (!e || e.repository === id.value) void queries.invalidateQueries({ queryKey: ['repository', id.value, 'news'] })
  }),
)
async function fetchNew() {
  try {
    await data(api.POST('/api/repositories/{repository}/fetch', { params: { path: { repository: id.value } } }))
    await queries.invalidateQueries({ queryKey: ['repository', id.value, 'news'] })
  } catch (e) {
    notice(words(e), { fault: true })
  }
}
const whats: Record<Schemas['News']['what'], string> = { new: 'is new', moved: 'has moved', rewritten: 'was rewritten', gone: 'is gone' }
const told = computed(() => (news.value?.news ?? []).map((n) => `${n.kind} ${n.name} ${whats[n.what]}`))
</script>

<template>
  <p v-if="news" class="news soft" role="status">
    <template v-if="news.ahead"
      ><router-link :to="{ name: 'compare', params: { repository: id } }"
        >{{ many(news.ahead, 'commit') }} on {{ news.head || short(news.head_id) }} since the pin</router-link
      >
      <router-link v-if="includes(repository.role, 'keeper')" :to="{ name: 'pin', params: { repository: id } }"
        >move the pin</router-link
      ></template
    >
    <span v-else>nothing new on {{ news.head || short(news.head_id) }} since the pin</span>
    <template v-if="news.can_fetch">
      <span v-if="news.fetching">fetching new commits …</span>
      <button v-else-if="includes(repository.role, 'writer')" class="link" @click="fetchNew">fetch new commits</button>
      <span v-if="news.problem" class="fault" :title="news.problem">the last fetch failed: {{ news.problem }}</span>
      <span v-else-if="news.fetched_at" :title="told.join('\n')"
        >fetched {{ date(news.fetched_at) }}:
        {{ told.length ? `${told.slice(0, 2).join(', ')}${told.length > 2 ? ` and ${told.length - 2} more` : ''}` : 'nothing new' }}</span
      >
    </template>
  </p>
</template>

<style scoped>
.news {
  display: flex;
  flex-wrap: wrap;
  gap: 2px 14px;
  font-size: 12.5px;
  justify-content: flex-end;
  min-width: 0;
}
.news > span {
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
  max-width: 420px;
}
</style>
