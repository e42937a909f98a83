<script setup lang="ts">
import { computed, ref } from 'vue'
import type { Schemas } from '@/api/client'
import { Mark } from '@/map'
import { count } from '@/words/format'
import Add from './Add.vue'

const props = defineProps<{ entries: Schemas['EntryPoint'][]; total: number; repository: number; narrowed: boolean }>()
const first = 8
const all = ref(false)
const shown = computed(() => (all.value ? 60 : first))
const to = (e: Schemas['EntryPoint']) => ({
  name: 'read',
  params: { repository: props.repository },
  query: { path: e.path, ...(e.line ? { lines: String(e.line) } : {}) },
})
const left = computed(() => (props.narrowed ? props.entries.length : props.total) - Math.min(shown.value, props.entries.length))
</script>

<template>
  <p v-if="!entries.length" class="soft">
    {{
      narrowed
        ? 'Nothing in this part marks a start.'
        : 'Nothing here marks a start: no program, script, command, library face or container.'
    }}
  </p>
  <ul>
    <li v-for="e in entries.slice(0, shown)" :key="e.kind + e.path + e.line + e.name" class="line">
      <Mark kind="start" class="mark" />
      <span class="kind soft">{{ e.kind.replace('-', ' ') }}</span>
      <span class="what">
        <router-link :to="to(e)">{{ e.name }}</router-link>
        <span class="soft mono">
          {{ e.path }}<template v-if="e.line">:{{ e.line }}</template></span
        >
        <span class="soft why"
          ><code v-if="e.how" class="mono">{{ e.how }}</code
          ><template v-if="e.how"> · </template>{{ e.evidence }}</span
        >
      </span>
      <Add
        :of="{
          kind: e.line ? 'lines' : 'file',
          path: e.path,
          ...(e.line ? { start: e.line, end: e.line } : {}),
          title: e.name,
          lines: 10,
          why: `entry point: ${e.evidence}`,
        }"
      />
    </li>
  </ul>
  <p v-if="left > 0" class="soft">
    <button v-if="!all && entries.length > first" class="link" @click="all = true">show more</button>
    <template v-else>
      {{ count(left) }} more among the
      <router-link :to="{ name: 'leads', params: { repository }, query: { kind: 'entry-point' } }">leads</router-link>
    </template>
  </p>
</template>

<style scoped>
ul {
  list-style: none;
  margin: 0;
  padding: 0;
}
li {
  display: grid;
  grid-template-columns: 14px 74px minmax(0, 1fr) auto;
  gap: 6px;
  padding: 3px 0;
  border-top: 1px solid var(--rule-soft);
}
li:first-child {
  border-top: 0;
}
.mark {
  margin-top: 4px;
}
.what {
  overflow-wrap: anywhere;
}
.what .mono {
  margin-left: 8px;
}
.why {
  display: block;
  font-size: 12px;
}
.why .mono {
  margin: 0;
  font-size: 12px;
  color: var(--ink);
}
</style>
