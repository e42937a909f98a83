<script setup lang="ts">
import { useResizeObserver } from '@vueuse/core'
import { computed, nextTick, onMounted, ref, useTemplateRef, watch, type Ref } from 'vue'
import type { Schemas } from '@/api/client'
import { Sentences } from '@/told'
import Prose from '@/plans/Prose.vue'
import { count } from '@/words/format'
import { SetAside, useMarks, type Marked } from '@/leads'
import { Thread } from '@/notes'
import LineNote from './LineNote.vue'
import { mostNotes, placed, type MarginNote } from './notes'
import type { LineStory } from './useLineHistory'

const props = defineProps<{
  repository: number
  summary?: Schemas['SummaryInfo']
  notes: MarginNote[]
  story: LineStory | null // where the line at hand comes from
  bulk: number
  wide: number
  skipBulk: boolean
  listed: number
  unignored: number
  total: number // notes that there are
  line: number // at hand
  writer: boolean
  top: (line: number) => number // of a line, below the top of the pane; in pixels
  geometry: { moved: Ref<number> } // counts whenever lines stand elsewhere
}>()
const { mark: say } = useMarks(() => props.repository)
const aside = ref<MarginNote | null>(null)
function mark(n: MarginNote, state: Marked, reason = '') {
  const was = n.lead!
  void say([was.id], state, reason, { state: was.state === 'done' ? 'open' : was.state, reason: was.reason })
}
const emit = defineEmits<{ go: [line: number]; behind: [commit: string]; forward: []; bulk: [skip: boolean] }>()

/** How many sentences stand here; all are under “about this file”. */
const shortly = 2
const gap = 14
const margin = useTemplateRef<HTMLElement>('margin')
const said = useTemplateRef<HTMLElement>('said')
const drawn = useTemplateRef<HTMLElement[]>('drawn')
const tops = ref<number[]>([])
/** The heights are known once the notes are drawn. */
async function arrange() {
  await nextTick()
  if (!margin.value) return
  const heights = [...margin.value.querySelectorAll<HTMLElement>('.note')].map((n) => n.offsetHeight)
  // the summary stands at the top of the file and goes with it
  const start = props.top(1) + (said.value ? said.value.offsetHeight + gap : 0)
  tops.value = placed(
    props.notes.map((n) => props.top(n.line)),
    heights,
    gap,
    start,
  )
}
onMounted(arrange)
/** Notes grow while one replies or edits. */
useResizeObserver(drawn, arrange)
watch(() => [props.geometry.moved.value, props.notes, props.summary], arrange)
const first = computed(() => (props.geometry.moved.value >= 0 ? Math.min(0, props.top(1)) : 0))
const here = (n: MarginNote) => n.line <= props.line && props.line <= n.end
</script>

