<script setup lang="ts">
import type { Schemas } from '@/api/client'

/** What changed between two states of a plan. */
defineProps<{ changes: readonly Schemas['Change'][] }>()
</script>

<template>
  <ul>
    <li v-for="c in changes" :key="c.kind + c.id">
      <b>{{ c.what }}</b>
      <span>{{ c.kind === 'passage' ? '' : c.kind + ' ' }}“{{ c.title }}”</span>
      <span v-if="c.fields.length" class="soft">{{ c.fields.join(', ') }}</span>
    </li>
    <li v-if="!changes.length" class="soft">nothing</li>
  </ul>
</template>

<style scoped>
ul {
  list-style: none;
  margin: 6px 0 0;
  padding: 0;
  max-height: 260px;
  overflow: auto;
}
li {
  display: flex;
  gap: 8px;
  padding: 1px 0;
}
b {
  flex: none;
  width: 62px;
  font-weight: 600;
  color: var(--plum);
}
</style>
