<script setup lang="ts">
import { computed, ref } from 'vue'
import { type Schemas } from '@/api/client'
import { many } from '@/words/format'

const props = defineProps<{ links: Schemas['LinksInfo']; repository: number }>()
const first = 6
const open = ref<Record<string, boolean>>({})
const to = (path: string, line?: number) => ({
  name: 'read',
  params: { repository: props.repository },
  query: { path, ...(line ? { lines: String(line) } : {}) },
})
const on = computed(() => props.links.dependents.filter((d) => d.role !== 'test'))
const telling = computed(() => props.links.effects.filter((e) => e.kind !== 'logs'))
const logs = computed(() => props.links.effects.length - telling.value.length)
const lists = computed(() =>
  [
    {
      key: 'dependents',
      title: 'Leaned on by',
      rows: on.value.map((d) => ({ path: d.path, line: d.line, note: '' })),
      more: props.links.dependents_total - props.links.dependents.length,
    },
    {
      key: 'cycle',
      title: 'In a circle with',
      rows: props.links.cycle.map((path) => ({ path, line: 0, note: '' })),
      more: props.links.cycle_total - props.links.cycle.length,
    },
    { key: 'tests', title: 'Shown by', rows: props.links.tests.map((path) => ({ path, line: 0, note: '' })), more: 0 },
    { key: 'shows', title: 'What it shows', rows: props.links.shows.map((path) => ({ path, line: 0, note: '' })), more: 0 },
    {
      key: 'twins',
      title: 'Twins',
      rows: props.links.twins.map((t) => ({ path: t.path, line: 0, note: `${t.kind}: ${t.evidence}` })),
      more: 0,
    },
  ].filter((l) => l.rows.length),
)
</script>

<template>
  <div class="links">
    <template v-if="links.effects.length">
      <h2>What it does to the outside</h2>
      <ul>
        <li v-for="(e, n) in open.effects ? links.effects : telling.slice(0, first)" :key="n">
          <router-link :to="to(links.path, e.line)" class="line">:{{ e.line }}</router-link>
          <span>
            {{ e.kind }} <b v-if="e.target" class="mono">{{ e.target }}</b>
            <span class="soft mono"> {{ e.call }}</span>
            <span v-for="(h, i) in e.via" :key="i" class="hop"
              >↳ <router-link :to="to(h.path, h.line)" class="mono">{{ h.path.split('/').at(-1) }}:{{ h.line }}</router-link>
              <span class="soft mono"> {{ h.text }}</span></span
            >
          </span>
        </li>
      </ul>
      <button v-if="!open.effects && (telling.length > first || logs)" class="link" @click="open.effects = true">
        all {{ links.effects.length }}{{ logs ? `, ${many(logs, 'logging call')} among them` : '' }}
      </button>
    </template>
    <template v-for="l in lists" :key="l.key">
      <h2>{{ l.title }}</h2>
      <ul>
        <li v-for="r in open[l.key] ? l.rows : l.rows.slice(0, first)" :key="r.path" class="wide">
          <span>
            <router-link :to="to(r.path, r.line)" class="mono">{{ r.path }}{{ r.line ? `:${r.line}` : '' }}</router-link>
            <span v-if="r.note" class="soft"> {{ r.note }}</span>
          </span>
        </li>
      </ul>
      <button v-if="!open[l.key] && l.rows.length > first" class="link" @click="open[l.key] = true">
        all {{ l.rows.length + l.more }}
      </button>
      <p v-else-if="l.more" class="soft">and {{ l.more }} more, not sent</p>
    </template>
  </div>
</template>

<style scoped>
h2 {
  font-size: 15.5px;
  color: var(--teal);
  margin: 18px 0 6px;
}
ul {
  list-style: none;
  margin: 0;
  padding: 0;
}
li {
  display: grid;
  grid-template-columns: 48px minmax(0, 1fr);
  padding: 3px 0;
  border-top: 1px solid var(--rule-soft);
  overflow-wrap: anywhere;
}
li.wide {
  display: block;
}
.line,
.mono {
  font: 12px var(--mono);
}
.line {
  padding-top: 3px;
}
.soft.mono {
  margin-left: 6px;
}
.hop {
  display: block;
}
</style>
