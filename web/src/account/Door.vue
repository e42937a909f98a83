<script setup lang="ts">
import Wordmark from '@/frame/Wordmark.vue'

defineProps<{ title: string }>()
</script>

<template>
  <div class="door">
    <section class="sheet">
      <Wordmark large />
      <h1>{{ title }}</h1>
      <slot />
    </section>
  </div>
</template>

<style scoped>
.door {
  min-height: 100%;
  display: grid;
  place-items: start center;
  padding: 12vh 24px 24px;
}
.sheet {
  width: min(400px, 100%);
  display: flex;
  flex-direction: column;
  gap: 16px;
}
h1 {
  margin-top: 10px;
}
</style>
