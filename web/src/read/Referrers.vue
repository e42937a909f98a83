<script setup lang="ts">
import { useQuery } from '@tanstack/vue-query'
import { computed, ref } from 'vue'
import { api, data, words } from '@/api/client'
import { count, many } from '@/words/format'
import type { FileAt } from './pane/text'

const props = defineProps<{ file: FileAt }>()
const { data: found, error } = useQuery({
  queryKey: computed(() => ['repository', props.file.repository, 'referrers', props.file.path, props.file.at ?? '']),
  queryFn: ({ signal }) =>
    data(
      api.GET('/api/repositories/{repository}/referrers', {
        params: { path: { repository: props.file.repository }, query: { path: props.file.path, at: props.file.at } },
        signal,
      }),
    ),
  retry: false,
})
const first = 12
const all = ref(false)
const how: Record<string, string> = { path: 'by its path', name: 'by its name', stem: 'by its name without extension' }
const to = (path: string, line: number) => ({
  name: 'read',
  params: { repository: props.file.repository },
  query: { path, lines: String(line), ...(props.file.at ? { at: props.file.at } : {}) },
})
</script>

<template>
  <section class="referrers">
    <h2>Who refers to it</h2>
    <p v-if="error" class="fault">{{ words(error) }}</p>
    <p v-else-if="!found" class="soft">Looking through the files …</p>
    <p v-else-if="!found.by.length" class="soft">
      No text file of this commit holds {{ found.asked.map((t) => `“${t}”`).join(' or ') }} as a reference to it. A name that is put
      together when the program runs cannot be seen.
    </p>
    <ul v-else>
      <li v-for="r in all ? found.by : found.by.slice(0, first)" :key="`${r.path}:${r.line}`">
        <router-link :to="to(r.path, r.line)" class="mono">{{ r.path }}:{{ r.line }}</router-link>
        <span class="soft how">{{ how[r.how] }}</span>
        <code>{{ r.text }}</code>
        <span v-if="r.alias" class="soft">
          as <b class="mono">{{ r.alias }}</b><template v-if="r.uses.length"
            >, used in
            <router-link v-for="u in r.uses.slice(0, 6)" :key="`${u.path}:${u.line}`" :to="to(u.path, u.line)" class="mono use"
              >{{ u.path.split('/').at(-1) }}:{{ u.line }}</router-link
            ><template v-if="r.uses.length > 6"> and {{ many(r.uses.length - 6, 'place') }} more</template
            ><template v-if="r.more">, and perhaps in others that are not told</template></template
          >
        </span>
      </li>
    </ul>
    <button v-if="found && !all && found.by.length > first" class="link" @click="all = true">all {{ count(found.by.length) }}</button>
    <p v-if="found?.more" class="soft">There are more than are told.</p>
  </section>
</template>

<style scoped>
.referrers {
  margin-top: 22px;
  max-width: 780px;
}
h2 {
  font-size: 15.5px;
  color: var(--teal);
  margin-bottom: 6px;
}
ul {
  list-style: none;
  margin: 0;
  padding: 0;
}
li {
  border-top: 1px solid var(--rule-soft);
  padding: 4px 0;
  overflow-wrap: anywhere;
}
code {
  display: block;
  font: 12px var(--mono);
  white-space: nowrap;
  overflow: hidden;
  text-overflow: ellipsis;
}
.how {
  margin-left: 10px;
}
.use {
  margin-right: 8px;
}
</style>
