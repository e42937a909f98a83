<script setup lang="ts">
import { useQuery } from '@tanstack/vue-query'
import { computed, ref } from 'vue'
import { api, data } from '@/api/client'
import { date, short } from '@/words/format'
import type { ThreadInfo } from './target'
import { useThread } from './use'

/** The commits that follow up what a thread is about, and a field to link one:
 * those that changed its file are offered, the newest first. */
const props = defineProps<{ repository: number; thread: ThreadInfo }>()
const linking = defineModel<boolean>('linking', { required: true })
const act = useThread(() => props.repository)
const typed = ref('')
const path = computed(() => props.thread.placed.path || props.thread.target.path || '')
const { data: log } = useQuery({
  queryKey: computed(() => ['repository', props.repository, 'log', 'of', path.value]),
  queryFn: ({ signal }) =>
    data(
      api.GET('/api/repositories/{repository}/log', {
        params: { path: { repository: props.repository }, query: { keep: path.value ? [`path:${path.value}`] : [], limit: 40 } },
        signal,
      }),
    ),
  enabled: linking,
  staleTime: 60_000,
  retry: false,
})
const linked = computed(() => new Set(props.thread.follow_ups.map((f) => f.commit)))
const options = computed(() => {
  const words = typed.value.toLowerCase()
  return (log.value?.rows ?? [])
    .filter((r) => !linked.value.has(r.id) && (r.id.startsWith(words) || r.subject.toLowerCase().includes(words)))
    .map((r) => ({ value: r.id, label: `${short(r.id)} ${date(r.time)} ${r.subject}` }))
})
const offered = computed(() => options.value.length > 0)
async function link(commit: string) {
  if (!commit.trim() || !(await act.link(props.thread, commit.trim(), true))) return
  typed.value = ''
  linking.value = false
}
</script>

<template>
  <div v-if="thread.follow_ups.length || linking" class="follow">
    <p v-for="f in thread.follow_ups" :key="f.commit">
      followed up by
      <router-link :to="{ name: 'commit', params: { repository, commit: f.commit } }"
        ><span class="mono">{{ short(f.commit) }}</span> {{ f.subject }}</router-link
      >
      <span v-if="f.at" class="soft"> · {{ date(f.at) }}</span>
      <button class="link" :title="`Unlink it${f.by ? `; ${f.by} linked it` : ''}`" @click="act.link(thread, f.commit, false)">
        unlink
      </button>
    </p>
    <p v-if="linking" class="choose">
      <a-auto-complete
        v-model:value="typed"
        :options="options"
        :filter-option="false"
        autofocus
        default-open
        style="flex: 1"
        @select="(v: unknown) => link(String(v))"
      >
        <a-input
          name="follow-up"
          placeholder="a commit: its id, a tag, or words of its message"
          aria-label="The commit that follows it up"
          @keydown.esc="linking = false"
          @press-enter="offered || link(typed)"
        />
      </a-auto-complete>
      <button class="link" @click="linking = false">not now</button>
    </p>
  </div>
</template>

<style scoped>
.follow {
  margin-top: 4px;
  font-size: 12.5px;
}
.follow p {
  overflow-wrap: anywhere;
}
.follow button {
  margin-left: 8px;
  font-size: 12px;
}
.choose {
  display: flex;
  align-items: center;
}
</style>
