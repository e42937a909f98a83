<script setup lang="ts">
import { current } from './notice'

function act() {
  current.value?.action?.do()
  current.value = null
}
</script>

<template>
  <div class="place" aria-live="polite">
    <div v-if="current" class="notice" :class="{ fault: current.fault }" :role="current.fault ? 'alert' : 'status'">
      <span>{{ current.text }}</span>
      <button v-if="current.action" class="link" @click="act">{{ current.action.label }}</button>
      <button class="link" aria-label="Put this away" @click="current = null">close</button>
    </div>
  </div>
</template>

<style scoped>
.place {
  position: fixed;
  left: 50%;
  bottom: 62px;
  transform: translateX(-50%);
  z-index: 1100;
}
.notice {
  display: flex;
  gap: 16px;
  align-items: baseline;
  max-width: 720px;
  padding: 9px 16px;
  background: var(--ink);
  color: var(--paper);
  border-radius: var(--radius);
}
.notice.fault {
  background: var(--fault);
  color: var(--on-dark);
}
.notice .link {
  color: inherit;
}
</style>
