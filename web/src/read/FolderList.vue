<script setup lang="ts">
import { useQuery } from '@tanstack/vue-query'
import { computed } from 'vue'
import { api, data, words } from '@/api/client'
import { includes, useRepository } from '@/frame/repository'
import { ThreadsHere } from '@/notes'
import { Sentences, useSummary } from '@/told'
import { count, many } from '@/words/format'

const props = defineProps<{ repository: number; path: string }>()
const { data: folder, error } = useQuery({
  queryKey: computed(() => ['repository', props.repository, 'folder', props.path]),
  queryFn: ({ signal }) =>
    data(
      api.GET('/api/repositories/{repository}/folder', {
        params: { path: { repository: props.repository }, query: { path: props.path } },
        signal,
      }),
    ),
})
const here = useRepository()
const { data: summary } = useSummary(
  () => props.repository,
  () => props.path,
)
const to = (p: { path: string; folder: boolean }) => ({
  name: 'read',
  params: { repository: props.repository },
  query: p.folder ? { folder: p.path } : { path: p.path },
})
</script>

<template>
  <div class="list">
    <Sentences v-if="summary?.sentences.length" class="short" :sentences="summary.sentences" :repository="repository" :folder="path" />
    <p v-if="path" class="soft">
      <router-link :to="{ name: 'draft-plan', params: { repository }, query: { goal: 'folder', path } }"
        >Draft a plan to start contributing here</router-link
      >
    </p>
    <p v-if="error" class="fault">{{ words(error) }}</p>
    <table v-else-if="folder">
      <tbody>
        <tr v-for="c in folder.children" :key="c.path">
          <td>
            <router-link :to="to(c)">{{ c.name }}{{ c.folder ? '/' : '' }}</router-link>
          </td>
          <td class="soft">{{ c.folder ? many(c.files, 'file') : c.role }}</td>
          <td class="soft">{{ c.language }}</td>
          <td class="n">{{ c.lines === null ? '' : `${count(c.lines)} lines` }}</td>
          <td class="n">{{ c.commits === null ? '' : many(c.commits, 'change') }}</td>
        </tr>
      </tbody>
    </table>
    <ThreadsHere :repository="repository" :path="path" :writer="includes(here.role, 'writer')" />
  </div>
</template>

<style scoped>
.list {
  overflow: auto;
  padding: 8px 14px;
}
table {
  width: 100%;
  border-collapse: collapse;
}
td {
  padding: 4px 12px 4px 0;
  border-bottom: 1px solid var(--rule-soft);
}
.short {
  max-width: 760px;
  margin: 4px 0 16px;
}
.n {
  text-align: right;
}
</style>
