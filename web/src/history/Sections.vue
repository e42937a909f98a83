<script setup lang="ts">
import { computed } from 'vue'
import { useRoute } from 'vue-router'

/** The pages of the history as words. */
const route = useRoute()
const pages = [
  { name: 'history', title: 'Log' },
  { name: 'hotspots', title: 'Hotspots and partners' },
  { name: 'who', title: 'Who to ask' },
  { name: 'compare', title: 'Compare' },
]
const here = computed(() => (route.name === 'commit' || route.name === 'story' ? 'history' : route.name))
</script>

<template>
  <nav aria-label="History">
    <router-link
      v-for="p in pages"
      :key="p.name"
      class="plain"
      :class="{ here: here === p.name }"
      :to="{ name: p.name, params: { repository: route.params.repository } }"
      >{{ p.title }}</router-link
    >
    <slot />
  </nav>
</template>

<style scoped>
nav {
  display: flex;
  align-items: baseline;
  gap: 20px;
  padding: 8px var(--gap) 6px;
  flex: none;
}
a {
  color: var(--ink-soft);
}
a.here {
  color: var(--ink);
  font-weight: 600;
}
</style>
