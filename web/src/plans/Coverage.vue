<script setup lang="ts">
import { computed, nextTick, ref } from 'vue'
import { words } from '@/api/client'
import { useRepository } from '@/frame/repository'
import { count } from '@/words/format'
import { useAdding } from './adding'
import CoverageBars from './CoverageBars.vue'
import { kindTitles, useCoverage, type Covered } from './covering'
import { usePlans, type Op, type Plan } from './use'

/** What a draft covers of leads and folders: a share as a tab, and what is not
 * decided yet, to be added or set aside. */
const props = defineProps<{ repository: number; plan: Plan; acknowledged: boolean; open: boolean }>()
const emit = defineEmits<{ open: []; choose: [passage: string]; apply: [ops: Op[]] }>()
const here = useRepository()
const { current } = useAdding()
const { data: coverage, error } = useCoverage(
  () => props.repository,
  () => props.plan.id,
  () => 'draft',
  () => props.plan.seq,
  () => props.open && props.acknowledged,
)
const { data: plans } = usePlans(() => props.repository)
const kind = ref('hotspot')
const chosen = computed(() => coverage.value?.kinds.find((k) => k.kind === kind.value) ?? coverage.value?.kinds[0])
const nameOf = (plan: number) => plans.value?.find((p) => p.id === plan)?.title ?? 'another plan'
const titleOf = (passage: string) => props.plan.in_order.flatMap((c) => c.passages).find((p) => p.id === passage)?.title ?? 'a passage'
const to = (c: Covered) => ({
  name: 'read',
  params: { repository: props.repository },
  query: c.kind === 'folder' ? { folder: c.path } : { path: c.path, lines: c.line || undefined },
})
function add(c: Covered) {
  const at = { path: c.path, title: c.title, why: c.why, commit: here.value.pin }
  if (c.kind === 'folder') current.value = { ...at, kind: 'folder', lines: 0 }
  else if (c.line) current.value = { ...at, kind: 'lines', start: c.line, end: c.line, lines: 1 }
  else current.value = { ...at, kind: 'file', lines: 100 }
}
/** What is being set aside, by its key. */
const asking = ref('')
const reason = ref('')
async function ask(key: string) {
  asking.value = key
  reason.value = ''
  await nextTick()
  document.querySelector<HTMLElement>('[name="aside-reason"]')?.focus()
}
function setAside(key: string, to: string) {
  emit('apply', [{ kind: 'set-aside', id: key, from: props.plan.aside[key] ?? '', to }])
  asking.value = ''
}
</script>

<template>
  <button :class="{ on: open }" @click="emit('open')">Coverage</button>
  <Teleport v-if="open" defer to=".detail">
    <div class="coverage" aria-label="Coverage">
      <p v-if="error" class="fault" role="alert">{{ words(error) }}</p>
      <CoverageBars v-if="coverage" :kinds="coverage.kinds" :chosen="chosen?.kind" @choose="(k) => (kind = k)" />
      <template v-if="chosen">
        <h3>
          {{ kindTitles[chosen.kind] ?? chosen.kind }}
          <span class="soft">{{ chosen.open ? `${count(chosen.open)} not decided yet` : 'all decided' }}</span>
        </h3>
        <ul>
          <li v-for="c in chosen.rows" :key="c.key" :class="c.state">
            <p class="head">
              <router-link :to="to(c)" class="mono">{{ c.path || 'the root' }}{{ c.line ? `:${c.line}` : '' }}</router-link>
              <span v-if="c.title !== c.path && c.kind !== 'folder'">{{ c.title }}</span>
            </p>
            <p class="soft">{{ c.why }}</p>
            <p v-if="c.state === 'here'" class="soft">
              read here: <button class="link" @click="emit('choose', c.passage!)">{{ titleOf(c.passage!) }}</button>
            </p>
            <p v-else-if="c.state === 'elsewhere'" class="soft">
              read in <router-link :to="{ name: 'guide', params: { repository, plan: c.plan } }">{{ nameOf(c.plan!) }}</router-link>
            </p>
            <p v-else-if="c.state === 'aside'" class="soft">
              set aside: {{ c.reason }}
              <button v-if="plan.aside[c.key]" class="link" @click="setAside(c.key, '')">bring it back</button>
            </p>
            <form v-if="asking === c.key" class="aside" @submit.prevent="reason.trim() && setAside(c.key, reason.trim())">
              <input
                v-model="reason"
                name="aside-reason"
                maxlength="500"
                placeholder="why this plan leaves it out"
                @keydown.esc.stop="asking = ''"
              />
              <a-button size="small" html-type="submit" :disabled="!reason.trim()">set aside</a-button>
            </form>
            <p v-else-if="c.state === 'open' || c.state === 'elsewhere'" class="acts">
              <button class="link" @click="add(c)">add</button>
              <button class="link" @click="ask(c.key)">set aside …</button>
            </p>
          </li>
        </ul>
        <p v-if="chosen.rows.length < chosen.total" class="soft">
          {{ count(chosen.rows.length) }} of {{ count(chosen.total) }} are told, those not decided yet first.
        </p>
      </template>
    </div>
  </Teleport>
</template>

<style scoped>
.coverage {
  flex: 1;
  min-height: 0;
  overflow: auto;
  padding: 12px 20px 24px;
}
h3 {
  margin: 16px 0 4px;
  font: 600 15px/1.3 var(--serif);
}
h3 .soft {
  font: 12.5px/1.3 var(--sans);
}
ul {
  list-style: none;
  margin: 0;
  padding: 0;
}
li {
  position: relative;
  padding: 6px 130px 6px 0;
  border-bottom: 1px solid var(--rule-soft);
  font: 12.5px/1.45 var(--sans);
}
li p {
  margin: 0;
}
.head {
  display: flex;
  flex-wrap: wrap;
  gap: 2px 10px;
}
.head .mono {
  overflow-wrap: anywhere;
}
.acts {
  position: absolute;
  top: 6px;
  right: 0;
  display: flex;
  gap: 12px;
}
.aside {
  display: flex;
  gap: 8px;
  margin-top: 4px;
}
.aside input {
  flex: 1;
  padding: 2px 6px;
  background: var(--sheet);
  color: var(--ink);
  border: 1px solid var(--rule);
  border-radius: var(--radius);
  font: inherit;
}
</style>
