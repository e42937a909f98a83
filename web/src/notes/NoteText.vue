<script setup lang="ts">
import { useRouter } from 'vue-router'

/** A text as the server made it safe. Links within stay within. */
defineProps<{ html: string }>()
const router = useRouter()
function follow(e: MouseEvent) {
  const link = (e.target as HTMLElement).closest('a')
  const to = link?.getAttribute('href')
  if (to?.startsWith('/attachments/') && link!.querySelector('img')) {
    // a picture in full, beside the page
    e.preventDefault()
    window.open(to, '_blank', 'noopener')
    return
  }
  if (!to?.startsWith('/r/') || e.ctrlKey || e.metaKey || e.shiftKey) return
  e.preventDefault()
  void router.push(to)
}
</script>

<template>
  <!-- eslint-disable-next-line vue/no-v-html -- sanitised by the server -->
  <div class="text" @click="follow" v-html="html" />
</template>

<style scoped>
.text {
  overflow-wrap: anywhere;
}
.text :deep(p),
.text :deep(ul),
.text :deep(ol),
.text :deep(pre),
.text :deep(blockquote) {
  margin: 0 0 4px;
}
.text :deep(ul),
.text :deep(ol) {
  padding-left: 18px;
}
.text :deep(code),
.text :deep(pre) {
  font: 12px/1.5 var(--mono);
}
.text :deep(pre) {
  overflow: auto;
  padding: 4px 8px;
  background: var(--paper);
}
.text :deep(blockquote) {
  padding-left: 10px;
  border-left: 2px solid var(--rule);
  color: var(--ink-soft);
}
.text :deep(h1),
.text :deep(h2),
.text :deep(h3) {
  font-size: 15px;
}
.text :deep(img) {
  display: block;
  max-width: 100%;
  max-height: 420px;
  width: auto;
  height: auto;
  margin: 4px 0;
  border: 1px solid var(--rule-soft);
}
.text :deep(.mention) {
  font-weight: 600;
}
.text :deep(table) {
  border-collapse: collapse;
}
.text :deep(td),
.text :deep(th) {
  border: 1px solid var(--rule-soft);
  padding: 1px 6px;
}
</style>
