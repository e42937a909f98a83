<script setup lang="ts">
import { useQuery } from '@tanstack/vue-query'
import { computed, ref } from 'vue'
import { api, data, words } from '@/api/client'
import Dialog from '@/frame/Dialog.vue'
import { notice } from '@/frame/notice'
import { many } from '@/words/format'
import ChangesList from './ChangesList.vue'
import { usePlanChanges, type Plan } from './use'

/** Publishes a draft as the next edition, with what changed and a note. */
const props = defineProps<{ repository: number; plan: Plan }>()
const emit = defineEmits<{ close: []; published: [] }>()
const changes = usePlanChanges(() => props.repository)
const note = ref('')
const busy = ref(false)
const fault = ref('')
const next = computed(() => props.plan.newest + 1)
const { data: list } = useQuery({
  queryKey: computed(() => ['plans', props.repository, props.plan.id, 'differences', props.plan.newest, 'draft', props.plan.seq]),
  queryFn: ({ signal }) =>
    data(
      api.GET('/api/repositories/{repository}/plans/{plan}/differences', {
        params: {
          path: { repository: props.repository, plan: props.plan.id },
          query: { from: props.plan.newest ? String(props.plan.newest) : undefined, to: 'draft' },
        },
        signal,
      }),
    ),
})
async function publish() {
  busy.value = true
  fault.value = ''
  try {
    await changes.publish(props.plan.id, props.plan.seq, note.value.trim())
    notice(`Edition ${next.value} is published. Its readers are told when they come back.`)
    emit('published')
    emit('close')
  } catch (e) {
    fault.value = words(e)
  } finally {
    busy.value = false
  }
}
</script>

<template>
  <Dialog :title="`Publish edition ${next}`" :width="560" :unsaved="!!note.trim()" :busy="busy" @close="emit('close')" @save="publish">
    <form class="form" @submit.prevent="publish">
      <p>
        {{
          plan.newest
            ? `Since edition ${plan.newest}: ${list ? many(list.length, 'change') : '…'}`
            : 'The first edition: everybody who may read this repository will find it.'
        }}
      </p>
      <ChangesList v-if="list && plan.newest" :changes="list" />
      <label
        >What changed, for readers
        <a-textarea
          v-model:value="note"
          name="edition-note"
          :rows="2"
          :maxlength="2000"
          placeholder="e.g. Passage 4 follows the new release."
        />
      </label>
      <p v-if="fault" class="fault" role="alert">{{ fault }}</p>
      <p class="end">
        <a-button @click="emit('close')">Cancel</a-button>
        <a-button type="primary" html-type="submit" :loading="busy">Publish edition {{ next }}</a-button>
      </p>
    </form>
  </Dialog>
</template>

<style scoped>
.form {
  display: grid;
  gap: 10px;
}
.end {
  display: flex;
  justify-content: end;
  gap: 10px;
}
</style>
