<script setup lang="ts">
/** Something that a person decides about a text they typed: what it is about, and below
 * it, in the slot `choices`, the buttons. */
</script>

<template>
  <div class="decision" role="alert">
    <p><slot /></p>
    <slot name="choices" />
  </div>
</template>

<style scoped>
.decision {
  padding: 6px 10px;
  margin: 4px 0;
  background: var(--hover);
  border-left: 2px solid var(--plum);
  font: 12.5px/1.5 var(--sans);
}
p {
  max-height: 30vh;
  overflow: auto;
}
.decision > :deep(button) {
  margin-right: 14px;
}
</style>
