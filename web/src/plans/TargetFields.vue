<script setup lang="ts">
import { computed, ref } from 'vue'
import type { Range } from '@/words/range'
import StretchFields from './StretchFields.vue'
import { joinPassages, kindWords, setPassage, splitPassage } from './model'
import type { Op, Passage, Plan, Stretch, Target } from './use'

/** What a passage has one read, to be changed by hand. */
const props = defineProps<{ plan: Plan; passage: Passage; selected: Range | null }>()
const emit = defineEmits<{ apply: [ops: Op[]] }>()
const t = computed(() => props.passage.target)
const put = (to: Partial<Target>) => emit('apply', [setPassage(props.passage, 'target', { ...t.value, ...to })])
const own = computed<Stretch>(() => ({ path: t.value.path, start: t.value.start, end: t.value.end }))
const value = (e: Event) => (e.target as HTMLInputElement).value
/** Other kinds that the same place can be read as. */
const kinds = computed(() => {
  const k = t.value.kind
  return k === 'file' || k === 'lines' || k === 'symbol' || k === 'pair' || k === 'planned' || k === 'way'
    ? (['file', 'lines', 'pair', 'way', 'planned'] as const)
    : []
})
function become(kind: Target['kind']) {
  const { path, start, end, commit } = t.value
  const from = path
    ? { path, start, end }
    : { path: t.value.hops?.[0]?.path ?? t.value.pattern ?? '', start: t.value.hops?.[0]?.start, end: t.value.hops?.[0]?.end }
  const bare = { kind, commit, path: '' }
  const to: Partial<Record<Target['kind'], Target>> = {
    file: { ...bare, path: from.path },
    lines: { ...bare, path: from.path, start: from.start || 1, end: from.end || 1 },
    pair: { ...bare, ...from, beside: { path: from.path } },
    way: { ...bare, hops: [{ path: from.path, start: from.start, end: from.end }] },
    planned: { ...bare, path: from.path.replace(/(\.[^./]*)?$/, '_new$1'), pattern: from.path },
  }
  if (to[kind]) emit('apply', [setPassage(props.passage, 'target', to[kind])])
}
const splitAt = ref<number | null>(null)
const follow = computed(() => {
  const c = props.plan.in_order.find((x) => x.id === props.passage.chapter)
  return c?.passages[c.passages.findIndex((p) => p.id === props.passage.id) + 1]
})
const joining = computed(() => (follow.value ? joinPassages(props.passage, follow.value) : []))
const hops = computed(() => t.value.hops ?? [])
const setHop = (i: number, to: Stretch | null) =>
  put({ hops: to ? hops.value.map((h, k) => (k === i ? to : h)) : hops.value.filter((_, k) => k !== i) })
function moveHop(i: number) {
  const next = [...hops.value]
  next.splice(i - 1, 0, ...next.splice(i, 1))
  put({ hops: next })
}
const trial = computed(() => t.value.try ?? { commands: '' })
const setTrial = (part: string, to: unknown) => put({ try: { ...trial.value, [part]: to } })
const texts = [
  { part: 'folder', title: 'in the folder', rows: 1 },
  { part: 'platform', title: 'works on', rows: 1 },
  { part: 'set_up', title: 'what must be there before', rows: 1 },
  { part: 'commands', title: 'commands, a line each', rows: 3 },
  { part: 'inputs', title: 'what to give', rows: 1 },
  { part: 'outcome', title: 'what is expected', rows: 2 },
] as const
</script>

