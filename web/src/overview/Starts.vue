<script setup lang="ts">
import type { Schemas } from '@/api/client'
import { count } from '@/words/format'

defineProps<{ entries: Schemas['EntryPoint'][]; total: number; repository: number }>()
const shown = 8
</script>

<template>
  <p v-if="!entries.length" class="soft">Nothing here marks a start: no program, script, command or container.</p>
  <ul>
    <li v-for="e in entries.slice(0, shown)" :key="e.kind + e.path + e.line + e.name">
      <span class="mark" aria-hidden="true">◗</span>
      <span class="kind soft">{{ e.kind }}</span>
      <span class="what">
        <router-link
          :to="{ name: 'read', params: { repository }, query: { path: e.path, ...(e.line ? { lines: String(e.line) } : {}) } }"
          >{{ e.name }}</router-link
        >
        <span class="soft mono">
          {{ e.path }}<template v-if="e.line">:{{ e.line }}</template></span
        >
        <span class="soft why">{{ e.evidence }}</span>
      </span>
    </li>
  </ul>
  <p v-if="total > shown" class="soft">
    {{ count(total - shown) }} more among the
    <router-link :to="{ name: 'leads', params: { repository }, query: { kind: 'entry-point' } }">leads</router-link>
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
  grid-template-columns: 14px 68px minmax(0, 1fr);
  gap: 6px;
  padding: 2px 0;
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
</style>
