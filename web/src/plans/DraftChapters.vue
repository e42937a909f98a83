<script setup lang="ts">
import { computed } from 'vue'
import { useRepository } from '@/frame/repository'
import { leads } from './leads'
import { numeral, where } from './model'
import Prose from './Prose.vue'
import { becomes, changes, type Proposal } from './proposing'

/** The chapters and passages of a proposal, each with the reason for it. */
const props = defineProps<{ proposal: Proposal; chosen: ReadonlySet<string> }>()
const emit = defineEmits<{ toggle: [ids: readonly string[], on: boolean] }>()
const repository = useRepository()
const chapters = computed(() => {
  let n = 0
  return props.proposal.chapters
    .filter((c) => c.passages.length)
    .map((c) => {
      const offered = c.passages.filter(changes).map((x) => x.id)
      return { ...c, offered, taken: offered.filter((x) => props.chosen.has(x)).length, rows: c.passages.map((x) => ({ x, number: ++n })) }
    })
})
</script>

<template>
  <section v-for="(c, i) in chapters" :key="c.id" class="chapter">
    <h2>
      <input
        v-if="c.offered.length"
        type="checkbox"
        :checked="c.taken === c.offered.length"
        :indeterminate="c.taken > 0 && c.taken < c.offered.length"
        :aria-label="`all of ${c.title}`"
        @change="emit('toggle', c.offered, c.taken < c.offered.length)"
      />
      <span class="numeral">{{ numeral(i + 1) }}</span> {{ c.title }}
    </h2>
    <p v-if="c.intent" class="soft intent"><Prose inline :text="c.intent" /></p>
    <ol>
      <li v-for="{ x, number } in c.rows" :key="x.id" :class="[x.state, { off: changes(x) && !chosen.has(x.id) }]">
        <input
          v-if="changes(x)"
          :id="`take-${x.id}`"
          type="checkbox"
          :checked="chosen.has(x.id)"
          :aria-label="`take ${x.title}`"
          @change="(e) => emit('toggle', [x.id], (e.target as HTMLInputElement).checked)"
        />
        <span v-else class="stays" aria-hidden="true">·</span>
        <span class="number">{{ number }}</span>
        <div class="what">
          <p class="head">
            <component
              :is="leads(x.target, repository.id, repository.pin) ? 'router-link' : 'b'"
              :to="leads(x.target, repository.id, repository.pin) ?? undefined"
              class="title"
              >{{ x.title }}</component
            >
            <span v-if="where(x.target) !== x.title" class="soft at">{{ where(x.target) }}</span>
            <span v-if="proposal.chapters.some((d) => !d.new) && becomes(x)" class="state">{{ becomes(x) }}</span>
          </p>
          <Prose v-if="x.purpose" inline :text="x.purpose" />
          <p v-if="x.why" class="why">{{ x.why }}</p>
        </div>
        <span class="far"
          >{{ x.minutes }} min<br /><span v-if="x.target.skim" class="soft">{{ x.target.skim }} lines</span></span
        >
      </li>
    </ol>
  </section>
</template>

<style scoped>
.chapter {
  margin-top: 20px;
}
h2 {
  display: flex;
  gap: 8px;
  align-items: baseline;
  margin: 0;
  font: 600 16px/1.3 var(--serif);
}
.numeral {
  color: var(--plum);
}
.intent {
  margin: 0 0 0 22px;
  font: 14px/1.4 var(--serif);
}
input[type='checkbox'] {
  width: 13px;
  height: 13px;
  margin: 3px 0 0 1px;
  accent-color: var(--plum);
}
h2 input[type='checkbox'] {
  align-self: center;
  margin-top: 0;
}
ol {
  list-style: none;
  margin: 6px 0 0;
  padding: 0;
  border-top: 1px solid var(--rule);
}
li {
  display: grid;
  grid-template-columns: 14px 20px minmax(0, 1fr) 62px;
  gap: 8px;
  padding: 7px 0;
  border-bottom: 1px solid var(--rule-soft);
}
.number {
  text-align: right;
  color: var(--ink-soft);
  font: 12px/20px var(--sans);
}
.head {
  display: flex;
  flex-wrap: wrap;
  gap: 2px 10px;
  align-items: baseline;
  margin: 0;
}
.title {
  font: 600 13.5px/20px var(--sans);
  overflow-wrap: anywhere;
}
.at {
  font: 12px/18px var(--mono);
}
.state {
  padding: 0 6px;
  border: 1px solid var(--plum);
  border-radius: var(--radius);
  color: var(--plum);
  font: 11.5px/16px var(--sans);
}
.what :deep(.inline) {
  font: 14px/1.42 var(--serif);
}
.why {
  margin: 1px 0 0;
  color: var(--ink-soft);
  font: 12px/1.45 var(--sans);
}
.far {
  text-align: right;
  font: 12px/20px var(--sans);
}
.off .what,
.out .title {
  text-decoration: line-through;
  text-decoration-color: var(--ink-soft);
}
.stays {
  color: var(--ink-soft);
  text-align: center;
}
</style>
