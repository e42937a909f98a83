<script setup lang="ts">
import { useQuery } from '@tanstack/vue-query'
import { computed } from 'vue'
import { api, data, words } from '@/api/client'
import { useRepository } from '@/frame/repository'
import { usePageTitle } from '@/frame/title'
import { SurveyIt, useCommit } from '@/history'
import { date, short } from '@/words/format'

/** A folder at a commit that is not the pin: names alone, as git has them. */
const props = defineProps<{ folder: string; at: string }>()
const repository = useRepository()
const { data: tree, error } = useQuery({
  queryKey: computed(() => ['repository', repository.value.id, 'tree', props.at, props.folder]),
  queryFn: ({ signal }) =>
    data(
      api.GET('/api/repositories/{repository}/tree', {
        params: { path: { repository: repository.value.id }, query: { at: props.at, path: props.folder } },
        signal,
      }),
    ),
  retry: false,
})
const { data: commit } = useCommit(
  () => repository.value.id,
  () => props.at,
)
usePageTitle(() => `${props.folder || ''}/`)
const up = computed(() => props.folder.split('/').slice(0, -1).join('/'))
</script>

<template>
  <div class="page narrow">
    <p v-if="error" class="fault" role="alert">{{ words(error) }}</p>
    <template v-else-if="tree">
      <h1 class="mono">{{ folder || repository.name }}/</h1>
      <p class="soft">
        At <b>{{ at === tree.commit ? short(at) : `${at} (${short(tree.commit)})` }}</b>{{ tree.at ? `, ${date(tree.at)}` : '' }}: names and
        texts, as git has them; figures stand at the pin alone.
        <router-link :to="{ query: folder ? { folder } : {} }"
          >See it at the pin, {{ repository.pin_ref || short(repository.pin) }}</router-link
        >
        <router-link :to="{ name: 'commit', params: { repository: repository.id, commit: tree.commit } }">the commit</router-link>
      </p>
      <p v-if="commit && !commit.surveyed"><SurveyIt :commit="commit.id" :surveying="commit.surveying" /></p>
      <ul>
        <li v-if="folder">
          <router-link :to="{ query: { folder: up || undefined, at } }">the folder around it</router-link>
        </li>
        <li v-for="e in tree.entries" :key="e.path">
          <router-link v-if="e.mode === 'folder'" class="mono" :to="{ query: { folder: e.path, at } }">{{ e.name }}/</router-link>
          <router-link v-else-if="e.mode === 'file' || e.mode === 'executable'" class="mono" :to="{ query: { path: e.path, at } }">{{
            e.name
          }}</router-link>
          <span v-else class="mono"
            >{{ e.name }} <span class="soft">{{ e.mode }}</span></span
          >
        </li>
      </ul>
    </template>
    <p v-else class="soft">Listing the folder …</p>
  </div>
</template>

<style scoped>
h1.mono {
  font: 600 20px var(--mono);
  overflow-wrap: anywhere;
}
ul {
  list-style: none;
  margin: 12px 0 0;
  padding: 0;
}
li {
  border-top: 1px solid var(--rule-soft);
  padding: 2px 0;
  overflow-wrap: anywhere;
}
</style>
