<script setup lang="ts">
import { computed } from 'vue'
import { aggregates, details, scales, type State } from './address'
import Mark from './Mark.vue'
import type { Picture } from './picture'
import type { TiesByRow } from './ties'
import { many } from '@/words/format'
import { isOn } from './filter'

const props = defineProps<{
  state: State
  picture: Picture
  ties: TiesByRow | null
  selectedName: string
  tieFault: string
  readout: string
  plan: string // at hand, whose coverage is shown; empty: none
}>()
const emit = defineEmits<{ set: [change: Partial<State>] }>()
const next = <T extends string>(list: Record<T, unknown>, now: T) => {
  const keys = Object.keys(list) as T[]
  return keys[(keys.indexOf(now) + 1) % keys.length]!
}
const several = computed(() => props.picture.lines.some((l) => l.rows))
const aside = computed(() => props.picture.marks.aside.some((n) => n > 0))
const spanned = computed(() => props.picture.whole !== null)
/** What a folder shows where a sum would mean nothing. */
const apart = computed(() => {
  const r = props.picture.rightMeasure
  if (props.state.folders !== 'sum' || !r.wholeDoc) return ''
  return `; ${r.title}: ${r.whole === 'people' && isOn(props.state) && props.state.rest === 'gone' ? 'the most of any one file' : r.wholeDoc}`
})
</script>

<template>
  <footer class="legend">
    <p class="readout" aria-live="polite">{{ readout || '\u00a0' }}</p>
    <p class="keys">
      <span><Mark kind="start" /> a start</span>
      <span><Mark kind="test" /> test</span>
      <span><Mark kind="tagged" /> tagged</span>
      <span><Mark kind="written" /> notes</span>
      <span><Mark kind="plan" /> in a plan</span>
      <template v-if="plan">
        <span :title="`Leads that “${plan}” neither has one read nor sets aside`"><Mark kind="undecided" /> undecided</span>
        <span v-if="aside"><Mark kind="aside" /> set aside</span>
      </template>
      <span><Mark kind="read" /> read</span>
      <template v-if="state.order === 'tree'">
        <span><i class="folder" /> a folder</span>
        <span v-if="several"><i class="more" /> several small ones</span>
      </template>
      <template v-if="ties">
        <span :title="`${selectedName} imports from ${many(ties.leans, 'file')}`"
          ><Mark kind="leans" /> it leans on ({{ ties.leans }})</span
        >
        <span :title="`${many(ties.used, 'file')} import from ${selectedName}`"><Mark kind="used" /> leans on it ({{ ties.used }})</span>
        <span v-if="ties.circle" title="They lean on each other, directly or through others"
          ><Mark kind="circle" /> in a circle with it ({{ ties.circle }})</span
        >
      </template>
      <span v-else-if="tieFault" class="fault">{{ tieFault }}</span>
    </p>
    <p class="ways">
      <span>
        <template v-if="spanned"><i class="sample" /> in the span, of all; </template>
        <button class="link" title="Change the scale of both wings" @click="emit('set', { scale: next(scales, state.scale) })">
          {{ scales[state.scale] }}
        </button>
        scale, both sides
      </span>
      <template v-if="state.order === 'tree'">
        <span class="clip">
          a folder shows the
          <button class="link" title="Sum, maximum or median" @click="emit('set', { folders: next(aggregates, state.folders) })">
            {{ aggregates[state.folders] }}
          </button>
          of its files{{ apart }}
        </span>
        <span>
          shown:
          <button class="link" @click="emit('set', { detail: next(details, state.detail), open: [], shut: [] })">
            {{ { gist: 'the gist', more: 'more', all: 'every file' }[state.detail] }}
          </button>
        </span>
      </template>
      <span v-else>{{ many(picture.lines.length, 'file') }}</span>
      <button v-if="selectedName" class="link" @click="emit('set', { ties: !state.ties })">
        {{ state.ties ? 'hide' : 'show' }} connections
      </button>
    </p>
  </footer>
</template>

<style scoped>
.legend {
  border-top: 1px solid var(--rule);
  margin: 0 var(--gap);
  padding: 4px 0 6px;
  font-size: 11.5px;
  color: var(--ink-soft);
}
p {
  display: flex;
  gap: 4px 12px;
  white-space: nowrap;
  overflow: hidden;
}
.readout {
  color: var(--ink);
  font-size: 12px;
  display: block;
  white-space: normal;
  height: 36px;
}
.keys span {
  display: flex;
  align-items: center;
  gap: 4px;
}
.ways {
  justify-content: space-between;
}
.clip {
  overflow: hidden;
  text-overflow: ellipsis;
}
.folder {
  width: 22px;
  height: 9px;
  border-left: 2px solid var(--teal);
  background: linear-gradient(var(--teal), var(--teal)) center / 100% 2px no-repeat;
}
.more {
  width: 16px;
  height: 9px;
  background: var(--teal-pale);
}
.sample {
  display: inline-block;
  width: 22px;
  height: 9px;
  background: linear-gradient(90deg, var(--ochre) 60%, var(--ochre-pale) 60%);
}
</style>
