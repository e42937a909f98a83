<script setup lang="ts">
import { useMutation, useQuery, useQueryClient } from '@tanstack/vue-query'
import { computed, ref, watch } from 'vue'
import { api, data, words, type Schemas } from '@/api/client'
import Dialog from '@/frame/Dialog.vue'
import { notice } from '@/frame/notice'
import { useMarks } from './marks'

/** The agreed words, with what they mean, and the team's own. */
const open = defineModel<boolean>({ required: true })
const props = defineProps<{ repository: number; writer: boolean }>()
const client = useQueryClient()
const { forget } = useMarks(() => props.repository)
const key = computed(() => ['repository', props.repository, 'words'])
const path = computed(() => ({ repository: props.repository }))
const { data: all, error } = useQuery({
  queryKey: key,
  queryFn: ({ signal }) => data(api.GET('/api/repositories/{repository}/words', { params: { path: path.value }, signal })),
})
type Word = Schemas['WordInfo']
const own = ref<Word[]>([])
watch(all, (a) => (own.value = (a ?? []).filter((w) => w.own).map((w) => ({ ...w }))), { immediate: true })
const changed = computed(() => JSON.stringify(own.value) !== JSON.stringify((all.value ?? []).filter((w) => w.own)))
const agreed = computed(() => (all.value ?? []).filter((w) => !w.own))
const urgencies = [
  { value: 3, label: 'pressing' },
  { value: 2, label: 'some day' },
  { value: 1, label: 'to know' },
]
const more = () => own.value.push({ word: '', meaning: '', urgency: 2, pattern: '', done: false, own: true })
const save = useMutation({
  mutationFn: () =>
    data(
      api.PUT('/api/repositories/{repository}/words', {
        params: { path: path.value },
        body: {
          own: own.value.map(({ word, meaning, urgency, pattern, done }) => ({
            word: word.trim(),
            meaning: meaning.trim(),
            urgency,
            pattern,
            done,
          })),
        },
      }),
    ),
  onSuccess: async () => {
    open.value = false
    notice('The words are saved. Where their spelling changed, the repository is surveyed again.')
    await Promise.all([
      client.invalidateQueries({ queryKey: key.value }),
      client.invalidateQueries({ queryKey: ['repository', props.repository, 'info'] }),
      forget(),
    ])
  },
})
</script>

<template>
  <Dialog
    v-if="open"
    title="Words of tagged comments"
    :width="780"
    ok="Save"
    :disabled="!writer"
    :busy="save.isPending.value"
    :unsaved="changed"
    @close="open = false"
    @save="save.mutate()"
  >
    <p class="soft">
      A comment that carries one of these words is listed. They count in comments only, as words of their own; of overlapping ones the
      longest wins.
    </p>
    <table>
      <tbody>
        <tr v-for="w in agreed" :key="w.word">
          <td class="mono">◇ {{ w.word }}</td>
          <td>{{ w.meaning }}</td>
          <td class="soft">{{ urgencies.find((u) => u.value === w.urgency)?.label }}</td>
        </tr>
      </tbody>
    </table>
    <h3>Your team’s own</h3>
    <p v-if="!own.length" class="soft">None yet. A word by the name of an agreed one takes its place.</p>
    <div v-for="(w, i) in own" :key="i" class="own">
      <a-input
        v-model:value="w.word"
        :name="`word-${i}`"
        class="mono"
        placeholder="word, as you write it"
        :disabled="!writer"
        aria-label="Word"
      />
      <a-input
        v-model:value="w.meaning"
        :name="`meaning-${i}`"
        placeholder="what it means, in plain words"
        :disabled="!writer"
        aria-label="Meaning"
      />
      <a-select v-model:value="w.urgency" :options="urgencies" :disabled="!writer" aria-label="Urgency" />
      <a-input
        v-model:value="w.pattern"
        :name="`pattern-${i}`"
        class="mono"
        placeholder="pattern, if it varies"
        title="RE2; empty: the word itself"
        :disabled="!writer"
        aria-label="Pattern"
      />
      <button v-if="writer" class="link" :aria-label="`Take ${w.word} away`" @click="own.splice(i, 1)">×</button>
    </div>
    <button v-if="writer" class="link" @click="more">another word</button>
    <p v-if="error || save.error.value" class="fault" role="alert">{{ words(error ?? save.error.value) }}</p>
  </Dialog>
</template>

<style scoped>
table {
  width: 100%;
  margin: 8px 0;
  border-collapse: collapse;
}
td {
  padding: 3px 8px 3px 0;
  border-bottom: 1px solid var(--rule-soft);
}
td.mono {
  color: var(--ochre-text);
  width: 150px;
}
h3,
p {
  margin: 10px 0 6px;
}
.own {
  display: grid;
  grid-template-columns: 150px minmax(0, 1fr) 104px 160px 16px;
  gap: 6px;
  margin-bottom: 6px;
}
</style>
