<script setup lang="ts">
import { ref } from 'vue'
import type { Schemas } from '@/api/client'
import { Excerpt } from '@/told'
import { lineSpan } from '@/words/format'

/** Something to try: what to do, where, and what should come of it. */
const props = defineProps<{ repository: number; target: Schemas['Target'] }>()
const copied = ref(false)
async function copy() {
  await navigator.clipboard.writeText(props.target.try!.commands)
  copied.value = true
}
</script>

<template>
  <div v-if="target.try" class="try">
    <dl>
      <template v-if="target.try.folder || target.try.platform">
        <dt>where</dt>
        <dd>
          <span v-if="target.try.folder" class="mono">{{ target.try.folder }}/</span>
          <span v-if="target.try.platform" class="soft"> on {{ target.try.platform }}</span>
        </dd>
      </template>
      <template v-if="target.try.set_up">
        <dt>before</dt>
        <dd>{{ target.try.set_up }}</dd>
      </template>
      <template v-if="target.try.commands">
        <dt>do</dt>
        <dd>
          <pre>{{ target.try.commands }}</pre>
          <button class="link" @click="copy">{{ copied ? 'copied' : 'copy' }}</button>
          <span class="soft"> Nothing here runs it for you.</span>
        </dd>
      </template>
      <template v-if="target.try.inputs">
        <dt>give</dt>
        <dd>{{ target.try.inputs }}</dd>
      </template>
      <template v-if="target.try.outcome">
        <dt>expect</dt>
        <dd>{{ target.try.outcome }}</dd>
      </template>
    </dl>
    <section v-for="(p, i) in target.try.pauses ?? []" :key="i">
      <p>
        pause at
        <router-link
          class="mono"
          :to="{
            name: 'read',
            params: { repository },
            query: { path: p.path, at: p.commit || target.commit, lines: p.start ? lineSpan(p.start, p.end ?? p.start) : undefined },
          }"
          >{{ p.path }}<template v-if="p.start">:{{ lineSpan(p.start, p.end ?? p.start) }}</template></router-link
        >
        <span v-if="p.says" class="soft"> · {{ p.says }}</span>
      </p>
      <Excerpt
        v-if="p.start"
        class="excerpt"
        :repository="repository"
        :path="p.path"
        :at="p.commit || target.commit"
        :start="p.start"
        :end="p.end ?? p.start"
        :around="3"
      />
    </section>
  </div>
</template>

<style scoped>
.try {
  height: 100%;
  overflow: auto;
  padding: 12px 18px;
}
dl {
  display: grid;
  grid-template-columns: 70px minmax(0, 1fr);
  gap: 8px 10px;
  margin: 0 0 12px;
}
dt {
  color: var(--ink-soft);
}
dd {
  margin: 0;
  white-space: pre-line;
}
pre {
  margin: 0;
  padding: 6px 10px;
  font: 12.5px/1.6 var(--mono);
  background: var(--sheet);
  border: 1px solid var(--rule);
  overflow: auto;
  white-space: pre;
}
.excerpt {
  border: 1px solid var(--rule-soft);
  margin: 4px 0 10px;
}
</style>
