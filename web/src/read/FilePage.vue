<script setup lang="ts">
import { useQuery, useQueryClient } from '@tanstack/vue-query'
import { computed, ref, watch } from 'vue'
import { useRoute, useRouter } from 'vue-router'
import { api, data } from '@/api/client'
import { notice } from '@/frame/notice'
import { includes, useRepository } from '@/frame/repository'
import { useAdding, useSelection } from '@/plans/adding'
import { count, lineSpan, many, short } from '@/words/format'
import { parseRange, writeRange, type Range } from '@/words/range'
import { NameCard, parseName, useLinks, useSummary, writeName, type NamePlace } from '@/told'
import CodeLines from './CodeLines.vue'
import FileCard from './FileCard.vue'
import Outline from './Outline.vue'
import type { Symbol } from './outline'
import { useOutline } from './useOutline'

const props = defineProps<{ path: string }>()
const repository = useRepository()
const route = useRoute()
const router = useRouter()
const adding = useAdding()
const id = computed(() => repository.value.id)
const at = computed(() => (typeof route.query.at === 'string' ? route.query.at : undefined))
const elsewhere = computed(() => !!at.value && at.value !== repository.value.pin)
const range = computed(() => parseRange(route.query.lines))
const total = ref(0)
const name = computed(() => (elsewhere.value ? null : parseName(route.query.name)))
const { data: links, error: linksError } = useLinks(
  id,
  () => props.path,
  () => !elsewhere.value,
)
const { data: summary } = useSummary(
  id,
  () => props.path,
  () => !elsewhere.value,
)

const { data: file, error } = useQuery({
  queryKey: computed(() => ['repository', id.value, 'file', props.path]),
  queryFn: ({ signal }) =>
    data(
      api.GET('/api/repositories/{repository}/file', { params: { path: { repository: id.value }, query: { path: props.path } }, signal }),
    ),
  enabled: computed(() => !elsewhere.value),
})
// that it was opened is remembered for this person alone, and marks it on the Map
const queries = useQueryClient()
watch(
  () => file.value?.path,
  async (path) => {
    if (!path) return
    await api.PUT('/api/repositories/{repository}/opened', { params: { path: { repository: id.value } }, body: { path } })
    void queries.invalidateQueries({ queryKey: ['plans', id.value, 'marks'] })
  },
  { immediate: true },
)
const { data: outline, error: outlineError } = useOutline(() => ({ repository: id.value, path: props.path, at: at.value }))
const isPicture = computed(() => /\.(png|jpe?g|gif|webp|svg|ico|bmp|avif)$/i.test(props.path))
const picture = computed(
  () =>
    `/api/repositories/${id.value}/picture?path=${encodeURIComponent(props.path)}${at.value ? `&at=${encodeURIComponent(at.value)}` : ''}`,
)
const marks = computed(() => {
  const m = new Map<number, { glyph: string; title: string }[]>()
  for (const l of file.value?.leads ?? []) {
    if (!l.line || elsewhere.value) continue
    const mark = l.kind === 'entry-point' ? { glyph: '◗', title: `a start: ${l.why}` } : { glyph: '◇', title: l.why }
    m.set(l.line, [...(m.get(l.line) ?? []), mark])
  }
  return m
})
const parts = computed(() => props.path.split('/'))

function select(r: Range | null) {
  void router.replace({ query: { ...route.query, lines: r ? writeRange(r) : undefined } })
}
function askName(p: NamePlace | null) {
  void router.replace({ query: { ...route.query, name: p ? writeName(p) : undefined } })
}
function jump(s: Symbol) {
  select({ start: s.name_line, end: Math.max(s.name_line, s.end) })
}
useSelection(() => {
  const name = parts.value.at(-1)!
  const lead = file.value?.leads.find((l) => l.line && range.value && l.line >= range.value.start && l.line <= range.value.end)
  const r = range.value && total.value ? { start: range.value.start, end: Math.min(range.value.end, total.value) } : null
  if (elsewhere.value) return null
  if (r && r.start <= r.end) {
    return {
      kind: 'lines',
      path: props.path,
      start: r.start,
      end: r.end,
      title: lead?.kind === 'tagged-comment' ? lead.title : `${name}, lines ${lineSpan(r.start, r.end)}`,
      lines: r.end - r.start + 1,
      why: lead?.why,
    }
  }
  const first = file.value?.leads.find((l) => l.kind !== 'tagged-comment')
  return { kind: 'file', path: props.path, title: name, lines: total.value, why: first?.why }
})
/** The address for a colleague names the commit, so that lines stay the same. */
async function copyAddress() {
  const q = new URLSearchParams({ path: props.path, at: at.value ?? repository.value.pin })
  if (range.value) q.set('lines', writeRange(range.value))
  await navigator.clipboard.writeText(`${location.origin}/r/${id.value}/read?${q}`)
  notice('The address is copied; it leads to these lines at this very commit.')
}
async function copyPlace() {
  const text = props.path + (range.value ? ':' + writeRange(range.value) : '')
  await navigator.clipboard.writeText(text)
  notice(`Copied: ${text}`)
}
</script>

