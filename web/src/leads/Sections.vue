<script setup lang="ts">
import { useRoute } from 'vue-router'

/** The pages of what was found, as words. */
const route = useRoute()
const pages = [
  { name: 'leads', title: 'All leads' },
  { name: 'tagged', title: 'Tagged comments' },
]
</script>

<template>
  <nav aria-label="Leads">
    <router-link
      v-for="p in pages"
      :key="p.name"
      class="plain"
      :class="{ here: route.name === p.name }"
      :to="{ name: p.name, params: { repository: route.params.repository } }"
      >{{ p.title }}</router-link
    >
    <span class="room" />
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
.room {
  flex: 1;
}
</style>
