<script setup lang="ts">
import { computed, ref, shallowRef, watch } from 'vue'
import { useRoute, useRouter } from 'vue-router'
import type { Schemas } from '@/api/client'
import { useRepository } from '@/frame/repository'
import { count, many, short } from '@/words/format'
import { readDocuments } from './search'

const repository = useRepository()
const route = useRoute()
const router = useRouter()
const text = computed(() => (typeof route.query.text === 'string' ? route.query.text : ''))
const folder = computed(() => (typeof route.query.folder === 'string' ? route.query.folder : ''))
const exact = computed(() => route.query.case === 'true')
const typed = ref(text.value)
watch(text, (t) => (typed.value = t))

type Found = Schemas['SearchLine']
const files = shallowRef<{ path: string; lines: Found[] }[]>([])
const end = ref<Schemas['SearchEnd'] | null>(null)
const fault = ref('')
const running = ref<AbortController | null>(null)
const lines = computed(() => files.value.reduce((n, f) => n + f.lines.length, 0))
watch(
  () => [repository.value.id, text.value, folder.value, exact.value],
  async () => {
    running.value?.abort()
    files.value = []
    end.value = null
    fault.value = ''
    if (!text.value) return
    const stop = (running.value = new AbortController())
    const q = new URLSearchParams({
      text: text.value,
      ...(folder.value ? { folder: folder.value } : {}),
      ...(exact.value ? { case: 'true' } : {}),
    })
    try {
      for await (const batch of readDocuments<Found>(`/api/repositories/${repository.value.id}/search?${q}`, stop.signal)) {
        const list = [...files.value]
        for (const l of batch) {
          if (l.end) end.value = l.end
          else if (list.at(-1)?.path === l.path) list.at(-1)!.lines.push(l)
          else list.push({ path: l.path!, lines: [l] })
        }
        files.value = list
      }
    } catch (e) {
      if (!stop.signal.aborted) fault.value = e instanceof Error ? e.message : 'The search broke off.'
    } finally {
      if (running.value === stop) running.value = null
    }
  },
  { immediate: true },
)
function ask() {
  if (typed.value) void router.replace({ query: { ...route.query, text: typed.value } })
}
const to = (l: Found) => ({ name: 'read', params: { repository: repository.value.id }, query: { path: l.path!, lines: String(l.line) } })
/** A line around what was looked for. */
function parts(l: Found): [string, string, string] {
  const t = l.text ?? ''
  const at = (exact.value ? t : t.toLowerCase()).indexOf(exact.value ? text.value : text.value.toLowerCase())
  return at < 0 ? [t, '', ''] : [t.slice(0, at), t.slice(at, at + text.value.length), t.slice(at + text.value.length)]
}
</script>

<template>
  <div class="page">
    <h1>Lines that hold a text</h1>
    <form @submit.prevent="ask">
      <a-input v-model:value="typed" class="mono" aria-label="The text to look for" placeholder="text on one line" />
      <a-button type="primary" html-type="submit" :disabled="!typed">Look for it</a-button>
      <a-button v-if="running" @click="running.abort()">Stop</a-button>
      <label
        ><input
          type="checkbox"
          :checked="exact"
          @change="router.replace({ query: { ...route.query, case: exact ? undefined : 'true' } })"
        />
        capitals count</label
      >
    </form>
    <p class="soft" role="status">
      <template v-if="!text">The text files of the pin are searched, comments and strings included.</template>
      <template v-else-if="fault"
        ><span class="fault">{{ fault }}</span></template
      >
      <template v-else-if="end">
        {{ many(end.lines, 'line') }} in {{ many(end.files, 'file') }} of the pin, {{ short(end.commit)
        }}<template v-if="folder"> below {{ folder }}</template
        >.
        <template v-if="end.more">These are the first; there may be others. Look for a longer text. </template>
        <span v-if="end.fault" class="fault">Not all was searched: {{ end.fault }}.</span>
        <template v-if="!end.lines">No text file of the pin holds it as it is typed; binary files were not searched.</template>
      </template>
      <template v-else-if="running">{{ many(lines, 'line') }} so far …</template>
      <template v-else>Stopped at {{ many(lines, 'line') }}; there may be others.</template>
    </p>
    <section v-for="f in files" :key="f.path">
      <h2 class="mono">
        {{ f.path }} <span class="soft">{{ count(f.lines.length) }}</span>
      </h2>
      <router-link v-for="l in f.lines" :key="l.line" class="line plain" :to="to(l)">
        <span class="number">{{ l.line }}</span><code
          ><template v-for="(p, i) in parts(l)" :key="i"
            ><mark v-if="i === 1">{{ p }}</mark
            ><template v-else>{{ p }}</template></template
          ></code
        >
      </router-link>
    </section>
  </div>
</template>

<style scoped>
form {
  display: flex;
  gap: 10px;
  align-items: center;
  max-width: 720px;
  margin: 12px 0;
}
label {
  white-space: nowrap;
}
section {
  margin-top: 14px;
  content-visibility: auto;
  contain-intrinsic-size: auto 80px;
}
h2 {
  font: 600 12.5px/1.6 var(--mono);
  border-bottom: 1px solid var(--rule);
}
h2 .soft {
  font-weight: 400;
}
.line {
  display: grid;
  grid-template-columns: 56px minmax(0, 1fr);
  padding: 1px 0;
}
.line:hover {
  background: var(--hover);
  text-decoration: none;
}
.number {
  font: 12px/1.7 var(--mono);
  color: var(--ink-soft);
  text-align: right;
  padding-right: 14px;
}
code {
  font: 12.5px/1.6 var(--mono);
  white-space: nowrap;
  overflow: hidden;
  text-overflow: ellipsis;
}
mark {
  background: var(--ochre-pale);
  color: inherit;
}
</style>