<template>
  <div class="target">
    <p>
      {{ kindWords[t.kind] }}
      <template v-for="k in kinds" :key="k"
        ><button v-if="k !== t.kind" class="link" @click="become(k)">make it {{ kindWords[k] }}</button></template
      >
    </p>
    <template v-if="t.kind === 'lines' || t.kind === 'file' || t.kind === 'pair'">
      <StretchFields :stretch="own" name="own" @set="(x) => put({ path: x.path, start: x.start, end: x.end })" />
      <StretchFields v-if="t.beside" :stretch="t.beside" name="beside" @set="(x) => put({ beside: x })" />
      <label v-if="t.kind === 'file'" class="soft"
        >show its
        <input
          type="number"
          min="0"
          max="5000"
          name="skim"
          :value="t.skim || ''"
          placeholder="all"
          @change="(e) => put({ skim: Number(value(e)) || undefined })"
        />
        most telling lines at first</label
      >
      <p v-if="t.kind === 'lines'" class="row">
        <label class="soft"
          >split before line <input v-model.number="splitAt" type="number" name="split-at" :min="(t.start ?? 0) + 1" :max="t.end"
        /></label>
        <button class="link" :disabled="!splitAt" @click="(emit('apply', splitPassage(plan, passage, splitAt ?? 0)), (splitAt = null))">
          make two passages of it
        </button>
        <button v-if="joining.length" class="link" @click="emit('apply', joining)">join with “{{ follow!.title }}”</button>
      </p>
    </template>
    <template v-else-if="t.kind === 'planned'">
      <label class="soft wide"
        >the file that is not there yet <input :value="t.path" name="planned" class="mono" @change="(e) => put({ path: value(e) })"
      /></label>
      <label class="soft wide"
        >to go by <input :value="t.pattern" name="pattern" class="mono" @change="(e) => put({ pattern: value(e) || undefined })"
      /></label>
    </template>
    <template v-else-if="t.kind === 'way'">
      <div v-for="(h, i) in hops" :key="i" class="row">
        <span class="number">{{ i + 1 }}</span>
        <StretchFields :stretch="h" says :name="`hop-${i}`" @set="(x) => setHop(i, x)" />
        <button class="link" :disabled="i === 0" @click="moveHop(i)">up</button>
        <button class="link" :disabled="hops.length === 1" @click="setHop(i, null)">remove</button>
      </div>
      <p class="soft">
        <button class="link" @click="put({ hops: [...hops, { path: hops.at(-1)?.path ?? '' }] })">one hop more</button>; from anywhere,
        lines are added to a way with <kbd>a</kbd>
      </p>
    </template>
    <template v-else-if="t.kind === 'try'">
      <label v-for="x in texts" :key="x.part" class="soft wide">
        {{ x.title }}
        <textarea
          :rows="x.rows"
          :name="`try-${x.part}`"
          :class="{ mono: x.part === 'commands' || x.part === 'folder' }"
          :value="trial[x.part] ?? ''"
          @change="(e) => setTrial(x.part, value(e))"
        />
      </label>
      <p class="soft">lines to pause at</p>
      <div v-for="(h, i) in trial.pauses ?? []" :key="i" class="row">
        <StretchFields
          :stretch="h"
          says
          :name="`pause-${i}`"
          @set="
            (x) =>
              setTrial(
                'pauses',
                (trial.pauses ?? []).map((p, k) => (k === i ? x : p)),
              )
          "
        />
        <button
          class="link"
          @click="
            setTrial(
              'pauses',
              (trial.pauses ?? []).filter((_, k) => k !== i),
            )
          "
        >
          remove
        </button>
      </div>
      <button class="link" @click="setTrial('pauses', [...(trial.pauses ?? []), { path: 'README.md', start: 1, end: 1 }])">
        add lines
      </button>
    </template>
  </div>
</template>

<style scoped>
.target {
  display: grid;
  gap: 6px;
}
.target > p .link,
.row .link {
  margin-left: 10px;
}
.row {
  display: flex;
  gap: 8px;
  align-items: center;
}
.number {
  color: var(--plum);
  font: 600 13px var(--serif);
}
.wide {
  display: grid;
  grid-template-columns: 170px minmax(0, 1fr);
  gap: 8px;
  align-items: center;
}
input,
textarea {
  font: inherit;
  color: var(--ink);
  background: var(--sheet);
  border: 1px solid var(--rule);
  border-radius: var(--radius);
  padding: 2px 8px;
}
.mono {
  font: 12.5px/1.5 var(--mono);
}
input[type='number'] {
  width: 70px;
}
textarea {
  resize: vertical;
}
</style>
