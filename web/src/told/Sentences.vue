<script setup lang="ts">
import { computed } from 'vue'
import { type Schemas } from '@/api/client'

const props = defineProps<{ sentences: Schemas['SentenceInfo'][]; repository: number; folder?: string }>()

/** Text and code by turns: code stands between backticks. */
const pieces = (text: string) => text.split('`').map((t, i) => ({ text: t, code: i % 2 === 1 }))
const titles = { names: 'told from names, paths and imports', read: 'told from comments and bodies', history: 'told from what happened' }
const to = (c: Schemas['CiteInfo']) => ({
  name: 'read',
  params: { repository: props.repository },
  query:
    c.path === '.' || c.path === props.folder
      ? { folder: c.path === '.' ? '' : c.path }
      : { path: c.path, ...(c.line ? { lines: String(c.line) } : {}) },
})
/** Citations, the path once for lines that follow each other in it. */
const cites = computed(() =>
  props.sentences.map((s) =>
    s.cites.map((c, i) => ({
      cite: c,
      label:
        (i && s.cites[i - 1]!.path === c.path ? '' : c.path === '.' ? 'the tree' : c.path.split('/').at(-1)) + (c.line ? `:${c.line}` : ''),
    })),
  ),
)
</script>

<template>
  <ul class="sentences">
    <li v-for="(s, n) in sentences" :key="n" :class="s.depth">
      <template v-for="(p, i) in pieces(s.text)" :key="i"
        ><code v-if="p.code">{{ p.text }}</code
        ><template v-else>{{ p.text }}</template></template
      >
      <span class="cites" :title="titles[s.depth]"
        ><router-link
          v-for="c in cites[n]!.filter((x) => x.label)"
          :key="c.cite.path + c.cite.line"
          :to="to(c.cite)"
          :title="`${c.cite.path}${c.cite.line ? `:${c.cite.line}` : ''}, ${titles[s.depth]}`"
          >{{ c.label }}</router-link
        ></span
      >
    </li>
  </ul>
</template>

<style scoped>
.sentences {
  list-style: none;
  margin: 0;
  padding: 0;
  font: 14.5px/1.42 var(--serif);
}
li {
  padding: 3px 0;
  overflow-wrap: anywhere;
}
li:first-child {
  font-size: 16px;
}
code {
  font: 0.84em var(--mono);
}
.cites {
  font: 11.5px var(--mono);
  white-space: normal;
}
.cites a {
  margin-left: 6px;
  display: inline-block;
  max-width: 100%;
}
li.history .cites a {
  color: var(--ochre-text);
}
</style>
