<script setup lang="ts">
import { type Schemas } from '@/api/client'
import { notice } from '@/frame/notice'

const props = defineProps<{ origin: Schemas['OriginInfo']; repository: number }>()
const to = (path: string, line?: number) => ({
  name: 'read',
  params: { repository: props.repository },
  query: { path, ...(line ? { lines: String(line) } : {}) },
})
async function copy(path: string) {
  await navigator.clipboard.writeText(path)
  notice(`Copied: ${path}`)
}
</script>

<template>
  <span class="origin" :class="origin.to">
    <template v-if="origin.to === 'file'">
      <span v-for="p in origin.paths.slice(0, 3)" :key="p" class="path">
        <router-link :to="to(p)">{{ p }}</router-link>
        <button class="link copy" :aria-label="`Copy ${p}`" title="Copy the path" @click="copy(p)">copy</button>
      </span>
      <span v-if="origin.paths.length + origin.more > 3" class="soft"
        >and {{ origin.paths.length + origin.more - 3 }} more of the same package</span
      >
      <span v-if="origin.guess" class="soft">a guess: {{ origin.reason }}</span>
    </template>
    <template v-else-if="origin.to === 'standard-library'"><span class="soft">standard library</span></template>
    <template v-else-if="origin.to === 'dependency'">
      <span
        >dependency <b>{{ origin.name }}</b> {{ origin.version }}
        <router-link v-if="origin.declared" :to="to(origin.declared, origin.line)" class="soft"
          >{{ origin.declared }}{{ origin.line ? `:${origin.line}` : '' }}</router-link
        >
        <span v-if="origin.guess" class="soft">a guess: {{ origin.reason }}</span>
      </span>
      <router-link v-for="p in origin.paths.slice(0, 1)" :key="p" :to="to(p)">{{ p }}</router-link>
    </template>
    <template v-else>
      <span :class="{ fault: origin.to === 'unresolved' }">{{ origin.to }}</span><span class="soft">: {{ origin.reason }}</span>
      <span v-if="origin.near.length" class="near"
        >did you mean
        <template v-for="(n, i) in origin.near" :key="n"
          ><template v-if="i">, </template><router-link v-if="n.includes('/') || n.includes('.')" :to="to(n)">{{ n }}</router-link
          ><code v-else>{{ n }}</code></template
        >?</span
      >
    </template>
  </span>
</template>

<style scoped>
.origin {
  display: block;
  overflow-wrap: anywhere;
}
.origin.standard-library {
  display: inline;
  margin-left: 8px;
}
.path,
.near {
  display: block;
}
.copy {
  font-size: 12px;
  opacity: 0;
  margin-left: 6px;
}
.path:hover .copy,
.copy:focus-visible {
  opacity: 1;
}
code {
  font: 12px var(--mono);
}
</style>