<template>
  <div class="file" @keydown.esc="name && askName(null)">
    <Outline :outline="outline" :error="outlineError" :line="range?.start ?? null" @jump="jump" />
    <div class="main">
      <div class="head">
        <h1 class="mono">
          <span v-if="parts.length > 1" class="folders" :title="path">
            <router-link
              v-for="(p, i) in parts.slice(0, -1)"
              :key="i"
              class="plain soft"
              :to="{ name: 'read', params: { repository: id }, query: { folder: parts.slice(0, i + 1).join('/') } }"
              >{{ p }}/</router-link
            >
          </span>
          <b>{{ parts.at(-1) }}</b>
        </h1>
        <span v-if="range" class="soft"
          >{{ range.start === range.end ? 'line' : 'lines' }} {{ lineSpan(range.start, range.end) }} of {{ count(total) }}</span
        >
        <span v-else-if="total" class="soft">{{ many(total, 'line') }}</span>
        <span class="room" />
        <button class="link" @click="copyPlace">copy path{{ range ? ':lines' : '' }}</button>
        <button class="link" @click="copyAddress">copy address</button>
        <a-button v-if="!elsewhere" size="small" @click="adding.current.value = adding.selected.value">Add to plan <kbd>a</kbd></a-button>
      </div>
      <p v-if="elsewhere" class="elsewhere">
        At commit <span class="mono">{{ short(at!) }}</span>, not at the pin.
        <router-link :to="{ query: { ...route.query, at: undefined } }">See it at the pin</router-link>
      </p>
      <div v-if="isPicture" class="picture"><img :src="picture" :alt="`Picture ${path}`" /></div>
      <CodeLines
        v-else
        class="lines"
        :file="{ repository: id, path, at }"
        :range="range"
        :marks="marks"
        :name="name"
        @select="select"
        @name="(p) => !elsewhere && askName(p)"
        @loaded="(n) => (total = n)"
      />
    </div>
    <NameCard v-if="name" :repository="id" :path="path" :place="name" @close="askName(null)" />
    <FileCard
      v-else
      :repository="id"
      :links="links"
      :writer="includes(repository.role, 'writer')"
      :links-error="linksError"
      :summary="summary"
      :file="file"
      :outline="outline"
      :error="error"
      :elsewhere="elsewhere"
    />
  </div>
</template>

<style scoped>
.file {
  height: 100%;
  display: grid;
  grid-template-columns: 226px minmax(0, 1fr) 300px;
}
.main {
  display: flex;
  flex-direction: column;
  min-height: 0;
  min-width: 0;
}
.head {
  display: flex;
  align-items: center;
  gap: 14px;
  padding: 8px 18px 8px var(--gap);
  border-bottom: 1px solid var(--rule);
  white-space: nowrap;
}
h1 {
  font-size: 13px;
  font-weight: 400;
  font-family: var(--mono);
  display: flex;
  min-width: 0;
}
h1 .folders {
  flex: 0 1000 auto;
  min-width: 1.4em;
  overflow: hidden;
  text-overflow: ellipsis;
}
h1 b {
  flex: 0 1 auto;
  min-width: 0;
  overflow: hidden;
  text-overflow: ellipsis;
}
.room {
  flex: 1;
}
.lines {
  flex: 1;
}
.elsewhere {
  padding: 6px var(--gap);
  background: var(--ochre-pale);
}
.picture {
  padding: var(--gap);
  overflow: auto;
}
.picture img {
  max-width: 100%;
  border: 1px solid var(--rule);
}
</style>
