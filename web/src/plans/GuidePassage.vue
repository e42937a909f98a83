<script setup lang="ts">
import { computed, ref, watch } from 'vue'
import { NoteText } from '@/notes'
import { useRepository } from '@/frame/repository'
import TargetView from '@/read/TargetView.vue'
import { short } from '@/words/format'
import { isElsewhere } from './health'
import { leads } from './leads'
import { numeral, steps, where, type Step } from './model'
import Prose from './Prose.vue'
import SinceThen from './SinceThen.vue'
import type { Plan } from './use'

/** A passage: its text, what it has one read, and what to know before. */
const props = defineProps<{ plan: Plan; at: Step; html?: string }>()
const repository = useRepository()
const all = computed(() => steps(props.plan))
const passage = computed(() => props.at.passage)
const target = computed(() => passage.value.target)
const chapter = computed(() => props.plan.in_order[props.at.chapter])
const first = computed(() => chapter.value?.passages[0]?.id === passage.value.id)
const needs = computed(() => {
  const ideas = new Map(props.plan.ideas.map((i) => [i.id, i]))
  const numbers = new Map(all.value.map((s) => [s.passage.id, s]))
  return (passage.value.needs ?? []).flatMap((id) => {
    const idea = ideas.get(id)
    const step = numbers.get(idea?.by ?? id)
    if (!step || step.passage.id === passage.value.id) return []
    return [{ id, title: idea?.name ?? step.passage.title, number: step.number, passage: step.passage.id }]
  })
})
const link = computed(() => leads(target.value, repository.value.id, repository.value.pin))
const shown = ref(new Set<number>())
const answers = ref<string[]>([])
watch(
  () => passage.value.id,
  () => {
    shown.value = new Set()
    answers.value = []
  },
)
</script>

<template>
  <div class="passage">
    <div class="left">
      <div class="text">
        <p class="place">
          {{ numeral(at.chapter + 1) }} · passage {{ at.number }} of {{ all.length }} · {{ passage.minutes }} min{{
            passage.optional ? ' · if you like' : ''
          }}
        </p>
        <h1>{{ passage.title }}</h1>
        <p v-if="first && chapter?.intent" class="soft intent">{{ chapter.intent }}</p>
        <NoteText v-if="html" :html="html" class="prose" />
        <Prose v-else-if="passage.purpose" :text="passage.purpose" />
        <p v-if="passage.caution" class="caution" role="note"><b>Careful:</b> {{ passage.caution }}</p>
      </div>
      <div class="rest">
        <div class="under">
          <p v-if="html && passage.purpose" class="soft">you will know: <Prose :text="passage.purpose" inline class="ink" /></p>
          <p v-if="needs.length" class="soft">
            you met before:
            <template v-for="(n, i) in needs" :key="n.id"
              >{{ i ? ', ' : '' }}<span class="ink">{{ n.title }}</span
              >{{ ' '
              }}<router-link :to="{ query: { ...$route.query, passage: n.passage, from: passage.id } }"
                >in {{ n.number }}</router-link
              ></template
            >
          </p>
          <p v-if="passage.why" class="soft">
            why here: <span class="ink">{{ passage.why }}</span>
          </p>
        </div>
        <ol v-if="passage.questions?.length" class="questions">
          <li v-for="(q, i) in passage.questions" :key="i">
            <p class="ask">{{ q.ask }}</p>
            <div class="own">
              <a-input
                v-model:value="answers[i]"
                :name="`answer-${i}`"
                placeholder="your answer, for yourself"
                :aria-label="`Your answer to: ${q.ask}`"
              />
              <button v-if="q.answer && !shown.has(i)" class="link" @click="shown = new Set([...shown, i])">show the answer</button>
            </div>
            <p v-if="shown.has(i)" class="answer">{{ q.answer }}</p>
          </li>
        </ol>
        <slot />
      </div>
    </div>
    <div class="sheet" :style="{ '--lines': Math.min(24, Math.max(8, (target.end ?? 0) - (target.start ?? 0) + 1)) }">
      <div class="bar">
        <span class="mono">{{ where(target) }}</span>
        <span class="soft">{{ target.commit === repository.pin ? 'at the pin' : `at commit ${short(target.commit)}` }}</span>
        <span class="room" />
        <router-link v-if="link" :to="link">open in Read</router-link>
      </div>
      <SinceThen v-if="isElsewhere(target, repository.pin)" :plan="plan" :passage="passage.id" />
      <TargetView :key="passage.id" class="code" :target="target" reading />
    </div>
  </div>
</template>

<style scoped>
/* text and code face each other like pages */
.passage {
  flex: 1;
  min-height: 0;
  display: grid;
  grid-template-columns: minmax(300px, 34%) minmax(0, 1fr);
}
.left {
  min-height: 0;
  overflow: auto;
  padding: 14px 22px 14px var(--gap);
}
.place {
  color: var(--plum);
  font-weight: 600;
  font-size: 12.5px;
}
.text h1 {
  margin: 2px 0 6px;
}
.intent {
  margin-bottom: 4px;
}
.caution {
  margin: 6px 0;
  padding: 5px 10px;
  border-left: 3px solid var(--ink);
  background: var(--hover);
}
.sheet {
  min-height: 0;
  overflow: hidden;
  border-left: 1px solid var(--rule);
  display: flex;
  flex-direction: column;
  background: var(--paper);
}
.bar {
  flex: none;
  display: flex;
  gap: 16px;
  align-items: baseline;
  padding: 6px 14px;
  border-bottom: 1px solid var(--rule);
  background: var(--sheet);
}
.bar .mono {
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
  font-weight: 600;
  font-size: 12.5px;
}
.bar .soft,
.bar a {
  white-space: nowrap;
}
.room {
  flex: 1;
}
.code {
  flex: 1;
  min-height: 0;
}
.under {
  flex: none;
  display: grid;
  gap: 1px;
  padding-top: 8px;
  font-size: 13px;
}
.ink {
  color: var(--ink);
}
.questions {
  flex: none;
  list-style: none;
  margin: 8px 0 0;
  padding: 8px 0 0;
  border-top: 1px solid var(--rule);
}
.ask {
  font: 15.5px/1.4 var(--serif);
}
.own {
  display: flex;
  gap: 14px;
  align-items: center;
  margin: 3px 0 6px;
  max-width: 640px;
}
.own button {
  flex: none;
}
.answer {
  margin-bottom: 8px;
  padding-left: 10px;
  border-left: 2px solid var(--plum);
}
@media (max-width: 700px) {
  /* one column: passage, code, then the rest */
  .passage {
    display: flex;
    flex-direction: column;
    overflow: auto;
  }
  .left {
    display: contents;
  }
  .left > .text {
    padding: 12px;
  }
  .sheet {
    order: 1;
    flex: none;
    height: calc(var(--lines) * 21px + 50px);
    max-height: 78dvh;
    border: solid var(--rule);
    border-width: 1px 0;
  }
  .rest {
    order: 2;
    padding: 12px;
  }
  .bar {
    gap: 10px;
    padding: 6px 12px;
  }
}
</style>
