<script setup lang="ts">
import { useQuery } from '@tanstack/vue-query'
import { computed, ref } from 'vue'
import { api, data, words } from '@/api/client'
import { notice } from '@/frame/notice'
import { count, lineSpan, many } from '@/words/format'
import { asMarkdown, asText, originWords } from './extract'

/** A symbol with everything of this repository that it needs. */
const props = defineProps<{ repository: number; path: string; line: number; column: number; depth?: number; lines?: number }>()
const emit = defineEmits<{ name: [name: string] }>()
const query = computed(() => ({
  path: props.path,
  line: props.line,
  column: props.column,
  depth: props.depth ?? 0,
  lines: props.lines ?? 1500,
}))
const { data: found, error } = useQuery({
  queryKey: computed(() => ['repository', props.repository, 'extract', query.value]),
  queryFn: async ({ signal }) => {
    const x = await data(
      api.GET('/api/repositories/{repository}/extract', { params: { path: { repository: props.repository }, query: query.value }, signal }),
    )
    emit('name', x.name)
    return x
  },
  placeholderData: (before) => before,
  retry: false,
})
const archive = computed(
  () =>
    `/api/repositories/${props.repository}/extract/archive?${new URLSearchParams(Object.entries(query.value).map(([k, v]) => [k, String(v)]))}`,
)
const allLeft = ref(false)
async function copy(as: 'text' | 'Markdown') {
  if (!found.value) return
  await navigator.clipboard.writeText(as === 'text' ? asText(found.value) : asMarkdown(found.value))
  notice(`Copied as ${as}: ${many(found.value.pieces.length, 'piece')}.`)
}
const to = (path: string, from: number, end: number) => ({
  name: 'read',
  params: { repository: props.repository },
  query: { path, lines: lineSpan(from, end) },
})
const jump = (i: number) => document.getElementById(`piece-${i}`)?.scrollIntoView({ block: 'start' })
defineExpose({ copy, found })
</script>

<template>
  <div class="extract">
    <p v-if="error" class="fault" role="alert">{{ words(error) }}</p>
    <p v-else-if="!found" class="soft">Following what it needs …</p>
    <template v-else>
      <nav aria-label="Pieces">
        <p class="soft">{{ many(found.pieces.length, 'piece') }}, {{ count(found.lines) }} lines</p>
        <ol>
          <li v-for="(p, i) in found.pieces" :key="i" :style="{ paddingLeft: 8 * Math.min(p.depth, 6) + 'px' }">
            <button class="plain" :title="`${p.path}:${p.from}`" @click="jump(i)">{{ p.qualified }}</button>
            <span class="soft">{{ p.to - p.from + 1 }}</span>
          </li>
        </ol>
        <template v-if="found.elsewhere.length">
          <h3>From elsewhere</h3>
          <ul>
            <li v-for="e in found.elsewhere" :key="e.origin.to + e.origin.name + e.through" class="far">
              {{ originWords(e) }} <span class="soft mono">{{ e.names.join(', ') }}</span>
            </li>
          </ul>
        </template>
        <template v-if="found.unresolved.length">
          <h3>Not resolved</h3>
          <p class="soft mono names">{{ found.unresolved.join(', ') }}</p>
        </template>
        <template v-if="found.left_total">
          <h3>Left out by the limits</h3>
          <p class="soft">{{ many(found.left_total, 'symbol') }}; raise depth or lines to have them.</p>
          <ul>
            <li v-for="(l, i) in allLeft ? found.left : found.left.slice(0, 8)" :key="i" class="far">
              <span class="mono">{{ l.qualified }}</span> <span class="soft">{{ many(l.lines, 'line') }}</span>
            </li>
          </ul>
          <button v-if="!allLeft && found.left.length > 8" class="link" @click="allLeft = true">
            all {{ count(found.left.length) }} that are told
          </button>
        </template>
        <p class="take">
          <button class="link" @click="copy('text')">copy as text</button>
          <button class="link" @click="copy('Markdown')">as Markdown</button>
          <a :href="archive" download>as a folder (zip)</a>
        </p>
      </nav>
      <div class="pieces" tabindex="0" aria-label="The pieces">
        <article v-for="(p, i) in found.pieces" :id="`piece-${i}`" :key="i">
          <header>
            <b class="mono">{{ p.qualified }}</b> <span class="soft">{{ p.kind }}</span>
            <router-link class="mono" :to="to(p.path, p.from, p.to)">{{ p.path }}:{{ lineSpan(p.from, p.to) }}</router-link>
            <span v-if="p.by >= 0" class="soft"
              >named by <button class="link" @click="jump(p.by)">{{ found.pieces[p.by]!.qualified }}</button> in line {{ p.line
              }}{{ p.certainty === 'typed' ? ', likely' : '' }}</span
            >
          </header>
          <pre>{{ p.text }}</pre>
        </article>
      </div>
    </template>
  </div>
</template>

<style scoped>
.extract {
  height: 100%;
  min-height: 0;
  display: grid;
  grid-template-columns: 250px minmax(0, 1fr);
}
.extract > p {
  padding: 14px var(--gap);
  grid-column: 1 / -1;
}
nav {
  border-right: 1px solid var(--rule);
  padding: 12px 14px 12px var(--gap);
  overflow: auto;
}
ol,
ul {
  list-style: none;
  margin: 4px 0 0;
  padding: 0;
}
li {
  display: flex;
  justify-content: space-between;
  gap: 8px;
  padding: 2px 0;
}
li.far {
  display: block;
  border-top: 1px solid var(--rule-soft);
  overflow-wrap: anywhere;
}
li button {
  border: 0;
  background: none;
  padding: 0;
  font: inherit;
  color: inherit;
  text-align: left;
  cursor: pointer;
  overflow: hidden;
  text-overflow: ellipsis;
}
li button:hover {
  text-decoration: underline;
}
h3 {
  margin: 14px 0 4px;
  color: var(--teal);
}
.names {
  overflow-wrap: anywhere;
}
.take {
  margin-top: 14px;
  display: flex;
  flex-wrap: wrap;
  gap: 4px 12px;
}
.pieces {
  overflow: auto;
  padding: 4px 18px 40px;
}
article {
  margin-top: 12px;
  content-visibility: auto;
  contain-intrinsic-size: auto 200px;
}
header {
  display: flex;
  flex-wrap: wrap;
  align-items: baseline;
  gap: 2px 10px;
  padding-bottom: 3px;
  border-bottom: 1px solid var(--rule);
}
pre {
  margin: 0;
  padding: 6px 0 0;
  font: 12.5px/20px var(--mono);
  tab-size: 4;
  overflow-x: auto;
}
</style>
