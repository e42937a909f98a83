<script setup lang="ts">
import { computed, ref } from 'vue'
import { api, data, words } from '@/api/client'
import { notice } from '@/frame/notice'
import { many } from '@/words/format'
import { keyAt, setPassage, steps } from './model'
import { newId, usePlanChanges, usePlans, type Op, type Plan } from './use'

/** What can be done with several passages at once. */
const props = defineProps<{ repository: number; plan: Plan; chosen: ReadonlySet<string> }>()
const emit = defineEmits<{ apply: [ops: Op[]]; remove: []; choose: [passage: string] }>()
const changes = usePlanChanges(() => props.repository)
const { data: plans } = usePlans(() => props.repository)
const others = computed(() => plans.value?.filter((p) => p.may_write && p.id !== props.plan.id) ?? [])
const list = computed(() => steps(props.plan).filter((s) => props.chosen.has(s.passage.id)))
const minutes = computed(() => list.value.reduce((n, s) => n + s.passage.minutes, 0))
const to = ref<number>()
const busy = ref(false)
/** They are added there first, then taken out here: nothing is ever in neither. */
async function moveAway() {
  if (!to.value) return
  busy.value = true
  const chapter = newId()
  try {
    const path = { repository: props.repository, plan: to.value }
    const there = await data(api.GET('/api/repositories/{repository}/plans/{plan}', { params: { path, query: { edition: 'draft' } } }))
    const title = `From “${props.plan.title}”`.slice(0, 200)
    const ops: Op[] = [{ kind: 'add-chapter', new_chapter: { id: chapter, order: keyAt(there.in_order, there.in_order.length), title } }]
    let order = ''
    for (const { passage } of list.value) {
      order = keyAt([{ order }], 1)
      ops.push({ kind: 'add-passage', new_passage: { ...passage, id: newId(), chapter, order, needs: undefined } })
    }
    await changes.apply(to.value, ops)
    emit('remove')
    notice(`${many(list.value.length, 'passage')} moved to “${others.value.find((p) => p.id === to.value)?.title}”, behind what is there.`)
  } catch (e) {
    notice(words(e), { fault: true })
  } finally {
    busy.value = false
  }
}
const optional = computed(() => list.value.every((s) => s.passage.optional))
</script>

<template>
  <div class="several">
    <h2>{{ many(list.length, 'passage') }}, {{ minutes }} min</h2>
    <ul>
      <li v-for="s in list" :key="s.passage.id">
        <button class="link" @click="emit('choose', s.passage.id)">{{ s.number }}. {{ s.passage.title }}</button>
      </li>
    </ul>
    <p><kbd>Alt ↑</kbd> <kbd>Alt ↓</kbd> or dragging one of them moves them together.</p>
    <p class="row">
      <a-button
        size="small"
        @click="
          emit(
            'apply',
            list.map((s) => setPassage(s.passage, 'optional', !optional)),
          )
        "
        >{{ optional ? 'not optional' : 'optional' }}</a-button
      >
      <a-button size="small" @click="emit('remove')">remove</a-button>
    </p>
    <p v-if="others.length" class="row">
      <a-select
        v-model:value="to"
        size="small"
        style="width: 260px"
        placeholder="another plan"
        aria-label="Another plan"
        :options="others.map((p) => ({ value: p.id, label: p.title }))"
      />
      <a-button size="small" :disabled="!to" :loading="busy" @click="moveAway">move them there</a-button>
    </p>
  </div>
</template>

<style scoped>
.several {
  display: grid;
  gap: 10px;
  align-content: start;
  padding: 12px 20px;
}
ul {
  list-style: none;
  margin: 0;
  padding: 0;
}
.row {
  display: flex;
  gap: 10px;
}
</style>
