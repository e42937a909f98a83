<script setup lang="ts">
import { useQuery } from '@tanstack/vue-query'
import { computed } from 'vue'
import { api, data, words, type Schemas } from '@/api/client'
import { count, many } from '@/words/format'

/** How what the code says differs between two commits. */
const props = defineProps<{ repository: number; from: string; to: string; fork: boolean; newer: string; older: string }>()
const { data: said, error } = useQuery({
  queryKey: computed(() => ['repository', props.repository, 'compare-said', props.from, props.to, props.fork]),
  queryFn: ({ signal }) =>
    data(
      api.GET('/api/repositories/{repository}/compare/said', {
        params: { path: { repository: props.repository }, query: { from: props.from, to: props.to, fork: props.fork || undefined } },
        signal,
      }),
    ),
  retry: false,
  staleTime: 60_000,
})
const byFile = computed(() => {
  const out = new Map<string, Schemas['SymbolChange'][]>()
  for (const s of said.value?.symbols ?? []) out.set(s.path, [...(out.get(s.path) ?? []), s])
  return [...out]
})
const signs = { came: '+', went: '−', changed: '~' }
const at = (path: string, line: number, what: string) => ({
  name: 'read',
  params: { repository: props.repository },
  query: { path, lines: String(line), at: what === 'went' ? props.older : props.newer },
})
</script>

<template>
  <div class="said">
    <p v-if="error" class="fault" role="alert">{{ words(error) }}</p>
    <p v-else-if="!said" class="soft">Reading what the files say …</p>
    <template v-else>
      <section>
        <h2>Where it starts</h2>
        <p v-for="s in said.starts" :key="s.path + s.kind + s.name + s.what">
          <span class="sign">{{ signs[s.what] }}</span> {{ s.kind }} <b>{{ s.name || s.path }}</b>
          <router-link :to="at(s.path, Math.max(1, s.line), s.what)">{{ s.path }}:{{ s.line }}</router-link>
        </p>
        <p v-if="!said.starts.length" class="soft">No entry point came or went.</p>
      </section>
      <section>
        <h2>How it is built, run and tested</h2>
        <p v-for="r in said.recipes" :key="r.path + r.command + r.what">
          <span class="sign">{{ signs[r.what] }}</span> {{ r.purpose }}: <code>{{ r.command }}</code>
          <router-link :to="at(r.path, Math.max(1, r.line), r.what)">{{ r.path }}:{{ r.line }}</router-link>
        </p>
        <p v-if="!said.recipes.length" class="soft">No recipe came or went.</p>
      </section>
      <section>
        <h2>Plans</h2>
        <p v-for="p in said.passages" :key="p.plan + p.passage.id">
          <router-link :to="{ name: 'guide', params: { repository, plan: p.plan }, query: { passage: p.passage.id } }"
            >passage {{ p.number }} of {{ p.title }}</router-link
          >
          <span class="soft"> {{ p.passage.title }}</span>
        </p>
        <p v-if="!said.passages.length" class="soft">No passage of a plan reads a file that differs.</p>
      </section>
      <section>
        <h2>Symbols</h2>
        <p class="soft">
          {{ many(said.total, 'symbol') }} differ in {{ many(said.read, 'file') }} that were read<template v-if="said.unread"
            >; {{ many(said.unread, 'other file') }} could not be compared: not parsed, too large, or too many</template
          >. A name whose signature stayed the same is not listed, whatever its body did; nor are headings of texts.
        </p>
        <div v-for="[path, list] in byFile" :key="path" class="file">
          <h3 class="mono">{{ path }}</h3>
          <div v-for="s in list" :key="s.kind + s.name + s.what + s.line" class="symbol">
            <span class="sign" :title="{ came: 'new', went: 'gone', changed: 'declared otherwise' }[s.what]">{{ signs[s.what] }}</span>
            <span class="soft kind">{{ s.kind }}</span>
            <span class="text"
              ><router-link :to="at(path, s.line, s.what)">{{ s.name }}</router-link>
              <code v-if="s.what === 'changed'"
                ><s>{{ s.old }}</s
                ><br />{{ s.new }}</code
              ><code v-else>{{ s.new || s.old }}</code></span
            >
          </div>
        </div>
        <p v-if="said.total > said.symbols.length" class="soft">{{ count(said.total - said.symbols.length) }} more are not listed.</p>
      </section>
    </template>
  </div>
</template>

<style scoped>
.said {
  padding: 12px var(--gap) 30px;
  display: grid;
  grid-template-columns: 1fr 1fr;
  gap: 18px 34px;
  align-items: start;
}
section > p {
  display: flex;
  flex-wrap: wrap;
  gap: 0 9px;
  align-items: baseline;
}
/* what starts it stands at the left, what is asked of it at the right */
section:first-child {
  grid-row: 1 / 3;
}
section:nth-child(3) {
  grid-column: 2;
}
section:last-child {
  grid-column: 1 / -1;
}
section:last-child > p {
  display: block;
}
.symbol code {
  margin-left: 10px;
}
.sign {
  display: inline-block;
  width: 14px;
  font: 600 13px var(--mono);
  color: var(--ochre-text);
}
.file {
  margin-top: 10px;
  content-visibility: auto;
  contain-intrinsic-size: auto 90px;
}
.file h3 {
  font: 600 12.5px/1.6 var(--mono);
  border-bottom: 1px solid var(--rule-soft);
}
.symbol {
  display: grid;
  grid-template-columns: 18px 84px minmax(0, 1fr);
  align-items: baseline;
  padding: 1px 0;
}
.kind {
  font: italic 13px var(--serif);
}
code {
  font-size: 12px;
  overflow-wrap: anywhere;
}
s {
  color: var(--ink-soft);
}
</style>
