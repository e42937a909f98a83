<script setup lang="ts">
import { computed, ref, watch } from 'vue'
import { words } from '@/api/client'
import Dialog from '@/frame/Dialog.vue'
import { useKeys } from '@/frame/keys'
import { notice } from '@/frame/notice'
import { includes, useRepository } from '@/frame/repository'
import { useAdding } from './adding'
import { estimate, keyAt } from './model'
import { readings } from './readings'
import { newId, usePlanAtHand, usePlanChanges, usePlans, type Op } from './use'

const repository = useRepository()
const id = computed(() => repository.value.id)
const { selected, current } = useAdding()
const { data: plans } = usePlans(id)
const { id: atHand, plan, take } = usePlanAtHand(id)
const changes = usePlanChanges(id)

const title = ref('')
const written = computed(
  () => !!(purpose.value.trim() || text.value.trim() || newPlan.value.trim() || (current.value && title.value !== current.value.title)),
)
const purpose = ref('')
const minutes = ref(5)
const chapter = ref('')
const newPlan = ref('')
const busy = ref(false)
const fault = ref('')
const writable = computed(() => plans.value?.filter((p) => p.may_write) ?? [])
const text = ref('')
/** How it is read: by its place among the ways there are. */
const reading = ref(0)
/** What a person chose: a new plan or not; null: nothing yet. */
const chosenNew = ref<boolean | null>(null)
const loaded = computed(() => plans.value !== undefined && (atHand.value === 0 || plan.data.value !== undefined))
const intoNew = computed(() => chosenNew.value ?? (loaded.value && !plan.data.value?.may_write))
const offered = computed(() =>
  current.value ? readings(current.value, repository.value.pin, intoNew.value ? undefined : plan.data.value) : [],
)
const how = computed(() => offered.value[Math.min(reading.value, offered.value.length - 1)])

useKeys({
  a: () => {
    if (selected.value) current.value = selected.value
    else notice('Select a file, lines, a folder or a lead first; then a adds it to the plan.')
  },
})

watch(current, (c) => {
  if (!c) return
  fault.value = ''
  title.value = c.title
  purpose.value = text.value = ''
  reading.value = 0
  asked.value = false
  minutes.value = estimate(c.lines)
  chosenNew.value = null
  chapter.value = plan.data.value?.in_order.at(-1)?.id ?? ''
})
watch(
  () => plan.data.value?.in_order,
  (chapters) => {
    if (!chapters?.some((c) => c.id === chapter.value)) chapter.value = chapters?.at(-1)?.id ?? ''
  },
)

/** What is sent before the plans are known is done once they are. */
const asked = ref(false)
watch(loaded, (l) => l && asked.value && void add())
async function add() {
  const c = current.value
  if (!c || busy.value) return
  asked.value = !loaded.value
  if (asked.value) return
  busy.value = true
  fault.value = ''
  try {
    let into = plan.data.value
    if (intoNew.value) {
      into = await changes.begin(newPlan.value.trim() || 'Where to begin', !includes(repository.value.role, 'writer'))
      take(into.id)
      newPlan.value = ''
    }
    if (!into) return
    const ops: Op[] = []
    const r = how.value
    if (r?.hop && !intoNew.value) ops.push(r.hop)
    else {
      let to = into.in_order.find((x) => x.id === chapter.value) ?? into.in_order.at(-1)
      if (!to) {
        to = { id: newId(), order: keyAt([], 0), title: 'First things', passages: [] }
        ops.push({ kind: 'add-chapter', new_chapter: { id: to.id, order: to.order, title: to.title } })
      }
      ops.push({
        kind: 'add-passage',
        new_passage: {
          id: newId(),
          chapter: to.id,
          order: keyAt(to.passages, to.passages.length),
          title: title.value.trim() || c.title,
          purpose: purpose.value.trim(),
          text: text.value.trim(),
          minutes: minutes.value,
          why: c.why,
          target: r!.target,
        },
      })
    }
    const added = into.id
    const after = await changes.apply(added, ops)
    current.value = null
    notice(`Added to “${after.title}”.`, { action: { label: 'undo', do: () => void undo(added) } })
  } catch (e) {
    fault.value = words(e)
  } finally {
    busy.value = false
  }
}

async function undo(plan: number) {
  try {
    await changes.undo(plan)
    notice('Taken back.')
  } catch (e) {
    notice(words(e), { fault: true })
  }
}
</script>

<template>
  <Dialog v-if="current" title="Add to the plan" :width="560" :unsaved="written" :busy="busy" @close="current = null" @save="add">
    <form class="form" @submit.prevent="add">
      <label>
        What is read
        <select v-model.number="reading" name="reading">
          <option v-for="(r, i) in offered" :key="i" :value="i">{{ r.says }}</option>
        </select>
      </label>
      <div class="row">
        <label class="grow">
          Plan
          <select
            :value="intoNew ? 0 : atHand"
            name="plan"
            @change="
              (e) => {
                const v = Number((e.target as HTMLSelectElement).value)
                chosenNew = v === 0
                if (v) take(v)
              }
            "
          >
            <option v-for="p in writable" :key="p.id" :value="p.id">{{ p.title }}{{ p.private ? ' (private)' : '' }}</option>
            <option :value="0">a new plan{{ includes(repository.role, 'writer') ? '' : ' of your own (private)' }} …</option>
          </select>
        </label>
        <label v-if="!intoNew && plan.data.value?.in_order.length" class="grow">
          Chapter
          <select v-model="chapter" name="chapter">
            <option v-for="c in plan.data.value.in_order" :key="c.id" :value="c.id">{{ c.title || 'without a title' }}</option>
          </select>
        </label>
      </div>
      <label v-if="intoNew">Title of the new plan<a-input v-model:value="newPlan" name="new-plan" placeholder="Where to begin" /></label>
      <div class="row">
        <label class="grow">Title of the passage<a-input v-model:value="title" name="title" autofocus :maxlength="200" /></label>
        <label
          >Minutes<a-input-number v-model:value="minutes" name="minutes" :min="0" :max="600" :precision="0" style="width: 84px"
        /></label>
      </div>
      <template v-if="!how?.hop">
        <label>
          What one will know after it
          <a-input v-model:value="purpose" name="purpose" :maxlength="2000" placeholder="one sentence" />
        </label>
        <label>
          The text beside it
          <a-textarea v-model:value="text" name="text" :rows="3" placeholder="Markdown: what to look at, and in which order" />
        </label>
      </template>
      <p v-if="current.why" class="soft">why here: {{ current.why }}</p>
      <p v-if="fault" class="fault" role="alert">{{ fault }}</p>
      <div class="end">
        <a-button @click="current = null">Cancel</a-button>
        <a-button type="primary" html-type="submit" :loading="busy || asked">Add passage</a-button>
      </div>
    </form>
  </Dialog>
</template>

<style scoped>
.form,
label {
  display: grid;
  gap: 12px;
}
label {
  gap: 4px;
}
.check {
  display: flex;
}
.row {
  display: flex;
  gap: 12px;
}
.grow {
  flex: 1;
  min-width: 0;
}
.what {
  overflow-wrap: anywhere;
}
select {
  height: 30px;
  font: inherit;
  color: inherit;
  background: var(--sheet);
  border: 1px solid var(--rule);
  border-radius: var(--radius);
  padding: 0 8px;
  width: 100%;
}
.end {
  display: flex;
  justify-content: end;
  gap: 10px;
}
</style>
