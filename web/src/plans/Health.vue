<script setup lang="ts">
import { computed, ref, watch } from 'vue'
import { words, type Schemas } from '@/api/client'
import { useRepository } from '@/frame/repository'
import { many, short } from '@/words/format'
import { alike, difference, isElsewhere, reasons, says, useHealth } from './health'
import { lines, setPassage, steps } from './model'
import type { Op, Plan } from './use'

type Found = Schemas['Report']

/** What became of a draft's passages at the pin: a count as a tab; the list, to be
 * brought along in one action. */
const props = defineProps<{ repository: number; plan: Plan; acknowledged: boolean; open: boolean }>()
const emit = defineEmits<{ open: []; choose: [passage: string]; apply: [ops: Op[]] }>()
const here = useRepository()
const all = computed(() => steps(props.plan))
/** Passages that are read at another commit than the pin. */
const elsewhere = computed(() => all.value.filter((s) => isElsewhere(s.passage.target, here.value.pin)).length)
const { data: health, error } = useHealth(
  () => props.plan,
  'draft',
  () => props.open && props.acknowledged && elsewhere.value > 0,
)
const of = computed(() => new Map(all.value.map((s) => [s.passage.id, s])))
const order = ['gone', 'changed', 'moved', 'same']
const found = computed(() =>
  (health.value?.passages ?? [])
    .flatMap((h) => (of.value.has(h.passage) ? [{ ...h, step: of.value.get(h.passage)! }] : []))
    .sort((a, b) => order.indexOf(a.what) - order.indexOf(b.what)),
)
/** What stays at its commit, although it could be brought along. */
const stays = ref(new Set<string>())
watch(
  () => props.plan.id,
  () => (stays.value = new Set()),
)
const coming = computed(() => found.value.filter((h) => h.what !== 'gone' && !stays.value.has(h.passage)))
function toggle(id: string, on: boolean) {
  const next = new Set(stays.value)
  if (on) next.delete(id)
  else next.add(id)
  stays.value = next
}
const along = (h: Found & { step: (typeof all.value)[number] }): Op[] => {
  const p = h.step.passage
  return [setPassage(p, 'target', h.target), ...(h.drafted ? [setPassage(p, 'drafted', h.drafted)] : [])]
}
const pinName = computed(() => here.value.pin_ref || short(here.value.pin))
const counts = computed(() => {
  const h = health.value
  return h ? order.map((k) => ({ k, n: h[k as 'gone'] })).filter((x) => x.n) : []
})
</script>

