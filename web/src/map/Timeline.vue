<script setup lang="ts">
import { computed, ref } from 'vue'
import type { Schemas } from '@/api/client'
import { date, many } from '@/words/format'

/** The history as bars, with the span that is looked at; both ends can be drawn
 * by hand or moved by keys. */
const props = defineProps<{ timeline: Schemas['Timeline']; from: string; to: string; pinAt: string | null }>()
const emit = defineEmits<{ span: [from: string, to: string] }>()

const width = 1000
const height = 30
const n = computed(() => props.timeline.counts.length)
const most = computed(() => Math.max(1, ...props.timeline.counts))
const at = (day: string) => Date.parse(day) / 1000
const place = (unix: number) => Math.max(0, Math.min(1, (unix - props.timeline.from) / (props.timeline.to - props.timeline.from)))
const drawn = ref<[number, number] | null>(null) // shares of the width, while drawing
const span = computed<[number, number]>(() => drawn.value ?? [props.from ? place(at(props.from)) : 0, props.to ? place(at(props.to)) : 1])
const whole = computed(() => !props.from && !props.to && !drawn.value)
const dayOf = (share: number) =>
  new Date((props.timeline.from + share * (props.timeline.to - props.timeline.from)) * 1000).toISOString().slice(0, 10)
const dayAfter = (day: string) => new Date(Date.parse(day) + 86_400_000).toISOString().slice(0, 10)

function take([a, b]: [number, number]) {
  emit('span', a <= 0.002 ? '' : dayOf(a), b >= 0.998 ? '' : dayAfter(dayOf(b)))
}
const field = ref<SVGSVGElement | null>(null)
function draw(e: PointerEvent) {
  if (e.button) return
  const box = field.value!.getBoundingClientRect()
  const share = (x: number) => Math.max(0, Math.min(1, (x - box.left) / box.width))
  const start = share(e.clientX)
  field.value!.setPointerCapture(e.pointerId)
  const move = (m: PointerEvent) => {
    const now = share(m.clientX)
    drawn.value = [Math.min(start, now), Math.max(start, now)]
  }
  const done = () => {
    field.value?.removeEventListener('pointermove', move)
    const got = drawn.value
    drawn.value = null
    if (got && got[1] - got[0] > 0.004) take(got)
  }
  field.value!.addEventListener('pointermove', move)
  field.value!.addEventListener('pointerup', done, { once: true })
  field.value!.addEventListener('pointercancel', done, { once: true })
}
/** Moves one end by parts of the timeline. */
function nudge(end: 0 | 1, by: number) {
  const next: [number, number] = [...span.value]
  next[end] = Math.max(0, Math.min(1, next[end] + by / n.value))
  if (next[1] - next[0] >= 0.5 / n.value) take(next)
}
function keys(end: 0 | 1, e: KeyboardEvent) {
  const by = { ArrowLeft: -1, ArrowRight: 1, PageDown: -10, PageUp: 10 }[e.key]
  if (by === undefined) return
  e.preventDefault()
  e.stopPropagation()
  nudge(end, by)
}
const presets = [
  { title: 'quarter', days: 91 },
  { title: 'half-year', days: 183 },
  { title: 'year', days: 365 },
]
const end = computed(() => (props.pinAt ? Date.parse(props.pinAt) : props.timeline.to * 1000))
const since = (days: number) => new Date(end.value - days * 86_400_000).toISOString().slice(0, 10)
const offered = computed(() => presets.filter((p) => end.value - p.days * 86_400_000 > props.timeline.from * 1000))
const shown = computed(() => ({
  from: date(props.from || new Date(props.timeline.from * 1000).toISOString()),
  to: props.to ? date(new Date(Date.parse(props.to) - 1000).toISOString()) : 'the pin',
}))
const commits = computed(() => {
  let sum = 0
  props.timeline.counts.forEach((c, i) => {
    const middle = (i + 0.5) / n.value
    if (middle >= span.value[0] && middle <= span.value[1]) sum += c
  })
  return sum
})
</script>

<template>
  <div class="timeline">
    <p class="soft">
      <slot />
      <span v-if="!whole" class="dates">{{ shown.from }} to {{ shown.to }}</span>
      <span v-else-if="offered.length" class="dates">last</span>
      <span class="presets">
        <button v-if="!whole" class="link" @click="emit('span', '', '')">all</button>
        <button
          v-for="p in whole ? offered : []"
          :key="p.days"
          class="link"
          :title="`The last ${p.title} before the pin`"
          @click="emit('span', since(p.days), '')"
        >
          {{ p.title }}
        </button>
      </span>
    </p>
    <svg
      ref="field"
      :viewBox="`0 0 ${width} ${height}`"
      preserveAspectRatio="none"
      role="group"
      :aria-label="`Commits over time, ${many(commits, 'commit')} about in the span`"
      @pointerdown="draw"
    >
      <rect
        v-for="(c, i) in timeline.counts"
        :key="i"
        :x="(i / n) * width + 1"
        :width="Math.max(1, width / n - 2)"
        :y="height - (c ? Math.max(2, (c / most) * (height - 3)) : 0)"
        :height="c ? Math.max(2, (c / most) * (height - 3)) : 0"
        :class="{ in: (i + 0.5) / n >= span[0] && (i + 0.5) / n <= span[1] }"
      />
      <rect
        v-if="!whole"
        class="frame"
        :x="span[0] * width"
        :width="(span[1] - span[0]) * width"
        y="0.5"
        :height="height - 1"
        vector-effect="non-scaling-stroke"
      />
    </svg>
    <span
      v-for="e in [0, 1] as const"
      :key="e"
      class="end"
      :style="{ left: `${span[e] * 100}%` }"
      role="slider"
      tabindex="0"
      :aria-label="e ? 'End of the span' : 'Start of the span'"
      :aria-valuemin="0"
      :aria-valuemax="n"
      :aria-valuenow="Math.round(span[e] * n)"
      :aria-valuetext="e ? shown.to : shown.from"
      @keydown="keys(e, $event)"
    />
  </div>
</template>

<style scoped>
.timeline {
  position: relative;
  min-width: 0;
}
svg {
  display: block;
  width: 100%;
  height: 26px;
  cursor: crosshair;
  touch-action: none;
  border-bottom: 1px solid var(--rule);
}
rect {
  fill: var(--ochre-pale);
}
rect.in {
  fill: var(--ochre);
}
rect.frame {
  fill: none;
  stroke: var(--ink);
}
.end {
  position: absolute;
  bottom: 0;
  width: 7px;
  height: 26px;
  margin-left: -3.5px;
  cursor: ew-resize;
  pointer-events: none;
}
p {
  display: flex;
  flex-wrap: wrap;
  align-items: baseline;
  gap: 0 10px;
  font-size: 11.5px;
  white-space: nowrap;
}
.dates {
  flex: 1;
  text-align: right;
}
.presets {
  display: flex;
  gap: 6px;
}
.presets .link {
  color: var(--ochre-text);
}
</style>
