<script setup lang="ts">
import { computed } from 'vue'

const props = defineProps<{ text: string; inline?: boolean }>()
/** Paragraphs of plain text, with `code` between backticks. */
const paragraphs = computed(() =>
  props.text
    .split(/\n{2,}/)
    .filter((p) => p.trim())
    .map((p) =>
      p
        .split(/(`[^`\n]+`)/)
        .map((s) => ({ text: s.startsWith('`') && s.length > 2 ? s.slice(1, -1) : s, code: s.startsWith('`') && s.length > 2 })),
    ),
)
</script>

<template>
  <component :is="inline ? 'span' : 'p'" v-for="(p, i) in paragraphs" :key="i" :class="inline ? 'inline' : 'prose para'">
    <template v-for="(s, k) in p" :key="k"
      ><code v-if="s.code">{{ s.text }}</code
      ><template v-else>{{ s.text }}</template></template
    >
  </component>
</template>

<style scoped>
.para {
  white-space: pre-line;
  margin: 0 0 8px;
}
code {
  font: 0.82em var(--mono);
}
</style>
