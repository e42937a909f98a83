<script setup lang="ts">
import { useQuery, useQueryClient } from '@tanstack/vue-query'
import { computed, ref } from 'vue'
import { useRouter } from 'vue-router'
import { api, data, words, type Schemas } from '@/api/client'
import { notice } from '@/frame/notice'
import { count, many } from '@/words/format'

/** Takes in a plan from a document, chosen or offered by the repository itself: looked
 * at first, with what is wrong with it item by item. */
const props = defineProps<{ repository: number; writer: boolean }>()
const router = useRouter()
const queries = useQueryClient()
const content = ref('')
/** The plan file of the repository that was chosen; empty: a document was. */
const file = ref('')
const found = ref<Schemas['TakenPlan'] | null>(null)
const fault = ref('')
const busy = ref(false)
const isPrivate = ref(!props.writer)

const { data: offered } = useQuery({
  queryKey: computed(() => ['plans', props.repository, 'offered']),
  queryFn: ({ signal }) =>
    data(api.GET('/api/repositories/{repository}/plans/offered', { params: { path: { repository: props.repository } }, signal })),
  retry: false,
})

const send = (look: boolean) =>
  file.value
    ? data(
        api.POST('/api/repositories/{repository}/plans/offered', {
          params: { path: { repository: props.repository } },
          body: { path: file.value, look, private: isPrivate.value },
        }),
      )
    : sendContent(look)
const sendContent = (look: boolean) =>
  data(
    api.POST('/api/repositories/{repository}/plans/document', {
      params: { path: { repository: props.repository }, query: { look, private: isPrivate.value } },
      headers: { 'Content-Type': 'application/vnd.juxtagram.plan+json' },
      body: content.value,
      bodySerializer: (b) => b,
    }),
  )

async function choose(e: Event) {
  const chosen = (e.target as HTMLInputElement).files?.[0]
  if (chosen) await look('', chosen)
  else found.value = null
}
/** Tells what would be taken of a file of the repository, or of a document. */
async function look(path: string, chosen?: File) {
  found.value = null
  fault.value = ''
  file.value = path
  busy.value = true
  try {
    if (chosen) content.value = await chosen.text()
    found.value = await send(true)
  } catch (x) {
    fault.value = words(x)
  } finally {
    busy.value = false
  }
}
async function take() {
  busy.value = true
  try {
    const taken = await send(false)
    await queries.invalidateQueries({ queryKey: ['plans', props.repository] })
    await router.push({ name: 'compose', params: { repository: props.repository, plan: taken.plan } })
    notice(`“${taken.title}” is taken in, ${many(taken.passages, 'passage')}.`)
  } catch (x) {
    fault.value = words(x)
  } finally {
    busy.value = false
  }
}
</script>

<template>
  <section class="take">
    <h2>Take in a plan</h2>
    <template v-if="offered?.plans.length">
      <p>This repository holds {{ many(offered.plans.length + offered.more, 'plan file') }}:</p>
      <ul class="offers">
        <li v-for="o in offered.plans" :key="o.path">
          <span class="mono path">{{ o.path }}</span>
          <span v-if="o.fault" class="soft">cannot be read: {{ o.fault }}</span>
          <template v-else>
            <span class="soft">{{ o.title }}, {{ many(o.passages, 'passage') }}</span>
            <button class="link" @click="look(o.path)">look at it</button>
          </template>
        </li>
        <li v-if="offered.more" class="soft">and {{ count(offered.more) }} more that were not looked at</li>
      </ul>
    </template>
    <p>
      A plan document from another installation, or kept from this one: JSON, or Markdown that keeps the same conventions. It is looked at
      first.
    </p>
    <input
      type="file"
      name="plan-document"
      accept=".json,.md,application/json,text/markdown"
      aria-label="A plan document"
      @change="choose"
    />
    <p v-if="busy" class="soft" role="status">Reading it …</p>
    <p v-if="fault" class="fault" role="alert">It cannot be taken in: {{ fault }}</p>
    <template v-if="found">
      <p>
        <b>{{ found.title }}</b>: {{ many(found.chapters, 'chapter') }}, {{ many(found.passages, 'passage') }} can be taken<template
          v-if="found.problems.length"
          >; {{ many(found.problems.length, 'problem') }}</template
        >.
      </p>
      <ul v-if="found.problems.length" class="problems">
        <li v-for="(p, i) in found.problems.slice(0, 100)" :key="i">
          <b>{{ p.where }}</b>: {{ p.what }}
        </li>
        <li v-if="found.problems.length > 100" class="soft">and {{ count(found.problems.length - 100) }} more</li>
      </ul>
      <p class="row">
        <a-button type="primary" :disabled="busy" @click="take">{{ found.problems.length ? 'Take the rest' : 'Take it in' }}</a-button>
        <a-checkbox v-model:checked="isPrivate" :disabled="!writer">private</a-checkbox>
      </p>
    </template>
  </section>
</template>

<style scoped>
.take {
  display: grid;
  gap: 8px;
  max-width: 680px;
  margin-top: 30px;
}
.take p {
  margin: 0;
}
.problems {
  max-height: 220px;
  overflow: auto;
  margin: 0;
  padding: 8px 8px 8px 24px;
  border: 1px solid var(--rule);
  font: 12.5px/1.5 var(--sans);
  overflow-wrap: anywhere;
}
.offers {
  list-style: none;
  margin: 0;
  padding: 0;
  border-top: 1px solid var(--rule);
  font: 12.5px/1.5 var(--sans);
}
.offers li {
  display: flex;
  flex-wrap: wrap;
  gap: 2px 12px;
  align-items: baseline;
  padding: 5px 0;
  border-bottom: 1px solid var(--rule-soft);
}
.path {
  overflow-wrap: anywhere;
}
.row {
  display: flex;
  gap: 14px;
  align-items: center;
}
</style>
