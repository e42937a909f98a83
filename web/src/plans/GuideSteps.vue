<script setup lang="ts">
import { computed } from 'vue'
import { numeral } from './model'
import { initials, type ReaderPlace } from './reading'
import type { Plan } from './use'

/** The chapters and passages of a plan, with where one is and where others are. */
const props = defineProps<{ plan: Plan; at?: string; places: readonly ReaderPlace[]; until?: string }>()
const done = computed(() => new Set(props.plan.done_ids))
const skipped = computed(() => new Map(props.plan.skipped.map((s) => [s.passage, s.reason])))
const who = (passage: string) => props.places.filter((p) => p.passage === passage)
const state = (id: string) =>
  done.value.has(id)
    ? 'done'
    : skipped.value.has(id)
      ? `left out${skipped.value.get(id) ? `: ${skipped.value.get(id)}` : ''}`
      : id === props.at
        ? 'you are here'
        : 'not done'
</script>

<template>
  <ol v-for="(c, i) in plan.in_order" :key="c.id" class="chapter">
    <h2 :title="c.intent">
      <span class="numeral">{{ numeral(i + 1) }}</span>{{ c.title || 'Without a title' }}
    </h2>
    <li v-for="p in c.passages" :key="p.id" :class="{ until: p.id === until }">
      <router-link
        :to="{ query: { ...$route.query, passage: p.id, from: undefined } }"
        class="plain step"
        :class="{ here: p.id === at, skipped: skipped.has(p.id) }"
        :aria-current="p.id === at ? 'step' : undefined"
        :data-first="p.id === at || undefined"
      >
        <span class="box" :class="{ done: done.has(p.id), here: p.id === at, skipped: skipped.has(p.id) }" :title="state(p.id)" />
        <span class="title">{{ p.title }}<span v-if="p.optional" class="soft"> · if you like</span></span>
        <span class="who"
          ><b v-for="x in who(p.id).slice(0, 2)" :key="x.person" :title="`${x.name} is here`">{{ initials(x.name) }}</b
          ><b
            v-if="who(p.id).length > 2"
            :title="
              who(p.id)
                .map((x) => x.name)
                .join(', ')
            "
            >+{{ who(p.id).length - 2 }}</b
          ></span
        >
        <span class="soft">{{ p.minutes }} min</span>
      </router-link>
      <p v-if="p.id === until" class="enough">enough for today</p>
    </li>
    <p v-if="!c.passages.length" class="soft empty">no passages yet</p>
  </ol>
</template>

<style scoped>
.chapter {
  list-style: none;
  padding: 0;
  margin: 16px 0 0;
}
.chapter h2 {
  font-size: 15.5px;
  display: flex;
}
.numeral {
  color: var(--plum);
  width: 26px;
  flex: none;
}
.step {
  display: grid;
  grid-template-columns: 20px minmax(0, 1fr) auto auto;
  gap: 6px;
  align-items: baseline;
  padding: 3px 0 3px 26px;
  color: var(--ink-soft);
  font-size: 13px;
}
.step:hover {
  text-decoration: none;
  background: var(--hover);
}
.step.here {
  color: var(--ink);
  font-weight: 600;
}
.step.skipped .title {
  text-decoration: line-through;
  text-decoration-color: var(--rule);
}
.title {
  overflow-wrap: anywhere;
}
.step .soft {
  font-weight: 400;
  font-size: 12px;
}
.who {
  display: flex;
}
.who b {
  padding: 0 5px;
  border: 1px solid var(--ink);
  border-radius: 9px;
  background: var(--sheet);
  color: var(--ink);
  font: 600 10px/15px var(--sans);
}
.who b + b {
  margin-left: -5px;
}
.box {
  width: 10px;
  height: 10px;
  border: 1.5px solid var(--ink-soft);
  align-self: center;
}
.box.done {
  background: var(--plum);
  border-color: var(--plum);
}
.box.here:not(.done) {
  border-color: var(--plum);
  background: linear-gradient(90deg, var(--plum) 50%, transparent 50%);
}
.box.skipped {
  border-style: dotted;
}
.enough {
  margin: 2px 0 4px 26px;
  padding-top: 2px;
  border-top: 1px dashed var(--plum);
  color: var(--plum);
  font-size: 11.5px;
}
.empty {
  padding-left: 26px;
}
</style>
