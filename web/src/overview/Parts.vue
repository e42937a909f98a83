<script setup lang="ts">
import { computed, ref } from 'vue'
import type { Schemas } from '@/api/client'
import { count, many } from '@/words/format'
import Add from './Add.vue'
import { root } from './part'

/** What stands side by side in one repository; choosing one narrows the page. */
const props = defineProps<{ parts: Schemas['Part'][]; total: number; part: string; repository: number }>()
const emit = defineEmits<{ part: [part: string] }>()
const key = (p: { path: string }) => p.path || root
const first = 8
const all = ref(false)
const shown = computed(() => {
  if (all.value || props.parts.length <= first + 1) return props.parts
  const most = [...props.parts].sort((a, b) => b.lines - a.lines).slice(0, first)
  return props.parts.filter((p) => most.includes(p) || key(p) === props.part)
})
const name = (path: string) => props.parts.find((p) => p.path === path)?.name ?? path
const list = (paths: string[]) => {
  const names = paths.slice(0, 3).map(name).join(', ')
  return paths.length > 3 ? `${names} and ${paths.length - 3} more` : names
}
function relation(p: Schemas['Part']) {
  if (p.alone) return 'stands alone'
  return [p.leans_on.length && `leans on ${list(p.leans_on)}`, p.used_by.length && `used by ${list(p.used_by)}`].filter(Boolean).join('; ')
}
/** In few words: names where there is room for them. */
function briefly(p: Schemas['Part']) {
  if (p.alone) return 'stands alone'
  const told = (paths: string[]) => (paths.length > 1 ? `${paths.length} parts` : list(paths))
  return [p.leans_on.length && `leans on ${told(p.leans_on)}`, p.used_by.length && `used by ${told(p.used_by)}`].filter(Boolean).join(', ')
}
const alone = computed(() => props.parts.filter((p) => p.alone).length)
</script>

<template>
  <p class="soft">
    {{ many(total, 'part')
    }}{{ alone ? `, ${alone === parts.length ? 'none leans on another' : `${count(alone)} of them by themselves`}` : '' }}. Choose one to
    see its own recipes, starts and changes.
  </p>
  <ul>
    <li class="line whole">
      <button class="pick" :class="{ on: !part }" :aria-pressed="!part" @click="emit('part', '')">all of them</button>
    </li>
    <li v-for="p in shown" :key="p.path" class="line">
      <button
        class="pick"
        :class="{ on: key(p) === part }"
        :title="p.path ? `${p.name}, in ${p.path}/` : `${p.name}, at the root`"
        :aria-pressed="key(p) === part"
        @click="emit('part', key(p))"
      >
        {{ p.name }}
      </button>
      <span class="soft what" :title="relation(p)">
        <router-link
          v-if="p.manifest"
          :to="{ name: 'read', params: { repository }, query: { path: p.manifest, ...(p.line ? { lines: String(p.line) } : {}) } }"
          >{{ p.kind || 'program' }}</router-link>{{ p.language ? `, ${p.language}` : '' }}, {{ many(p.lines, 'line')
        }}{{ alone < parts.length ? `; ${briefly(p)}` : '' }}
      </span>
      <Add v-if="p.path" :of="{ kind: 'folder', path: p.path, title: p.name, lines: Math.min(500, p.lines), why: relation(p) }" />
    </li>
  </ul>
  <p v-if="shown.length < parts.length || total > parts.length" class="soft">
    <button v-if="shown.length < parts.length" class="link" @click="all = true">
      {{ many(parts.length - shown.length, 'part') }} more
    </button>
    <span v-if="total > parts.length"> the first {{ count(parts.length) }} of {{ count(total) }} are kept</span>
  </p>
</template>

<style scoped>
ul {
  list-style: none;
  margin: 4px 0 0;
  padding: 0;
}
.line {
  display: grid;
  grid-template-columns: minmax(0, 150px) minmax(0, 1fr) 40px;
  gap: 10px;
  padding: 2px 0;
  border-top: 1px solid var(--rule-soft);
}
.whole {
  border-top: 0;
}
.pick {
  text-align: left;
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
}
.what {
  overflow-wrap: anywhere;
}
</style>
