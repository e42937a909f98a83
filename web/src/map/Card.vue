<script setup lang="ts">
import { computed, ref, watch } from 'vue'
import { words, type Schemas } from '@/api/client'
import { notice } from '@/frame/notice'
import { useAdding, type Candidate } from '@/plans/adding'
import { coverTitles, type CoverState } from '@/plans/covering'
import { Sentences, useLinks, useSummary } from '@/told'
import { useOutline } from '@/read/useOutline'
import { withoutWord } from '@/words/tagged'
import { age, count, date, many, month } from '@/words/format'
import Sparkline from './Sparkline.vue'
import { useStory } from './use'

/** What can be told of the selected file or folder, and what to do with it. */
const props = defineProps<{
  repository: number
  path: string
  folder: boolean
  planned: Schemas['PlannedInfo'][]
  written: Schemas['WrittenOn'][]
  tied: Set<string> | null // paths that an import ties it to; null: not known yet
  around: { leans: { path: string; files: number }[]; used: { path: string; files: number }[]; tagged: number } // of a folder
  candidate: Candidate
  plan: { id: number; title: string; may_write: boolean } | null // at hand
  covers: Record<CoverState, number> // what becomes of its leads in that plan
}>()
const emit = defineEmits<{ close: []; open: [] }>()
const id = computed(() => props.repository)
const path = computed(() => props.path)
const isFile = computed(() => !props.folder)
const { data: summary, error } = useSummary(id, path)
const { data: story } = useStory(id, path)
const { data: links } = useLinks(id, path, isFile)
const file = computed(() => ({ repository: props.repository, path: props.path }))
const { data: outline } = useOutline(file, isFile)
const adding = useAdding()
const all = ref<Record<string, boolean>>({})
watch(path, () => (all.value = {}))
const few = 4

/** The Map sums a folder's changes up by file; here a commit counts once. */
const noun = computed(() => (props.folder ? 'commit' : 'change'))
const name = computed(() => props.path.split('/').at(-1)!)
const place = computed(() => props.path.slice(0, props.path.length - name.value.length))
const to = (p: string, line?: number) => ({
  name: 'read',
  params: { repository: props.repository },
  query: { path: p, ...(line ? { lines: String(line) } : {}) },
})
const mapTo = (p: string) => ({ query: { at: p } })
const pace = computed(() => {
  const s = story.value
  if (!s || s.changes < 8 || !s.first_at) return ''
  const share = s.lately / s.changes
  return share > 0.4 ? 'changing more often' : share < 0.12 ? 'changing less often' : 'changing as ever'
})
const threads = computed(() =>
  props.written
    .filter((x) => x.path === props.path || (props.folder && x.path.startsWith(`${props.path}/`)))
    .reduce((n, x) => n + x.threads, 0),
)
const plans = computed(() => props.planned.filter((p) => p.path === props.path || (props.folder && p.path.startsWith(`${props.path}/`))))
const decided = computed(() =>
  (Object.keys(coverTitles) as CoverState[])
    .filter((k) => props.covers[k])
    .map((k) => ({ state: k, n: count(props.covers[k]), says: coverTitles[k] })),
)
const short = (p: string) => (place.value && p.startsWith(place.value) ? p.slice(place.value.length) : p)
interface Item {
  path: string
  line?: number
  note?: string
}
const rows = computed(() => {
  const l = links.value
  const s = story.value
  const list: { key: string; title: string; items: Item[]; total: number }[] = []
  const add = (key: string, title: string, items: Item[], total = items.length) => items.length && list.push({ key, title, items, total })
  if (s)
    add(
      'partners',
      'moves with',
      s.partners.map((p) => ({
        path: p.path,
        note: `in ${p.together} of ${s.partners_of}${s.swept ? ' narrow' : ''} ${noun.value}s${props.tied && !props.tied.has(p.path) ? ', no import between them' : ''}`,
      })),
    )
  if (props.folder) {
    const folders = (list: { path: string; files: number }[]) => list.map((f) => ({ path: f.path, note: many(f.files, 'file') }))
    add('leans', 'leans on', folders(props.around.leans))
    add('used', 'used by', folders(props.around.used))
  } else if (l) {
    add(
      'leans',
      'leans on',
      l.dependencies.map((d) => ({ path: d.path })),
    )
    add(
      'used',
      'used by',
      l.dependents.map((d) => ({ path: d.path, line: d.line })),
      l.dependents_total,
    )
    add(
      'circle',
      'in a circle with',
      l.cycle.map((p) => ({ path: p })),
      l.cycle_total,
    )
    add(
      'twins',
      'twins',
      l.twins.map((t) => ({ path: t.path, note: t.kind })),
    )
    add(
      'tests',
      'shown by',
      l.tests.map((p) => ({ path: p })),
    )
  }
  return list
})
const tops = computed(() => outline.value?.symbols.filter((s) => s.parent < 0) ?? [])
const symbols = computed(() => tops.value.slice(0, all.value.outline ? 200 : 8))
async function copy() {
  await navigator.clipboard.writeText(props.path)
  notice(`Copied: ${props.path}`)
}
</script>

