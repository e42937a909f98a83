<script setup lang="ts">
import { useRoute } from 'vue-router'

/** The pages of a section as words, with room for what belongs to the page. */
defineProps<{ label: string; pages: readonly { name: string; title: string }[]; here: unknown }>()
const route = useRoute()
</script>

<template>
  <nav :aria-label="label">
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
