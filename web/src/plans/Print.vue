<script setup lang="ts">
import { computed } from 'vue'
import { useRoute } from 'vue-router'
import { words } from '@/api/client'
import { useRepository } from '@/frame/repository'
import { NoteText } from '@/notes'
import { Excerpt } from '@/told'
import { many, short } from '@/words/format'
import { lines, numeral, steps, where } from './model'
import Prose from './Prose.vue'
import { usePlan, type Passage } from './use'

/** A whole plan on paper: every text, and the code it leads to. */
const repository = useRepository()
const route = useRoute()
const id = computed(() => repository.value.id)
const edition = computed(() => (typeof route.query.edition === 'string' ? route.query.edition : undefined))
const { data: plan, error } = usePlan(id, () => Number(route.params.plan), edition, true)
const number = computed(() => new Map(plan.value ? steps(plan.value).map((s) => [s.passage.id, s.number]) : []))
const ideaOf = computed(() => new Map(plan.value?.ideas.map((i) => [i.id, i])))
const need = (n: string) => {
  const idea = ideaOf.value.get(n)
  const at = number.value.get(idea?.by ?? n)
  return idea ? `${idea.name}${at ? ` (${at})` : ''}` : at ? String(at) : ''
}
/** Most lines of one piece of code on paper. */
const most = 60
function stretches(p: Passage) {
  const t = p.target
  const own = { path: t.path, start: t.start, end: t.end, commit: t.commit, says: '' }
  const list = t.kind === 'way' ? (t.hops ?? []) : t.kind === 'try' ? (t.try?.pauses ?? []) : t.kind === 'pair' ? [own, t.beside!] : [own]
  return list
    .filter((x) => x.start)
    .map((x) => ({
      ...x,
      commit: x.commit || t.commit,
      start: x.start!,
      end: Math.min(x.end ?? x.start!, x.start! + most - 1),
      all: x.end ?? x.start!,
    }))
}
const print = () => window.print()
</script>

<template>
  <p v-if="error" class="page fault">{{ words(error) }}</p>
  <article v-else-if="plan" class="paper">
    <p class="soft screen">
      <button class="link" @click="print">print</button> ·
      <router-link :to="{ name: 'guide', params: { repository: id, plan: plan.id }, query: { edition } }">back to the guide</router-link>
    </p>
    <h1>{{ plan.title }}</h1>
    <p class="soft">
      {{ repository.name }} at {{ short(repository.pin) }} · {{ plan.edition ? `edition ${plan.edition}` : 'draft' }} ·
      {{ many(plan.passages, 'passage') }}, {{ plan.minutes }} min
    </p>
    <Prose :text="plan.purpose" />
    <section v-for="(c, i) in plan.in_order" :key="c.id">
      <h2>
        <span class="numeral">{{ numeral(i + 1) }}</span> {{ c.title }}
      </h2>
      <Prose v-if="c.intent" :text="c.intent" />
      <section v-for="p in c.passages" :key="p.id" class="passage">
        <h3>{{ number.get(p.id) }}. {{ p.title }}</h3>
        <p class="soft">
          <span class="mono">{{ where(p.target) }}</span> · {{ p.minutes }} min{{ p.optional ? ' · if you like' : '' }}
          <template v-if="p.needs?.length">
            · know before:
            {{
              p.needs
                .map(need)
                .filter((x) => x)
                .join(', ')
            }}</template
          >
        </p>
        <NoteText v-if="plan.texts?.[p.id]" :html="plan.texts[p.id]!" class="prose" />
        <p v-if="p.purpose"><span class="soft">after it:</span> {{ p.purpose }}</p>
        <p v-if="p.caution"><b>Careful:</b> {{ p.caution }}</p>
        <pre v-if="p.target.try" class="mono">{{ p.target.try.commands }}</pre>
        <p v-if="p.target.try?.outcome"><span class="soft">expect:</span> {{ p.target.try.outcome }}</p>
        <template v-for="(x, k) in stretches(p)" :key="k">
          <p class="mono soft name">{{ lines(x) }}{{ x.says ? `: ${x.says}` : '' }}</p>
          <Excerpt class="code" :repository="id" :path="x.path" :at="x.commit" :start="x.start" :end="x.end" :around="0" />
          <p v-if="x.all > x.end" class="soft">{{ many(x.all - x.end, 'further line') }} not on paper</p>
        </template>
        <p v-if="!stretches(p).length && p.target.kind !== 'try'" class="soft">What is read here is not on paper.</p>
        <ul v-if="p.questions?.length">
          <li v-for="(q, k) in p.questions" :key="k">{{ q.ask }}</li>
        </ul>
      </section>
    </section>
    <section v-if="plan.ideas.length">
      <h2>Ideas</h2>
      <dl>
        <template v-for="i in plan.ideas" :key="i.id">
          <dt>
            <b>{{ i.name }}</b>
          </dt>
          <dd><Prose :text="i.text ?? ''" /></dd>
        </template>
      </dl>
    </section>
  </article>
  <p v-else class="page soft">Opening the plan …</p>
</template>

<style scoped>
.paper {
  height: 100%;
  overflow: auto;
  padding: 24px max(24px, calc(50% - 400px)) 60px;
}
h2 {
  margin: 26px 0 6px;
}
h3 {
  margin: 18px 0 2px;
}
.numeral {
  color: var(--plum);
}
.code {
  border: 1px solid var(--rule);
}
.name {
  margin-top: 8px;
  font-size: 12px;
}
pre {
  padding: 6px 10px;
  border: 1px solid var(--rule);
}
@media print {
  .screen {
    display: none;
  }
  .paper {
    height: auto;
    overflow: visible;
    padding: 0;
  }
  .passage {
    break-inside: avoid-page;
  }
}
</style>