<template>
  <aside class="card" :aria-label="`Card of ${path}`">
    <header>
      <button class="link path mono" title="Copy the path" @click="copy">{{ path }}{{ folder ? '/' : '' }}</button>
      <button class="link close" aria-label="Close the card" @click="emit('close')">close <kbd>Esc</kbd></button>
    </header>
    <h2>{{ name }}{{ folder ? '/' : '' }}</h2>
    <p v-if="error" class="soft">{{ words(error) }}</p>
    <Sentences
      v-else-if="summary?.sentences.length"
      :sentences="summary.sentences"
      :repository="repository"
      :folder="folder ? path : undefined"
    />
    <p v-else-if="summary" class="soft">Nothing can be told of it but its name.</p>
    <p v-else class="soft">Putting it into words …</p>
    <div class="actions">
      <a-button type="primary" @click="emit('open')">{{ folder ? 'Show files' : 'Read' }} <kbd v-if="!folder">Enter</kbd></a-button>
      <a-button @click="adding.current.value = candidate">{{ plans.length ? 'Add again' : 'Add to plan' }} <kbd>a</kbd></a-button>
    </div>
    <template v-if="story && story.changes">
      <Sparkline
        :counts="story.pulse"
        :label="`${many(story.changes, noun)} from ${date(story.from)} to ${date(story.to)}`"
        :height="30"
        class="spark"
      />
      <p class="soft axis">
        <span>{{ month(story.from) }}</span><span>{{ many(story.changes, noun) }}{{ pace ? `, ${pace}` : '' }}</span
        ><span>{{ month(story.to) }}</span>
      </p>
    </template>
    <p v-else-if="story" class="soft">No commit of the history changed it.</p>
    <dl>
      <template v-if="story?.people.length">
        <dt>who knows it</dt>
        <dd>
          <span v-for="p in story.people.slice(0, all.people ? 8 : 3)" :key="p.name" class="item"
            >{{ p.name }}
            <span class="soft"
              >{{ many(p.commits, noun)
              }}{{ p.gone && p.last_at && story.to ? `, gone for ${age(p.last_at, story.to).replace(' earlier', '')}` : '' }}</span
            ></span
          >
          <button v-if="!all.people && story.people_total > 3" class="link" @click="all.people = true">
            {{ story.people_total - 3 }} more
          </button>
          <span v-else-if="story.people_total > 8" class="soft">and {{ story.people_total - 8 }} more</span>
          <b v-if="story.people.length && story.people_total <= 8 && story.people.every((p) => p.gone)" class="nobody"
            >nobody who is still active</b
          >
        </dd>
      </template>
      <template v-for="r in rows" :key="r.key">
        <dt>{{ r.title }}</dt>
        <dd>
          <p v-if="r.key === 'partners' && story?.swept" class="soft">
            {{ many(story.swept, 'commit') }} over {{ story.wide }} files {{ story.swept === 1 ? 'is' : 'are' }} left out here.
          </p>
          <span v-for="i in r.items.slice(0, all[r.key] ? 50 : few)" :key="i.path" class="item">
            <router-link v-if="i.path" :to="mapTo(i.path)" :title="`${i.path}: show it on the Map`"
              >{{ short(i.path) }}{{ folder && r.key !== 'partners' ? '/' : '' }}</router-link
            >
            <template v-else>files at the root</template>
            <span v-if="i.note" class="soft">{{ i.note }}</span>
          </span>
          <button v-if="!all[r.key] && r.total > few" class="link" @click="all[r.key] = true">{{ count(r.total - few) }} more</button>
          <span v-else-if="r.total > Math.min(50, r.items.length)" class="soft"
            >and {{ count(r.total - Math.min(50, r.items.length)) }} more</span
          >
        </dd>
      </template>
      <template v-if="threads">
        <dt>written</dt>
        <dd>
          <router-link class="tag" :to="{ name: 'notes', params: { repository }, query: folder ? { folder: path || '.' } : { text: path } }"
            >✱ {{ many(threads, 'open thread') }}</router-link
          >
        </dd>
      </template>
      <template v-if="folder && around.tagged">
        <dt>unfinished</dt>
        <dd>
          <router-link class="tag" :to="{ query: { name: `${path}/`, mark: 'tagged', detail: 'all' } }">{{
            many(around.tagged, 'tagged comment')
          }}</router-link>
        </dd>
      </template>
      <template v-if="!folder && outline?.tagged.length">
        <dt>unfinished</dt>
        <dd>
          <span v-for="t in outline.tagged.slice(0, all.tagged ? 50 : 3)" :key="t.line" class="item">
            <router-link :to="to(path, t.line)" class="tag">◇ {{ t.word }} :{{ t.line }}</router-link> {{ withoutWord(t) }}
          </span>
          <button v-if="!all.tagged && outline.tagged.length > 3" class="link" @click="all.tagged = true">
            {{ outline.tagged.length - 3 }} more
          </button>
        </dd>
      </template>
      <template v-if="!folder && symbols.length">
        <dt>holds</dt>
        <dd>
          <router-link
            v-for="s in symbols"
            :key="s.name_line + s.name"
            :to="to(path, s.name_line)"
            class="mono symbol"
            :title="s.signature"
            >{{ s.name }}</router-link
          >
          <button v-if="!all.outline && tops.length > 8" class="link" @click="all.outline = true">{{ tops.length - 8 }} more</button>
        </dd>
      </template>
      <template v-if="plan && decided.length">
        <dt>its leads</dt>
        <dd>
          <span v-for="d in decided" :key="d.state" class="item">{{ d.n }} {{ d.says }}</span>
          <span class="item soft"
            >in “<router-link
              :to="
                plan.may_write
                  ? { name: 'compose', params: { repository, plan: plan.id }, query: { side: 'coverage' } }
                  : { name: 'guide', params: { repository, plan: plan.id } }
              "
              >{{ plan.title }}</router-link
            >”</span
          >
        </dd>
      </template>
      <template v-if="plans.length">
        <dt>in plans</dt>
        <dd>
          <span v-for="p in plans.slice(0, 6)" :key="p.passage" class="item">
            <router-link :to="{ name: 'guide', params: { repository, plan: p.plan }, query: { passage: p.passage } }" class="plum"
              >{{ p.title }}, passage {{ p.number }}</router-link
            >
            <span v-if="p.done" class="soft">done</span>
          </span>
          <span v-if="plans.length > 6" class="soft">and {{ plans.length - 6 }} more passages</span>
        </dd>
      </template>
    </dl>
  </aside>
