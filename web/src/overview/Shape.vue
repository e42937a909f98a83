<script setup lang="ts">
import { computed, ref } from 'vue'
import type { Schemas } from '@/api/client'
import { plainText } from '@/told'
import { count, date, many } from '@/words/format'
import { Sparkline } from '@/map'
import Add from './Add.vue'

/** How it is laid out: folders with what can be said of each, languages, age and
 * pace. */
const props = defineProps<{
  overview: Schemas['Overview']
  folders: Schemas['FolderSum'][]
  said: Schemas['ChildSummary'][]
  repository: number
  whole: boolean // the whole repository is told of, not one part
}>()
/** Until the files are read, their number stands in for their lines. */
const counted = computed(() => !!props.overview.entry_points)
const weight = (x: { lines: number; files: number }) => (counted.value ? x.lines : x.files)
const told = (x: { lines: number; files: number }) => (counted.value ? many(x.lines, 'line') : many(x.files, 'file'))
const most = computed(() => Math.max(1, ...props.folders.map(weight)))
const sentence = computed(() => new Map(props.said.map((c) => [c.path, plainText(c.sentence.text)])))
const shown = ref(14)
const rest = computed(() => props.folders.slice(shown.value))
/** How deep a language's files were looked into: one word, or how many each. */
function depth(l: { files: number; parsed: number; lexed: number; listed: number }) {
  const parts = (['parsed', 'lexed', 'listed'] as const).filter((d) => l[d])
  return parts.map((d) => (l[d] === l.files ? d : `${count(l[d])} ${d}`)).join(', ')
}
const depthTitle =
  'parsed: read by its grammar; lexed: comments, strings and an outline by token rules; listed: not read, the file says why'
const languages = ref(6)
const pace = computed(() => {
  const p = props.overview.pace
  if (!p) return ''
  if (!p.year) return 'no commit in the year before the pin'
  const a = p.year / p.months_known
  const month = a < 10 ? a.toFixed(1).replace('.0', '') : count(Math.round(a))
  return `${month} ${month === '1' ? 'commit' : 'commits'} a month${p.months_known === 12 ? ' in the last year' : ''}, ${count(p.month)} in the last 30 days, by ${many(p.people_year, 'person', 'people')}`
})
</script>

<template>
  <ul class="folders">
    <li v-for="f in folders.slice(0, shown)" :key="f.path" class="line">
      <router-link
        v-if="f.path"
        class="name"
        :title="`${f.path}/ on the Map`"
        :to="{ name: 'map', params: { repository }, query: { at: f.path, open: f.path } }"
        >{{ f.path }}/</router-link
      >
      <span v-else class="name">files at the root</span>
      <span class="soft role">{{ f.role }}</span>
      <span class="bar"><i :style="{ width: `${(100 * weight(f)) / most}%` }" /></span>
      <span class="n">{{ told(f) }}</span>
      <Add v-if="f.path" :of="{ kind: 'folder', path: f.path, title: f.path, lines: Math.min(500, f.lines), why: sentence.get(f.path) }" />
      <span v-else />
      <span v-if="sentence.get(f.path)" class="said soft">{{ sentence.get(f.path) }}</span>
    </li>
  </ul>
  <p v-if="!folders.length" class="soft">No folder below it.</p>
  <p v-if="rest.length" class="soft">
    and {{ many(rest.length, 'folder') }} more,
    {{
      many(
        rest.reduce((n, f) => n + f.lines, 0),
        'line',
      )
    }}
    ·
    <button class="link" @click="shown += 100">show more</button>
  </p>
  <p v-if="whole && overview.languages?.length" class="soft languages">
    <span v-for="l in overview.languages.slice(0, languages)" :key="l.name"
      ><router-link :to="{ name: 'map', params: { repository }, query: { language: l.name } }"
        ><b>{{ l.name }}</b></router-link
      >
      {{ told(l) }} <i v-if="depth(l)" :title="depthTitle">{{ depth(l) }}</i></span
    >
    <button v-if="overview.languages.length > languages" class="link" @click="languages = 200">
      and {{ many(overview.languages.length - languages, 'language') }} more
    </button>
  </p>
  <div v-if="whole && overview.pace && overview.first_at" class="pace">
    <Sparkline
      :counts="overview.pace.pulse"
      :height="24"
      :label="`${many(overview.counts.commits, 'commit')} from ${date(overview.first_at)} to ${date(overview.pin_at)}`"
    />
    <p class="soft">
      {{ many(overview.counts.commits, 'commit') }} from {{ date(overview.first_at) }} to {{ date(overview.last_at) }}; {{ pace }}
    </p>
  </div>
</template>

<style scoped>
.folders {
  list-style: none;
  margin: 0;
  padding: 0;
}
.folders .line {
  display: grid;
  grid-template-columns: minmax(0, 1fr) auto 90px 78px 40px;
  gap: 0 10px;
  align-items: baseline;
  padding: 3px 0;
  border-top: 1px solid var(--rule-soft);
}
.folders .line:first-child {
  border-top: 0;
}
.name {
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
}
.role {
  font-size: 12.5px;
}
.said {
  grid-column: 1 / 6;
  font: 13.5px/1.35 var(--serif);
  overflow: hidden;
  display: -webkit-box;
  -webkit-line-clamp: 2;
  -webkit-box-orient: vertical;
  overflow-wrap: anywhere;
}
.n {
  text-align: right;
  white-space: nowrap;
}
.bar i {
  display: block;
  height: 9px;
  background: var(--teal);
  min-width: 1px;
}
.languages {
  display: flex;
  flex-wrap: wrap;
  gap: 2px 16px;
  margin-top: 10px;
}
.languages b {
  font-weight: 500;
  color: var(--ink);
}
.languages i {
  font-family: var(--serif);
}
.pace {
  margin-top: 10px;
}
.pace p {
  font-size: 12.5px;
  padding-top: 3px;
}
</style>
