<script setup lang="ts">
import { computed, ref, useTemplateRef, watch } from 'vue'
import { words, type Schemas } from '@/api/client'
import { useSheet } from '@/frame/sheet'
import { count, many, short } from '@/words/format'
import Origin from './Origin.vue'
import type { NamePlace } from './names'
import { useDefinition, useRelatives, useUses } from './use'
import { usesBy } from './uses'

const props = defineProps<{ repository: number; path: string; place: NamePlace }>()
const emit = defineEmits<{ close: [] }>()
const element = useTemplateRef<HTMLElement>('element')
useSheet({ element: () => element.value, modal: false, close: () => emit('close') })
const repository = computed(() => props.repository)
const {
  data: answer,
  error,
  isFetching,
} = useDefinition(
  repository,
  () => props.path,
  () => props.place,
)
const shownDefinitions = ref(5)
watch(
  () => [props.path, props.place],
  () => (shownDefinitions.value = 5),
)
const best = computed(() => answer.value?.definitions[0])
const uses = useUses(repository, best)
const relatives = useRelatives(repository, best)
/** Where a chain of forwarders ends. */
const realBody = computed(() => relatives.data.value?.chain.at(-1))
const files = computed(() => uses.data.value?.pages.flatMap((p) => p.files) ?? [])
const first = computed(() => uses.data.value?.pages[0])
const certain: Record<string, string> = {
  scope: 'certain: the same scope',
  imported: 'certain: imported from there',
  typed: 'likely: a member of the type that the text tells',
  name: 'uncertain: only the name is the same',
}
const to = (path: string, line: number, end?: number) => ({
  name: 'read',
  params: { repository: props.repository },
  query: { path, lines: end && end > line ? `${line}-${end}` : String(line) },
})
const groups = computed(() => usesBy(files.value))
const rel = (r: Schemas['RelativeInfo']) => r.path && to(r.path, r.line)
</script>

