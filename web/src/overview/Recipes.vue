<script setup lang="ts">
import { computed, ref } from 'vue'
import type { Schemas } from '@/api/client'
import { notice } from '@/frame/notice'
import { count } from '@/words/format'
import Add from './Add.vue'
import { platformHere } from './part'

const props = defineProps<{ recipes: Schemas['Recipe'][]; total: number; repository: number }>()
const order = ['install', 'build', 'run', 'test', 'lint', 'other']
const titles: Record<string, string> = { install: 'install', build: 'build', run: 'run', test: 'test', lint: 'check style', other: 'other' }
const all = ref(false)
const few = 4

const platforms = computed(() => [...new Set(props.recipes.map((r) => r.platform).filter(Boolean))].sort())
const picked = ref<string | null>(null)
/** Where some recipes name a platform: the one chosen, at first the reader's own. */
const platform = computed(() => {
  if (!platforms.value.length) return ''
  const here = platformHere(navigator.userAgent)
  return picked.value ?? (platforms.value.includes(here) ? here : '')
})
const fitting = computed(() => props.recipes.filter((r) => !platform.value || !r.platform || r.platform === platform.value))
const groups = computed(() =>
  order.map((kind) => ({ kind, list: fitting.value.filter((r) => r.kind === kind) })).filter((g) => g.list.length),
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
  <p v-if="!recipes.length" class="soft">No build file says how.</p>
  <p v-if="platforms.length" class="platforms" role="group" aria-label="Platform">
    <span class="soft">for</span>
    <button
      v-for="p in ['', ...platforms]"
      :key="p"
      class="pick"
      :class="{ on: p === platform }"
      :aria-pressed="p === platform"
      @click="picked = p"
    >
      {{ p || 'any platform' }}
    </button>
    <span v-if="recipes.length > fitting.length" class="soft"
      >{{ count(recipes.length - fitting.length) }} for other platforms not shown</span
    >
  </p>
  <div v-for="g in groups" :key="g.kind" class="group">
    <h3>{{ titles[g.kind] }}</h3>
    <ul>
      <li v-for="(r, i) in all ? g.list : g.list.slice(0, few)" :key="i" class="line">
        <code class="mono">{{ r.command }}</code>
        <span class="soft from">
          <template v-if="r.platform">{{ r.platform }} only · </template>
          <template v-if="r.folder">in {{ r.folder }} · </template>
          <router-link :to="{ name: 'read', params: { repository }, query: { path: r.path, lines: String(r.line) } }"
            >{{ r.path }}:{{ r.line }}</router-link
          >
        </span>
        <span class="acts">
          <button class="link" :aria-label="`Copy ${r.command}`" @click="copy(r)">copy</button>
          <Add
            :of="{ kind: 'lines', path: r.path, start: r.line, end: r.line, title: r.command, lines: 1, why: `how to ${titles[r.kind]}` }"
          />
        </span>
      </li>
      <li v-if="!all && g.list.length > few" class="soft">and {{ count(g.list.length - few) }} more</li>
    </ul>
  </div>
  <p v-if="groups.some((g) => g.list.length > few)">
    <button class="link" @click="all = !all">{{ all ? 'show fewer' : `show all ${count(fitting.length)}` }}</button>
    <span v-if="total > recipes.length" class="soft"> of {{ count(total) }} in all; the first {{ count(recipes.length) }} are kept</span>
  </p>
</template>

<style scoped>
.platforms {
  display: flex;
  gap: 10px;
  font-size: 12.5px;
  margin-bottom: 4px;
}
.group {
  display: grid;
  grid-template-columns: 84px minmax(0, 1fr);
  border-top: 1px solid var(--rule-soft);
  padding: 4px 0;
}
.group:first-of-type {
  border-top: 0;
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
.line {
  display: grid;
  grid-template-columns: minmax(0, 1fr) auto auto;
  gap: 12px;
  padding: 1px 0;
}
code {
  overflow-wrap: anywhere;
}
.from {
  font-size: 12px;
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
  max-width: 260px;
}
.acts {
  white-space: nowrap;
  font-size: 12px;
}
</style>
