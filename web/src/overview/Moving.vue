<script setup lang="ts">
import type { Schemas } from '@/api/client'
import { Sparkline } from '@/map'
import { count, many } from '@/words/format'
import Add from './Add.vue'

/** Hotspots, each with how it changed over time. */
defineProps<{ hotspots: Schemas['Hotspot'][]; repository: number; narrowed: boolean; commits: number }>()
const shown = 7
</script>

<template>
  <ol class="moving">
    <li v-for="h in hotspots.slice(0, shown)" :key="h.path" class="line">
      <router-link :to="{ name: 'map', params: { repository }, query: { at: h.path } }" class="mono" :title="`${h.path} on the Map`">{{
        h.path
      }}</router-link>
      <Sparkline class="spark" :counts="h.pulse" :height="18" :label="`${many(h.changes, 'change')} from the first commit to the pin`" />
      <span class="soft n" :title="h.reason">{{ many(h.changes, 'change') }}</span>
      <Add :of="{ kind: 'file', path: h.path, title: h.path.split('/').at(-1)!, lines: 100, why: `hotspot: ${h.reason}` }" />
    </li>
  </ol>
  <p v-if="commits === 1" class="soft">
    This history has one commit: what changes often, what changes together and who knows what cannot be seen in it.
  </p>
  <p v-else-if="!hotspots.length" class="soft">No file {{ narrowed ? 'of this part ' : '' }}has changed more than once lately.</p>
  <p v-else class="soft">
    <template v-if="hotspots.length > shown">
      {{ count(hotspots.length - shown) }} more among the
      <router-link :to="{ name: 'leads', params: { repository }, query: { kind: 'hotspot' } }">leads</router-link> ·
    </template>
    <router-link :to="{ name: 'hotspots', params: { repository } }">by your own rules</router-link> ·
    <router-link :to="{ name: 'map', params: { repository }, query: { order: 'right', right: 'recent' } }"
      >all files by recent changes</router-link
    >
    ·
    <router-link :to="{ name: 'map', params: { repository }, query: { order: 'still' } }">big files that never change</router-link>
  </p>
</template>

<style scoped>
.moving {
  margin: 0;
  padding: 0;
  list-style: none;
}
.line {
  display: grid;
  grid-template-columns: minmax(0, 1fr) 120px 80px 40px;
  gap: 10px;
  align-items: center;
  padding: 3px 0;
  border-top: 1px solid var(--rule-soft);
}
.line:first-child {
  border-top: 0;
}
.line a {
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
}
.n {
  text-align: right;
  white-space: nowrap;
}
</style>
