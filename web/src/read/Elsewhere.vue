<script setup lang="ts">
import { useQuery } from '@tanstack/vue-query'
import { computed, ref } from 'vue'
import Dialog from '@/frame/Dialog.vue'
import { useRoute, useRouter } from 'vue-router'
import { api, data, words } from '@/api/client'
import { notice } from '@/frame/notice'
import { date, lineSpan, short } from '@/words/format'
import { writeRange, type Range } from '@/words/range'

/** The same place at another commit. */
const open = defineModel<boolean>({ required: true })
const props = defineProps<{ repository: number; path: string; at?: string; range: Range }>()
const route = useRoute()
const router = useRouter()
const typed = ref('')
const fault = ref('')
const busy = ref(false)
const { data: refs } = useQuery({
  queryKey: computed(() => ['repository', props.repository, 'refs']),
  queryFn: ({ signal }) =>
    data(api.GET('/api/repositories/{repository}/refs', { params: { path: { repository: props.repository } }, signal })),
  enabled: open,
})
const list = computed(() => {
  const r = refs.value
  const t = typed.value.trim().toLowerCase()
  return r
    ? [...r.tags, ...r.branches, ...r.recent.slice(0, 20)]
        .filter((x) => !t || `${x.name} ${x.commit} ${x.subject}`.toLowerCase().includes(t))
        .slice(0, 60)
    : []
})
const said: Record<string, string> = {
  same: 'These lines are the same there.',
  moved: 'The same lines stand elsewhere in the file there.',
  changed: 'Some of these lines are different there.',
  gone: 'These lines are not there.',
}
async function go(to: string) {
  busy.value = true
  fault.value = ''
  try {
    const f = await data(
      api.GET('/api/repositories/{repository}/follow', {
        params: {
          path: { repository: props.repository },
          query: { path: props.path, at: props.at, to, start: props.range.start, end: props.range.end },
        },
      }),
    )
    if (!f.path) {
      fault.value = `Commit ${short(f.commit)} has no such file, under this name or one that it was renamed to.`
      return
    }
    open.value = false
    notice(
      (f.path === props.path ? '' : `There it is called ${f.path}. `) +
        said[f.state] +
        (f.candidates.length ? ' The likeliest place is shown.' : ''),
    )
    await router.push({
      query: { ...route.query, name: undefined, path: f.path, at: f.commit, lines: writeRange({ start: f.start, end: f.end }) },
    })
  } catch (e) {
    fault.value = words(e)
  } finally {
    busy.value = false
  }
}
</script>

<template>
  <Dialog v-if="open" title="The same place at another commit" :width="640" @close="open = false" @save="typed.trim() && go(typed.trim())">
    <p class="soft">
      {{ path }}, {{ range.start === range.end ? 'line' : 'lines' }} {{ lineSpan(range.start, range.end) }}: the lines are followed there.
    </p>
    <form @submit.prevent="go(typed.trim())">
      <a-input
        v-model:value="typed"
        class="mono"
        aria-label="A tag, a branch or a commit id"
        placeholder="a tag, a branch or a commit id"
      />
      <a-button html-type="submit" :disabled="!typed.trim()" :loading="busy">Go there</a-button>
    </form>
    <p v-if="fault" class="fault" role="alert">{{ fault }}</p>
    <ul>
      <li v-for="r in list" :key="r.name + r.commit">
        <button class="link" @click="go(r.commit)">{{ r.name || short(r.commit) }}</button>
        <span class="soft">{{ date(r.time) }}</span>
        <span class="soft subject">{{ r.subject }}</span>
      </li>
    </ul>
  </Dialog>
</template>

<style scoped>
form {
  display: flex;
  gap: 8px;
  margin: 8px 0;
}
ul {
  list-style: none;
  margin: 0;
  padding: 0;
  max-height: 320px;
  overflow: auto;
}
li {
  display: grid;
  grid-template-columns: 130px 90px minmax(0, 1fr);
  gap: 10px;
  padding: 3px 0;
  border-top: 1px solid var(--rule-soft);
}
li button {
  text-align: left;
  overflow: hidden;
  text-overflow: ellipsis;
}
.subject {
  white-space: nowrap;
  overflow: hidden;
  text-overflow: ellipsis;
}
</style>