<template>
  <aside ref="element" class="name" aria-label="What the name means">
    <header>
      <h2 class="mono" tabindex="0" data-first>{{ answer?.name ?? '…' }}</h2>
      <button class="link" @click="emit('close')">close <kbd>Esc</kbd></button>
    </header>
    <p v-if="error" class="soft" role="alert">{{ words(error) }}</p>
    <p v-else-if="!answer && isFetching" class="soft">Looking it up …</p>
    <template v-if="answer">
      <Origin v-if="answer.origin" :origin="answer.origin" :repository="repository" />
      <p v-if="answer.through && answer.origin?.to !== 'unresolved'" class="soft">
        through <span class="mono">{{ answer.through }}</span>
      </p>
      <p v-if="!answer.definitions.length && !answer.origin" class="soft">
        No file of this repository makes a name like this that could be meant here. It may be built into the language, or be known only when
        the program runs.
      </p>
      <template v-if="answer.definitions.length">
        <h3>{{ answer.definitions.length === 1 ? 'Definition' : `${answer.definitions.length} definitions, surest first` }}</h3>
        <ol>
          <li v-for="d in answer.definitions.slice(0, shownDefinitions)" :key="d.path + d.line">
            <router-link :to="to(d.path, d.line, d.end)" class="mono">{{ d.path }}:{{ d.line }}</router-link>
            <code v-if="d.signature">{{ d.signature }}</code>
            <span v-if="d.doc" class="doc">{{ d.doc }}</span>
            <span class="soft" :class="{ unsure: d.certainty === 'name' }">{{ certain[d.certainty] }} ({{ d.why }})</span>
          </li>
        </ol>
        <button v-if="answer.definitions.length > shownDefinitions" class="link" @click="shownDefinitions = 50">
          all {{ answer.definitions.length }}
        </button>
      </template>
      <template v-if="relatives.data.value">
        <template v-if="relatives.data.value.forwards_to">
          <h3>Only hands its call on</h3>
          <p>
            to <code>{{ relatives.data.value.forwards_to }}</code>
            <router-link v-if="relatives.data.value.chain.length" :to="to(realBody!.path, realBody!.line, realBody!.end)" class="mono">
              {{ realBody!.path }}:{{ realBody!.line }}</router-link
            >
            <span v-else class="soft">, which was not found here</span>
          </p>
        </template>
        <template
          v-for="[title, list] in [
            ['Supertypes', relatives.data.value.supertypes],
            ['Subtypes', relatives.data.value.subtypes],
          ] as const"
          :key="title"
        >
          <template v-if="list.length">
            <h3>{{ title }}</h3>
            <ul>
              <li v-for="r in list" :key="r.name + r.path + r.line">
                <router-link v-if="rel(r)" :to="rel(r)">{{ r.name }}</router-link><span v-else>{{ r.name }}</span>
                <span class="soft">
                  {{ r.path ? `${r.path}:${r.line}` : r.why
                  }}{{ r.certainty === 'name' && r.path ? ', only the name is the same' : '' }}</span
                >
              </li>
            </ul>
          </template>
        </template>
        <p v-if="relatives.data.value.more" class="soft">There are more subtypes than are sent.</p>
      </template>
      <template v-if="best?.kind">
        <h3>
          Uses
          <span v-if="first" class="soft">the name stands in {{ many(first.total, 'file') }}, {{ count(first.named) }} times</span>
        </h3>
        <p v-if="uses.error.value" class="fault">{{ words(uses.error.value) }}</p>
        <p v-else-if="first && !files.length && !first.next" class="soft">
          Nothing in this repository is seen to use it. What is only decided when the program runs cannot be seen.
        </p>
        <template v-for="(g, n) in groups" :key="g.certainty + g.role">
          <h4 v-if="groups[n - 1]?.certainty !== g.certainty">{{ certain[g.certainty] }}</h4>
          <h5>
            {{ g.role }} <span class="soft">{{ count(g.places) }}</span>
          </h5>
          <div v-for="f in g.files" :key="f.path" class="file">
            <span class="mono path">{{ f.path }}</span>
            <router-link v-for="s in f.sites" :key="`${s.line}.${s.column}`" :to="to(f.path, s.line)" class="site">
              <span class="line">{{ s.line }}</span><code>{{ s.text }}</code>
            </router-link>
            <span v-if="f.more" class="soft">and {{ count(f.more) }} places more of the name, not looked into</span>
          </div>
        </template>
        <a-button v-if="uses.hasNextPage.value" size="small" :loading="uses.isFetchingNextPage.value" @click="uses.fetchNextPage()"
          >More files</a-button
        >
      </template>
      <p class="soft true">True for {{ short(answer.commit) }}, the pin. What is decided when the program runs is not seen here.</p>
    </template>
  </aside>
</template>

<style scoped>
aside {
  padding: 14px 18px;
  overflow: auto;
}
header {
  display: flex;
  justify-content: space-between;
  align-items: baseline;
  gap: 12px;
}
header h2.mono {
  font: 600 15px var(--mono);
  color: var(--teal);
  overflow-wrap: anywhere;
}
h3 {
  font-size: 14.5px;
  color: var(--teal);
  margin: 14px 0 4px;
}
h3 .soft {
  font: 12.5px var(--sans);
}
h4 {
  font: 500 12.5px var(--sans);
  margin: 10px 0 2px;
}
h5 {
  font: 600 12.5px var(--serif);
  color: var(--teal);
  margin: 8px 0 2px;
}
ol,
ul {
  list-style: none;
  margin: 0;
  padding: 0;
}
li {
  padding: 4px 0;
  border-top: 1px solid var(--rule-soft);
  overflow-wrap: anywhere;
}
li > * {
  display: block;
}
ul li > * {
  display: inline;
}
code,
.mono {
  font: 12px var(--mono);
}
.doc {
  font-family: var(--serif);
}
.unsure {
  font-style: italic;
}
.file {
  padding: 3px 0;
  border-top: 1px solid var(--rule-soft);
}
.path {
  overflow-wrap: anywhere;
}
.site {
  display: grid;
  grid-template-columns: 40px minmax(0, 1fr);
  color: inherit;
}
.site code {
  white-space: nowrap;
  overflow: hidden;
  text-overflow: ellipsis;
}
.site .line {
  font: 12px var(--mono);
  color: var(--ink-soft);
}
.true {
  margin-top: 16px;
  font-size: 12.5px;
}
</style>
