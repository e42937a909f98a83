<script setup lang="ts">
import { computed, ref } from 'vue'
import type { Schemas } from '@/api/client'
import { count, many, short } from '@/words/format'
import Add from './Add.vue'

/** Submodules and dependencies; those that the shelf holds lead there, at the
 * commit or version that is meant. */
const props = defineProps<{ overview: Schemas['Overview']; shelf: Schemas['ShelfLink'][]; repository: number }>()
const link = (kind: string, name: string, where: string) => props.shelf.find((l) => l.kind === kind && l.name === name && l.in === where)
const all = ref(false)
const first = 6
/** Those that the shelf holds come first. */
const depends = computed(() =>
  props.overview.depends
    .map((d) => ({ d, to: link('dependency', d.name, d.in) }))
    .sort((a, b) => Number(!!b.to) - Number(!!a.to))
    .slice(0, all.value ? 500 : first),
)
const submodules = computed(() =>
  props.overview.submodules.map((m) => ({ m, to: link('submodule', m.path, '') })).slice(0, all.value ? 500 : first),
)
function address(l: Schemas['ShelfLink']) {
  if (l.pinned || !l.commit)
    return l.path && l.pinned
      ? { name: 'read', params: { repository: l.repository }, query: { folder: l.path } }
      : { name: 'overview', params: { repository: l.repository } }
  return { name: 'read', params: { repository: l.repository }, query: { folder: l.path, at: l.commit } }
}
function meant(l: Schemas['ShelfLink']) {
  if (!l.commit) return l.kind === 'submodule' ? 'that commit is not in it' : 'that version is not tagged in it; at its pin'
  return `at ${l.ref || short(l.commit)}${l.pinned ? ', its pin' : ''}`
}
</script>

<template>
  <ul>
    <li v-for="{ m, to } in submodules" :key="m.path" class="line">
      <span class="name mono">{{ m.path }}</span>
      <span class="soft">
        submodule{{ m.address ? ` of ${m.address}` : '' }} at {{ short(m.commit) }}
        <template v-if="to"
          >· on the shelf: <router-link :to="address(to)">{{ to.title }}</router-link> {{ meant(to) }}</template
        >
      </span>
      <span />
    </li>
    <li v-for="{ d, to } in depends" :key="d.name + d.in" class="line">
      <span class="name">{{ d.name }}</span>
      <span class="soft">
        {{ d.version }} for {{ many(d.files, 'import') }},
        <router-link :to="{ name: 'read', params: { repository }, query: { path: d.in, ...(d.line ? { lines: String(d.line) } : {}) } }"
          >{{ d.in }}{{ d.line ? `:${d.line}` : '' }}</router-link
        >
        <template v-if="to"
          >· on the shelf: <router-link :to="address(to)">{{ to.title }}</router-link> {{ meant(to) }}</template
        >
      </span>
      <Add
        :of="{ kind: d.line ? 'lines' : 'file', path: d.in, ...(d.line ? { start: d.line, end: d.line } : {}), title: d.name, lines: 1 }"
      />
    </li>
  </ul>
  <p v-if="overview.counts.depends + overview.counts.submodules > depends.length + submodules.length" class="soft">
    <button v-if="!all" class="link" @click="all = true">
      {{ count(overview.counts.depends + overview.counts.submodules - depends.length - submodules.length) }} more
    </button>
    <template v-else>the rest is not kept</template>
  </p>
</template>

<style scoped>
ul {
  list-style: none;
  margin: 0;
  padding: 0;
}
.line {
  display: grid;
  grid-template-columns: minmax(0, 150px) minmax(0, 1fr) 40px;
  gap: 10px;
  padding: 2px 0;
  border-top: 1px solid var(--rule-soft);
  overflow-wrap: anywhere;
}
.line:first-child {
  border-top: 0;
}
.name {
  overflow: hidden;
  text-overflow: ellipsis;
}
</style>
