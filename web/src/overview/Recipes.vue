<script setup lang="ts">
import { computed, ref } from 'vue'
import type { Schemas } from '@/api/client'
import { notice } from '@/frame/notice'
import { count } from '@/words/format'

const props = defineProps<{ recipes: Schemas['Recipe'][]; total: number; repository: number }>()
const order = ['install', 'build', 'run', 'test', 'lint', 'other']
const titles: Record<string, string> = { install: 'install', build: 'build', run: 'run', test: 'test', lint: 'check style', other: 'other' }
const all = ref(false)
const few = 4
const groups = computed(() =>
  order.map((kind) => ({ kind, list: props.recipes.filter((r) => r.kind === kind) })).filter((g) => g.list.length),
)

async function copy(r: Schemas['Recipe']) {
  const command = r.folder
    ? `cd ${/^[\w./-]+$/.test(r.folder) ? r.folder : `'${r.folder.replaceAll("'", `'\\''`)}'`} && ${r.command}`
    : r.command
  await navigator.clipboard.writeText(command)
  notice(`Copied: ${command}`)
}
</script>

<template>
  <p v-if="!groups.length" class="soft">No build file says how.</p>
  <div v-for="g in groups" :key="g.kind" class="group">
    <h3>{{ titles[g.kind] }}</h3>
    <ul>
      <li v-for="(r, i) in all ? g.list : g.list.slice(0, few)" :key="i">
        <code class="mono">{{ r.command }}</code>
        <span class="soft from">
          <template v-if="r.folder">in {{ r.folder }} · </template>
          <router-link :to="{ name: 'read', params: { repository }, query: { path: r.path, lines: String(r.line) } }"
            >{{ r.path }}:{{ r.line }}</router-link
          >
          · <button class="link" :aria-label="`Copy ${r.command}`" @click="copy(r)">copy</button>
        </span>
      </li>
    </ul>
  </div>
  <p v-if="groups.some((g) => g.list.length > few)">
    <button class="link" @click="all = !all">{{ all ? 'show fewer' : `show all ${count(recipes.length)}` }}</button>
    <span v-if="total > recipes.length" class="soft"> of {{ count(total) }}</span>
  </p>
</template>

<style scoped>
.group {
  display: grid;
  grid-template-columns: 84px minmax(0, 1fr);
  padding: 5px 0;
}
h3 {
  font: 500 13px/1.6 var(--sans);
  color: var(--ink-soft);
}
ul {
  list-style: none;
  margin: 0;
  padding: 0;
}
li {
  display: flex;
  justify-content: space-between;
  gap: 14px;
  padding: 1px 0;
}
code {
  overflow-wrap: anywhere;
}
.from {
  white-space: nowrap;
  font-size: 12px;
  overflow: hidden;
  text-overflow: ellipsis;
}
</style>
