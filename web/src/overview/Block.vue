<script setup lang="ts">
defineProps<{ title: string; note?: string; tone?: 'is' | 'happened' | 'plan' }>()
</script>

<template>
  <section class="block" :class="tone">
    <header>
      <h2>{{ title }}</h2>
      <span v-if="note" class="soft">{{ note }}</span>
    </header>
    <slot />
  </section>
</template>

<style scoped>
.block {
  margin-bottom: 26px;
}
header {
  display: flex;
  justify-content: space-between;
  align-items: baseline;
  gap: 16px;
  border-bottom: 1px solid var(--rule);
  padding-bottom: 4px;
  margin-bottom: 6px;
}
.is h2 {
  color: var(--teal);
}
.happened h2 {
  color: var(--ochre-text);
}
.plan h2 {
  color: var(--plum);
}
</style>
