<script setup lang="ts">
import { computed } from 'vue'
import type { Chart, SpanInfo } from './chart'
import { filesOf, ordered } from './order'
import { happenedMeasures, isMeasures, isValues } from './measures'
import { count, many } from '@/words/format'

/** What stands out, as long as nothing is selected: a way in. */
const props = defineProps<{ chart: Chart; span: SpanInfo | null; end: number }>()
const emit = defineEmits<{ select: [row: number] }>()

/** Nothing has changed yet since it was put there. */
const oneCommit = computed(() => {
  if (!props.span) return false
  const changes = happenedMeasures.find((m) => m.key === 'changes')!.values(props.span, props.end)
  return !changes.some((n) => n > 1)
})
const found = computed(() => {
  const c = props.chart
  if (!props.span) return []
  const source = new Set(['source', 'schema', 'configuration', 'build', 'generated'].map((r) => c.info.roles.indexOf(r)))
  const keep = Uint8Array.from(c.info.role, (r) => Number(source.has(r)))
  const files = filesOf(c, keep)
  const lines = isValues(
    c,
    isMeasures.find((m) => m.key === 'lines')!,
  )
  const changes = happenedMeasures.find((m) => m.key === 'changes')!.values(props.span, props.end)
  const dependents = isValues(
    c,
    isMeasures.find((m) => m.key === 'dependents')!,
  )
  const first = (list: Int32Array) => Array.from(list.slice(0, 4))
  const told = (r: number) => `${many(lines[r]!, 'line')}, ${many(changes[r]!, 'change')}`
  const counted = files.filter((r) => lines[r]! >= 0)
  return [
    {
      title: 'Big but still',
      doc: 'much code that hardly ever changes',
      rows: oneCommit.value ? [] : first(ordered('still', counted, lines, changes)),
      told,
    },
    {
      title: 'Small but restless',
      doc: 'little code that keeps changing',
      rows: oneCommit.value ? [] : first(ordered('restless', counted, lines, changes)),
      told,
    },
    {
      title: 'Much leans on it',
      doc: 'files that most others import',
      rows: first(ordered('left', files, dependents, changes)).filter((r) => dependents[r]! > 1),
      told: (r: number) => `${count(dependents[r])} files import it`,
    },
  ].filter((l) => l.rows.length)
})
</script>

<template>
  <aside class="standing" aria-label="What stands out">
    <h2>How to read this</h2>
    <p class="prose">
      Each row is a file or folder. To its <b class="is">left</b>, how much there is of it; to its <b class="happened">right</b>, how much
      has happened to it. Where the two differ most, there is something to learn.
    </p>
    <p v-if="oneCommit" class="prose">
      No file has changed more than once in this history. What changes often, what changes together and who knows what cannot be seen in it.
    </p>
    <template v-for="l in found" :key="l.title">
      <h3>{{ l.title }}</h3>
      <p class="soft">{{ l.doc }}</p>
      <ul>
        <li v-for="r in l.rows" :key="r">
          <button class="link mono" :title="chart.path(r)" @click="emit('select', r)">{{ chart.path(r) }}</button>
          <span class="soft">{{ l.told(r) }}</span>
        </li>
      </ul>
    </template>
    <h3>By keys</h3>
    <p class="soft keys">
      <span><kbd>↑</kbd><kbd>↓</kbd> rows</span> <span><kbd>←</kbd><kbd>→</kbd> fold, unfold</span> <span><kbd>Enter</kbd> read</span>
      <span><kbd>a</kbd> add to the plan</span> <span><kbd>Esc</kbd> close the card</span>
    </p>
  </aside>
</template>

<style scoped>
.standing {
  border-left: 1px solid var(--rule);
  background: var(--sheet);
  padding: 14px 20px;
  overflow: auto;
  min-width: 0;
}
.prose {
  font-size: 15px;
}
.is {
  color: var(--teal);
}
.happened {
  color: var(--ochre-text);
}
h3 {
  margin-top: 16px;
}
ul {
  list-style: none;
  margin: 4px 0 0;
  padding: 0;
}
li {
  padding: 3px 0;
  border-top: 1px solid var(--rule-soft);
}
li .link {
  overflow-wrap: anywhere;
  text-align: left;
  display: block;
}
.keys {
  display: flex;
  flex-wrap: wrap;
  gap: 4px 14px;
}
kbd {
  margin-right: 3px;
}
</style>