<template>
  <button :class="{ on: open }" @click="emit('open')">
    At the pin <b v-if="elsewhere">{{ elsewhere }}</b>
  </button>
  <Teleport v-if="open" defer to=".detail">
    <div class="health" aria-label="At the pin">
      <p v-if="error" class="fault" role="alert">{{ words(error) }}</p>
      <p v-if="!elsewhere" class="prose">
        All of this plan is read at the pin, {{ pinName }}. When the repository is pinned at another commit, each passage is looked for
        there: as it was, moved, changed or gone.
      </p>
      <template v-else-if="!health"
        ><p class="soft" role="status">Looking for each passage at {{ pinName }} …</p></template
      >
      <template v-else>
        <p class="prose">
          {{ many(elsewhere, 'passage') }} of {{ all.length }} {{ elsewhere === 1 ? 'is' : 'are' }} read at an older pin. At {{ pinName }}:
          <span v-for="c in counts" :key="c.k" class="count" :class="c.k">{{ c.n }} {{ says[c.k] }}</span>
        </p>
        <p v-if="health.left" class="soft">
          {{ many(health.left, 'passage') }} more {{ health.left === 1 ? 'is' : 'are' }} being looked for …
        </p>
        <p v-if="!coming.length && !health.left" class="soft act">
          {{
            stays.size
              ? 'None of them is ticked, so none is brought along.'
              : 'None can be brought along: what they lead to is gone. Each says below where it may be.'
          }}
        </p>
        <p v-else class="act">
          <a-button type="primary" :disabled="!coming.length" @click="emit('apply', coming.flatMap(along))"
            >Bring {{ many(coming.length, 'passage') }} to {{ pinName }}</a-button
          >
          <span class="soft">one step, taken back by Undo; editions stay as they were published</span>
        </p>
        <ul>
          <li v-for="h in found" :key="h.passage" :class="h.what">
            <input
              v-if="h.what !== 'gone'"
              type="checkbox"
              :checked="!stays.has(h.passage)"
              :aria-label="`bring ${h.step.passage.title} along`"
              @change="(e) => toggle(h.passage, (e.target as HTMLInputElement).checked)"
            />
            <span v-else aria-hidden="true">×</span>
            <div>
              <p class="head">
                <button class="link title" @click="emit('choose', h.passage)">{{ h.step.number }} · {{ h.step.passage.title }}</button>
                <b class="what">{{ says[h.what] }}</b>
              </p>
              <p v-for="(p, i) in h.places" :key="i" class="soft place">
                <span class="mono">{{ lines(p.was) }}</span>
                <template v-if="p.what === 'gone'"
                  >: {{ reasons[p.reason] ?? 'it is not there any more' }}
                  <router-link v-if="p.reason_commit" :to="{ name: 'commit', params: { repository, commit: p.reason_commit } }"
                    >in {{ short(p.reason_commit) }}</router-link
                  >
                </template>
                <template v-else-if="lines(p.now) !== lines(p.was)">
                  → <span class="mono">{{ lines(p.now) }}</span></template
                >
                <template v-if="p.what === 'changed'"
                  >, {{ alike(p) }} <router-link :to="difference(repository, p)">the difference</router-link></template
                >
              </p>
              <p v-if="h.what === 'gone'" class="acts">
                <button
                  v-for="(c, k) in h.places.length === 1 ? h.places[0]!.candidates.slice(0, 3) : []"
                  :key="k"
                  class="link"
                  :title="`${Math.round(100 * c.like)} % alike`"
                  @click="
                    emit('apply', [
                      setPassage(h.step.passage, 'target', {
                        ...h.step.passage.target,
                        path: c.path,
                        start: c.start,
                        end: c.end,
                        commit: health.commit,
                      }),
                    ])
                  "
                >
                  it is {{ lines(c) }} now
                </button>
                <button class="link" @click="emit('apply', [{ kind: 'remove-passage', id: h.passage }])">take it out</button>
                <span class="soft">or leave it at {{ short(h.step.passage.target.commit) }}, where it is still read</span>
              </p>
            </div>
          </li>
        </ul>
      </template>
    </div>
  </Teleport>
</template>

<style scoped>
.health {
  flex: 1;
  min-height: 0;
  overflow: auto;
  padding: 14px 20px 24px;
}
.act {
  display: flex;
  gap: 12px;
  align-items: center;
  margin: 6px 0 12px;
  font-size: 12.5px;
}
.count::after {
  content: ', ';
}
.count:last-child::after {
  content: '.';
}
ul {
  list-style: none;
  margin: 0;
  padding: 0;
  border-top: 1px solid var(--rule);
}
li {
  display: grid;
  grid-template-columns: 16px minmax(0, 1fr);
  gap: 8px;
  padding: 6px 0;
  border-bottom: 1px solid var(--rule-soft);
  font: 12.5px/1.5 var(--sans);
}
li p {
  margin: 0;
}
input {
  align-self: start;
  width: 13px;
  height: 13px;
  margin: 3px 0 0;
  accent-color: var(--plum);
}
.head {
  display: flex;
  gap: 12px;
  align-items: baseline;
}
.title {
  text-align: left;
}
.what {
  flex: none;
  padding: 0 6px;
  border: 1px solid var(--rule);
  border-radius: var(--radius);
  font: 11.5px/16px var(--sans);
}
.changed .what {
  border-color: var(--ochre);
  color: var(--ochre-text);
}
.gone .what {
  border-color: var(--fault);
  color: var(--fault);
}
.place .mono {
  overflow-wrap: anywhere;
}
.acts {
  display: flex;
  flex-wrap: wrap;
  gap: 2px 14px;
}
</style>
