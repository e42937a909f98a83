<script setup lang="ts">
import { computed, ref, watch } from 'vue'
import { useRoute, useRouter } from 'vue-router'
import { words } from '@/api/client'
import { notice } from '@/frame/notice'
import { includes, useRepository } from '@/frame/repository'
import { many } from '@/words/format'
import DraftAsk from './DraftAsk.vue'
import DraftChapters from './DraftChapters.vue'
import DraftFigures from './DraftFigures.vue'
import { askedIn, changes as differs, missing, opsOf, useProposal, type Asked } from './proposing'
import { usePlan, usePlanAtHand, usePlanChanges, usePlans } from './use'

/** What to read for a goal within some minutes, proposed: taken whole or passage by
 * passage, into a new plan or one that is there. */
const repository = useRepository()
const route = useRoute()
const router = useRouter()
const id = computed(() => repository.value.id)
const asked = computed(() => askedIn(route.query))
const ask = (a: Asked) => void router.replace({ query: { ...a, order: a.order === 'outside-in' ? undefined : a.order } })
const { data: proposal, error, isFetching } = useProposal(id, asked)
const lacks = computed(() => missing(asked.value))
const shown = computed(() => (lacks.value ? undefined : proposal.value))

const plans = usePlans(id)
const into = usePlan(
  id,
  () => asked.value.plan ?? 0,
  () => 'draft',
)
const writable = computed(() => (plans.data.value ?? []).filter((p) => p.may_write))
const { take: putAtHand } = usePlanAtHand(id)
const changes = usePlanChanges(id)

/** What is left out of what is proposed, by the ids of passages. */
const left = ref(new Set<string>())
watch(asked, () => (left.value = new Set()))
const offered = computed(() => (shown.value?.chapters ?? []).flatMap((c) => c.passages).filter(differs))
const chosen = computed(() => new Set(offered.value.map((x) => x.id).filter((x) => !left.value.has(x))))
function toggle(ids: readonly string[], on: boolean) {
  const next = new Set(left.value)
  for (const x of ids) {
    if (on) next.delete(x)
    else next.add(x)
  }
  left.value = next
}

const title = ref('')
watch(
  () => shown.value?.title,
  (t) => (title.value = t ?? ''),
  { immediate: true },
)
const isPrivate = ref(!includes(repository.value.role, 'writer'))
const busy = ref(false)
async function take() {
  const p = shown.value
  if (!p) return
  busy.value = true
  let begun = 0
  try {
    const plan = asked.value.plan ? into.data.value : await changes.begin(title.value.trim() || p.title, isPrivate.value)
    if (!plan) return
    if (!asked.value.plan) begun = plan.id
    await changes.apply(plan.id, opsOf(p, plan, chosen.value))
    begun = 0
    putAtHand(plan.id)
    await router.push({ name: 'compose', params: { repository: id.value, plan: plan.id } })
    notice(`${many(chosen.value.size, 'passage')} taken. Undo takes all of it back.`)
  } catch (e) {
    // an empty plan is nothing to leave behind
    if (begun) await changes.remove(begun).catch(() => undefined)
    notice(words(e), { fault: true })
  } finally {
    busy.value = false
  }
}
</script>

<template>
  <div class="drafting">
    <DraftAsk class="ask" :asked="asked" :plans="writable" @ask="ask" />
    <main class="proposal" :aria-busy="isFetching">
      <h1>{{ asked.plan ? `A draft for “${into.data.value?.title ?? '…'}”` : 'A draft of a plan' }}</h1>
      <p class="prose lead">
        A proposal from what the survey found. Nothing is kept until you take it, and what people decided in a plan stays.
      </p>
      <p v-if="lacks" class="soft none">{{ lacks }}</p>
      <p v-else-if="error" class="fault" role="alert">{{ words(error) }}</p>
      <p v-else-if="!shown" class="soft none" role="status">Choosing what to read …</p>
      <template v-if="shown">
        <DraftFigures :proposal="shown" />
        <form class="take" @submit.prevent="take">
          <template v-if="!asked.plan">
            <input v-model="title" name="draft-title" class="title" maxlength="200" aria-label="Title of the new plan" />
            <a-checkbox v-model:checked="isPrivate" :disabled="!includes(repository.role, 'writer')">private</a-checkbox>
          </template>
          <a-button html-type="submit" type="primary" :loading="busy" :disabled="!chosen.size">{{
            asked.plan
              ? `Take ${many(chosen.size, 'change')} into it`
              : chosen.size === offered.length
                ? 'Take all as a new plan'
                : `Take ${many(chosen.size, 'passage')} as a new plan`
          }}</a-button>
        </form>
        <p v-if="!offered.length" class="soft none">The plan is as this draft would have it.</p>
        <DraftChapters :proposal="shown" :chosen="chosen" @toggle="toggle" />
        <ul v-if="shown.notes.length" class="notes soft">
          <li v-for="n in shown.notes" :key="n">{{ n }}</li>
        </ul>
      </template>
    </main>
  </div>
</template>

<style scoped>
.drafting {
  display: grid;
  grid-template-columns: 292px minmax(0, 1fr);
  height: 100%;
  min-height: 0;
}
.ask {
  overflow: auto;
  border-right: 1px solid var(--rule);
}
.proposal {
  overflow: auto;
  padding: 18px 28px 40px;
}
.proposal > * {
  max-width: 900px;
}
.lead {
  margin: 2px 0 10px;
}
.take {
  display: flex;
  gap: 12px;
  align-items: center;
  margin: 12px 0 6px;
}
.take .title {
  flex: 1;
  min-width: 0;
  padding: 4px 8px;
  background: var(--sheet);
  color: var(--ink);
  border: 1px solid var(--rule);
  border-radius: var(--radius);
  font: 600 15px/1.3 var(--serif);
}
.none {
  padding: 10px 0;
}
.notes {
  margin: 18px 0 0;
  padding-left: 18px;
  font-size: 12.5px;
}
</style>
