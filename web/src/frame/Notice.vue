<script setup lang="ts">
import { nextTick, useTemplateRef, watch } from 'vue'
import { current } from './notice'

/** Above everything, an open dialogue too. */
const place = useTemplateRef<HTMLElement>('place')
watch(current, async (c) => {
  await nextTick()
  place.value?.hidePopover?.()
  if (c) place.value?.showPopover?.()
})

function act() {
  current.value?.action?.do()
  current.value = null
}
</script>

<template>
  <div ref="place" class="place" popover="manual" aria-live="polite">
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
  inset: auto;
  margin: 0;
  padding: 0;
  border: 0;
  background: none;
  left: 50%;
  bottom: 62px;
  transform: translateX(-50%);
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
