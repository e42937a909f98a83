<script setup lang="ts">
import { useQuery } from '@tanstack/vue-query'
import { computed, ref, watch } from 'vue'
import { api, data, words } from '@/api/client'
import { count } from '@/words/format'
import { pieces } from './pieces'
import Origin from './Origin.vue'
import type { NamePlace } from './names'
import { useDefinition, useRelatives } from './use'

const props = defineProps<{ repository: number; path: string; place: NamePlace }>()
const emit = defineEmits<{
  close: []
  go: [path: string, start: number, end: number]
  beside: [path: string, line: number]
  uses: []
  extract: []
}>()

const { data: answer, error } = useDefinition(
  () => props.repository,
  () => props.path,
  () => props.place,
)
const at = ref(0)
const passed = ref(false) // the forwarder itself, not what it leads to
watch(
  answer,
  (a) => {
    at.value = a?.shown ?? 0
    passed.value = false
  },
  { immediate: true },
)
const chosen = computed(() => answer.value?.definitions[at.value])
// a forwarder alone has a chain
const { data: relatives } = useRelatives(
  () => props.repository,
  () => (chosen.value?.forwards_to ? chosen.value : undefined),
)
const chain = computed(() => relatives.value?.chain ?? [])
/** What is shown: of a forwarder, what its call ends at. */
const here = computed(() => (!passed.value && chain.value.at(-1)) || chosen.value)
/** What came with the answer. */
const sent = computed(() => (here.value && here.value === answer.value?.definitions[answer.value.shown] ? answer.value.source : undefined))
const { data: fetched, error: sourceError } = useQuery({
  queryKey: computed(() => ['repository', props.repository, 'source', here.value?.path, here.value?.start || here.value?.line]),
  queryFn: ({ signal }) => {
    const d = here.value!
    const query = { path: d.path, start: d.start || d.line, end: d.end || d.line }
    return data(api.GET('/api/repositories/{repository}/source', { params: { path: { repository: props.repository }, query }, signal }))
  },
  enabled: computed(() => !!here.value && !sent.value),
  retry: false,
})
const source = computed(() => sent.value ?? fetched.value)
const rows = computed(
  () =>
    source.value?.lines.map((l, i) => ({
      number: source.value!.from + i,
      pieces: pieces(l.text, source.value!.tokens[i], source.value!.classes),
    })) ?? [],
)
const own = computed(() => here.value?.path === props.path && here.value.line === props.place.line)
const certain: Record<string, string> = {
  scope: 'certain',
  imported: 'certain',
  typed: 'likely',
  name: 'uncertain: only the name is the same',
}
function go() {
  const d = here.value
  if (d) emit('go', d.path, d.line, Math.max(d.line, d.end))
}
defineExpose({ go })
</script>

<template>
  <section class="definition" aria-label="Definition" @keydown.esc="emit('close')">
    <header>
      <template v-if="here">
        <button class="link mono where" :title="`Go to ${here.path}:${here.line} (g)`" @click="go">{{ here.path }}:{{ here.line }}</button>
        <span class="soft">{{ chosen ? certain[chosen.certainty] : '' }}</span>
        <span v-if="own" class="soft">this is its definition</span>
      </template>
      <b v-else-if="answer" class="mono">{{ answer.name }}</b>
      <span v-else class="soft">Looking it up …</span>
      <span class="room" />
      <template v-if="(answer?.definitions.length ?? 0) > 1">
        <button class="link" :disabled="at === 0" title="The definition before" @click="at--">‹</button>
        <span class="soft">{{ at + 1 }} of {{ answer!.definitions.length }}</span>
        <button class="link" :disabled="at + 1 === answer!.definitions.length" title="The next definition" @click="at++">›</button>
      </template>
      <button v-if="here && !own" class="link" title="Put the definition beside this file" @click="emit('beside', here.path, here.line)">
        beside
      </button>
      <button class="link" title="All that is known of it (u)" @click="emit('uses')">uses <kbd>u</kbd></button>
      <button v-if="chosen?.kind" class="link" title="It, with all of this repository that it needs (x)" @click="emit('extract')">
        extract <kbd>x</kbd>
      </button>
      <router-link
        v-if="chosen?.kind"
        class="link"
        title="Draft a reading plan: what to know before it is changed"
        :to="{
          name: 'draft-plan',
          params: { repository },
          query: { goal: 'symbol', path: chosen.path, line: chosen.line, name: chosen.name },
        }"
        >plan a change</router-link
      >
      <button class="link" title="Close" @click="emit('close')">close <kbd>Esc</kbd></button>
    </header>
    <p v-if="chain.length" class="chain soft">
      <b class="mono">{{ chosen!.name }}</b> only hands its call on
      <template v-for="(d, i) in chain" :key="i"
        >→ <button class="link mono" @click="emit('go', d.path, d.line, Math.max(d.line, d.end))">{{ d.name }}</button>
      </template>
      <button class="link" @click="passed = !passed">{{ passed ? 'show the real body' : 'show the forwarder itself' }}</button>
    </p>
    <p v-if="error || sourceError" class="fault">{{ words(error ?? sourceError) }}</p>
    <div v-else-if="answer && !here" class="none">
      <Origin v-if="answer.origin" :origin="answer.origin" :repository="repository" />
      <p v-else class="soft">No file of this repository makes a name like this that could be meant here.</p>
    </div>
    <div v-else class="source" tabindex="0">
      <div v-for="r in rows" :key="r.number" class="row">
        <span class="number">{{ r.number }}</span><span class="text"
          ><span v-for="(p, i) in r.pieces" :key="i" :class="p.class">{{ p.text }}</span></span
        >
      </div>
      <p v-if="source?.more" class="soft more">{{ count(source.more) }} more lines; go there to read them.</p>
    </div>
  </section>
</template>

<style scoped>
.definition {
  border: 1px solid var(--teal-pale);
  border-left: 3px solid var(--teal);
  background: var(--sheet);
  margin: 0;
  /* the column that can be seen, however long the lines of the file are */
  position: sticky;
  left: var(--pane-left, 0);
  width: var(--pane-width, 100%);
}
header {
  display: flex;
  align-items: baseline;
  gap: 10px;
  padding: 4px 10px;
  border-bottom: 1px solid var(--rule-soft);
  font: 12.5px/1.5 var(--sans);
  white-space: nowrap;
  flex-wrap: wrap;
}
.where {
  overflow: hidden;
  text-overflow: ellipsis;
}
.room {
  flex: 1;
}
.chain,
.none,
.fault {
  padding: 4px 10px;
  font: 12.5px/1.5 var(--sans);
  white-space: normal;
}
.chain {
  border-bottom: 1px solid var(--rule-soft);
}
.source {
  max-height: 294px;
  overflow: auto;
  padding: 4px 0;
  font: 12px/19px var(--mono);
}
.row {
  display: flex;
  white-space: pre;
  tab-size: 4;
}
.number {
  flex: none;
  width: 6ch;
  padding-right: 1.5ch;
  text-align: right;
  color: var(--ink-soft);
  user-select: none;
}
.more {
  padding: 4px 10px;
  font-family: var(--sans);
}
button:disabled {
  opacity: 0.4;
}
</style>