<template>
  <div class="whole">
    <div ref="margin" class="margin" aria-label="Margin">
      <div v-if="summary?.sentences.length" ref="said" class="said" :style="{ transform: `translateY(${first}px)` }">
        <Sentences :sentences="summary.sentences.slice(0, shortly)" :repository="repository" />
        <p class="soft by">summary by Juxtagram, each sentence opens its lines</p>
      </div>
      <article
        v-for="(n, i) in notes"
        ref="drawn"
        :key="n.key"
        class="note"
        :class="[n.kind, { here: here(n) }]"
        :style="{ transform: `translateY(${tops[i] ?? -9999}px)` }"
      >
        <header>
          <button class="plain" :title="`To line ${n.line}`" @click="emit('go', n.line)">{{ n.head }}</button>
          <span v-if="!n.thread" class="soft">:{{ n.line }}</span>
        </header>
        <Thread v-if="n.thread" :repository="repository" :thread="n.thread" :writer="writer" />
        <template v-else-if="n.kind === 'planned'">
          <Prose :text="n.text" />
          <p v-if="n.caution" class="caution"><b>Caution:</b> {{ n.caution }}</p>
        </template>
        <p v-else>{{ n.text }}</p>
        <p v-if="n.aside || n.plan" class="soft aside">
          {{ n.aside }}
          <router-link v-if="n.plan" :to="{ name: 'guide', params: { repository, plan: n.plan.id }, query: { passage: n.plan.passage } }"
            >open in the guide</router-link
          >
        </p>
        <p v-if="n.lead && (writer || n.lead.state !== 'open')" class="lead">
          <template v-if="n.lead.state === 'kept' || n.lead.state === 'aside'">
            <span class="soft"
              >{{ n.lead.state === 'kept' ? 'kept on purpose' : 'set aside'
              }}<template v-if="n.lead.reason">: “{{ n.lead.reason }}”</template></span
            >
            <button v-if="writer" class="link" @click="mark(n, 'open')">bring back</button>
          </template>
          <template v-else-if="writer">
            <button class="link" @click="mark(n, 'kept')">keep on purpose</button>
            <button class="link" @click="aside = n">set aside</button>
          </template>
        </p>
      </article>
      <p v-if="!notes.length && !summary?.sentences.length" class="none soft">Nothing is noted beside these lines yet.</p>
      <p v-if="total > mostNotes" class="more soft">{{ count(total - mostNotes) }} further notes are not shown here; Leads lists them.</p>
    </div>
    <section v-if="story" class="line" aria-label="Where the line at hand comes from">
      <LineNote
        v-if="story"
        :repository="repository"
        :story="story"
        :bulk="bulk"
        :wide="wide"
        :skip-bulk="skipBulk"
        :listed="listed"
        :unignored="unignored"
        @go="(line) => emit('go', line)"
        @behind="(c) => emit('behind', c)"
        @forward="emit('forward')"
        @bulk="(on) => emit('bulk', on)"
      />
    </section>
    <SetAside
      v-if="aside"
      :model-value="true"
      :leads="1"
      :title="aside.text"
      @update:model-value="aside = null"
      @aside="(why) => mark(aside!, 'aside', why)"
    />
  </div>
</template>

<style scoped>
.whole {
  display: flex;
  flex-direction: column;
  height: 100%;
}
.margin {
  position: relative;
  overflow: hidden;
  flex: 1;
  min-height: 0;
}
.line {
  flex: none;
  padding: 8px 18px 10px 20px;
  border-top: 2px solid var(--ochre);
  background: var(--sheet);
}
.said,
.note {
  position: absolute;
  left: 20px;
  right: 18px;
  top: 0;
}
.said {
  padding-top: 12px;
}
.said :deep(li) {
  font-family: var(--serif);
  font-size: 14.5px;
  line-height: 1.45;
}
.by {
  font-size: 12px;
  margin-top: 4px;
}
.note {
  padding: 1px 0 1px 11px;
  border-left: 2px solid var(--rule);
  background: var(--sheet);
}
.note.planned {
  border-left: 3px solid var(--plum);
}
.note.tagged {
  border-left-color: var(--ochre);
}
.note.written {
  border-left-color: var(--ink);
}
.note.starts {
  border-left-color: var(--teal);
}
.note.here {
  background: var(--hover);
}
header {
  display: flex;
  justify-content: space-between;
  gap: 8px;
}
header button {
  border: 0;
  background: none;
  padding: 0;
  font: 600 12.5px/1.5 var(--sans);
  text-align: left;
  cursor: pointer;
}
header button:hover {
  text-decoration: underline;
}
.planned header button {
  color: var(--plum);
}
.tagged header button {
  color: var(--ochre-text);
}
.starts header button {
  color: var(--teal);
}
.note :deep(.prose) {
  font-size: 14.5px;
  line-height: 1.4;
  margin: 2px 0;
}
.caution {
  padding-left: 8px;
  border-left: 2px solid var(--plum);
}
.aside {
  font-size: 12px;
}
.lead {
  display: flex;
  flex-wrap: wrap;
  gap: 2px 14px;
  font-size: 12.5px;
}
.none {
  padding: 14px 20px;
}
.more {
  position: absolute;
  bottom: 0;
  left: 0;
  right: 0;
  padding: 6px 20px;
  background: var(--sheet);
  border-top: 1px solid var(--rule-soft);
}
@media (max-width: 700px) {
  /* a list of its own: no lines stand beside it */
  .margin .note,
  .margin .said {
    position: static;
    transform: none !important;
    margin-bottom: 14px;
  }
  .margin {
    overflow: auto;
  }
}
</style>
