<script setup lang="ts">
import { many } from './format'

/** Tells that somebody else changed a text meanwhile, and that both changes are put
 * together; the slot says what to do. */
defineProps<{ theirs: string; both: number }>()
</script>

<template>
  <p class="met" role="alert">
    Somebody changed this meanwhile: <q>{{ theirs }}</q><br />
    {{
      both
        ? `Both changes are put together; in ${many(both, 'place')} you changed the same words, and both are kept, yours first.`
        : 'Both changes are put together.'
    }}
    <slot />
  </p>
</template>

<style scoped>
.met {
  padding: 6px 10px;
  margin: 4px 0;
  background: var(--hover);
  font: 12.5px/1.5 var(--sans);
}
.met :slotted(button) {
  margin-right: 8px;
}
</style>
