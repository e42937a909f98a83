<script setup lang="ts">
import { ref } from 'vue'
import { useRouter } from 'vue-router'
import type { Schemas } from '@/api/client'

defineProps<{ readme: Schemas['Readme'] }>()
const router = useRouter()
const whole = ref(false)

/** Links inside the repository stay inside the application. */
function follow(e: MouseEvent) {
  const a = (e.target as HTMLElement).closest('a')
  const href = a?.getAttribute('href') ?? ''
  if (!href.startsWith('/r/') || e.ctrlKey || e.metaKey || e.button) return
  e.preventDefault()
  void router.push(href)
}
</script>

<template>
  <article>
    <div class="readme" :class="{ whole }" @click="follow" v-html="readme.html" />
    <button v-if="readme.html.length > 1500" class="link" @click="whole = !whole">
      {{ whole ? 'show less' : 'show all of it' }}
    </button>
  </article>
</template>

<style scoped>
.readme {
  font: 15.5px/1.55 var(--serif);
  max-height: 380px;
  overflow: hidden;
  mask-image: linear-gradient(var(--ink) 86%, transparent);
}
.readme.whole {
  max-height: none;
  mask-image: none;
}
.readme:not(.whole):has(> :nth-child(-n + 6):last-child) {
  mask-image: none;
}
.readme :deep(h1) {
  font-size: 22px;
  margin: 0 0 8px;
}
.readme :deep(h2) {
  font-size: 17px;
  margin: 16px 0 6px;
}
.readme :deep(h3) {
  font-size: 15px;
  margin: 12px 0 4px;
}
.readme :deep(p),
.readme :deep(ul),
.readme :deep(ol) {
  margin: 0 0 9px;
}
.readme :deep(pre) {
  font: 12.5px/1.5 var(--mono);
  background: var(--sheet);
  border: 1px solid var(--rule-soft);
  padding: 8px 12px;
  overflow: auto;
  white-space: pre-wrap;
}
.readme :deep(code) {
  font-family: var(--mono);
  font-size: 0.84em;
}
.readme :deep(img) {
  max-width: 100%;
}
.readme :deep(table) {
  border-collapse: collapse;
  font: 13.5px/1.5 var(--sans);
}
.readme :deep(td),
.readme :deep(th) {
  border: 1px solid var(--rule);
  padding: 3px 8px;
}
</style>
