<script setup lang="ts">
import { useQuery } from '@tanstack/vue-query'
import { computed, ref } from 'vue'
import { useRoute, useRouter } from 'vue-router'
import { api, data, words } from '@/api/client'
import { useKeys } from '@/frame/keys'
import { count, many, size } from '@/words/format'
import { mostColumns, mostRows, readTable, separatorOf, type Asset } from './asset'
import type { Range } from '@/words/range'
import { useText, type FileAt } from './pane/text'
import Referrers from './Referrers.vue'

const props = defineProps<{
  file: FileAt
  kind: Asset
  bytes?: number | null
  range?: Range | null // of prose: these lines alone
  own?: boolean // whoever shows it decides how its source is shown
}>()
const emit = defineEmits<{ source: [] }>()
const route = useRoute()
const router = useRouter()
const fault = ref(false)
const dimensions = ref('')
const params = computed(() => ({ path: { repository: props.file.repository }, query: { path: props.file.path, at: props.file.at } }))
const picture = computed(() => {
  const q = new URLSearchParams({ path: props.file.path, ...(props.file.at ? { at: props.file.at } : {}) })
  return `/api/repositories/${props.file.repository}/picture?${q}`
})
const { data: text, error: textError } = useText(
  () => props.file,
  () => props.kind === 'table',
)
const table = computed(() => (text.value ? readTable(text.value.text, separatorOf(props.file.path, text.value.text)) : null))
const { data: prose, error: proseError } = useQuery({
  queryKey: computed(() => [
    'repository',
    props.file.repository,
    'prose',
    props.file.path,
    props.file.at ?? '',
    props.range?.start,
    props.range?.end,
  ]),
  queryFn: ({ signal }) => {
    const { path, query } = params.value
    return data(
      api.GET('/api/repositories/{repository}/readme', {
        params: { path, query: { ...query, start: props.range?.start, end: props.range?.end } },
        signal,
      }),
    )
  },
  enabled: computed(() => props.kind === 'prose'),
  retry: false,
})
const hasSource = computed(() => props.kind !== 'picture' || /\.svg$/i.test(props.file.path))
function source() {
  if (!hasSource.value) return
  if (props.own) emit('source')
  else void router.replace({ query: { ...route.query, as: 'source' } })
}
useKeys({ v: source })
function loaded(e: Event) {
  const img = e.target as HTMLImageElement
  dimensions.value = img.naturalWidth ? `${count(img.naturalWidth)} × ${count(img.naturalHeight)} pixels` : ''
}
/** Links of the text stay on this page where they can. */
function follow(e: MouseEvent) {
  const link = (e.target as HTMLElement).closest('a')
  const to = link?.getAttribute('href')
  if (!to?.startsWith('/r/') || e.ctrlKey || e.metaKey || e.shiftKey) return
  e.preventDefault()
  void router.push(to)
}
</script>

<template>
  <div class="asset">
    <p class="bar soft">
      <template v-if="kind === 'picture'"
        >A picture<template v-if="dimensions">, {{ dimensions }}</template
        ><template v-if="bytes">, {{ size(bytes) }}</template></template
      >
      <template v-else-if="kind === 'table' && table">
        A table of {{ table.more ? `more than ${count(mostRows)}` : count(Math.max(0, table.rows.length - 1)) }} rows and
        {{ many(table.widest, 'column') }}
        <template v-if="table.more">; the first {{ count(mostRows) }} are shown</template>
        <template v-if="table.widest > mostColumns">; {{ mostColumns }} columns are shown</template>
      </template>
      <template v-else-if="kind === 'prose'">Rendered Markdown; scripts, styles and pictures from elsewhere are left out</template>
      <button v-if="hasSource" class="link" @click="source">its source <kbd>v</kbd></button>
    </p>
    <div class="body">
      <p v-if="textError || proseError" class="fault">{{ words(textError ?? proseError) }}</p>
      <template v-if="kind === 'picture'">
        <p v-if="fault" class="fault">This picture cannot be shown: it is damaged, too large, or not what its name says.</p>
        <!-- as an image element, a vector picture runs no script and loads nothing -->
        <img v-else :src="picture" :alt="`Picture ${file.path}`" @error="fault = true" @load="loaded" />
      </template>
      <p v-else-if="kind === 'table' && text?.unshown">{{ text.unshown }}</p>
      <div v-else-if="kind === 'table' && table" class="scroll">
        <table>
          <thead>
            <tr>
              <th class="n">row</th>
              <th v-for="(h, i) in table.rows[0]?.slice(0, mostColumns)" :key="i">{{ h }}</th>
            </tr>
          </thead>
          <tbody>
            <tr v-for="(r, i) in table.rows.slice(1)" :key="i">
              <td class="n">{{ i + 2 }}</td>
              <td v-for="(f, k) in r.slice(0, mostColumns)" :key="k" :class="{ right: /^[+-]?\d[\d.,]*$/.test(f) }">{{ f }}</td>
            </tr>
          </tbody>
        </table>
      </div>
      <!-- made safe by the server -->
      <!-- eslint-disable-next-line vue/no-v-html -->
      <article v-else-if="kind === 'prose' && prose" class="markdown" @click="follow" v-html="prose.html" />
      <Referrers :file="file" />
    </div>
  </div>
</template>

<style scoped>
.asset {
  display: flex;
  flex-direction: column;
  min-height: 0;
}
.bar {
  padding: 6px 16px;
  border-bottom: 1px solid var(--rule-soft);
  display: flex;
  gap: 12px;
}
.body {
  flex: 1;
  min-height: 0;
  overflow: auto;
  padding: 16px;
}
img {
  max-width: 100%;
  border: 1px solid var(--rule);
  background: var(--sheet);
}
.scroll {
  overflow-x: auto;
}
table {
  border-collapse: collapse;
  font-size: 12.5px;
}
th,
td {
  padding: 3px 10px;
  border-bottom: 1px solid var(--rule-soft);
  text-align: left;
  white-space: nowrap;
}
th {
  position: sticky;
  top: -16px;
  background: var(--paper);
  border-bottom: 1px solid var(--rule);
}
.right {
  text-align: right;
}
.n {
  color: var(--ink-soft);
  font: 11.5px var(--mono);
  text-align: right;
}
.markdown {
  max-width: 720px;
  font: 15.5px/1.55 var(--serif);
  overflow-wrap: anywhere;
}
.markdown :deep(pre) {
  overflow: auto;
  padding: 8px 12px;
  background: var(--sheet);
  border: 1px solid var(--rule-soft);
  font: 12.5px/1.55 var(--mono);
}
.markdown :deep(code) {
  font: 0.82em var(--mono);
}
.markdown :deep(img) {
  max-width: 100%;
}
.markdown :deep(table) {
  border-collapse: collapse;
}
.markdown :deep(td),
.markdown :deep(th) {
  border-bottom: 1px solid var(--rule-soft);
  padding: 3px 10px;
  text-align: left;
}
</style>