</template>

<style scoped>
.card {
  border-left: 1px solid var(--rule);
  background: var(--sheet);
  padding: 14px 20px;
  overflow: auto;
  min-width: 0;
}
header {
  display: flex;
  justify-content: space-between;
  gap: 12px;
}
.path {
  overflow-wrap: anywhere;
  text-align: left;
  color: var(--ink-soft);
}
.close {
  flex: none;
  align-self: start;
  color: var(--ink-soft);
}
h2 {
  font-size: 20px;
  overflow-wrap: anywhere;
  margin: 2px 0 8px;
}
.actions {
  display: flex;
  flex-wrap: wrap;
  gap: 8px;
  margin: 12px 0 14px;
}
.axis {
  display: flex;
  justify-content: space-between;
  gap: 8px;
  font-size: 11.5px;
  margin-bottom: 10px;
}
dl {
  display: grid;
  grid-template-columns: 94px minmax(0, 1fr);
  margin: 0;
}
dt,
dd {
  margin: 0;
  padding: 4px 0;
  border-top: 1px solid var(--rule-soft);
  overflow-wrap: anywhere;
}
dt {
  color: var(--ink-soft);
}
.item {
  display: block;
}
.item .soft {
  margin-left: 5px;
}
.nobody {
  display: block;
  font-weight: 600;
  color: var(--ochre-text);
}
.tag {
  color: var(--ochre-text);
  white-space: nowrap;
}
.symbol {
  margin-right: 10px;
  font-size: 12px;
}
.plum {
  color: var(--plum);
}
</style>
