<script setup lang="ts">
import { useQuery } from '@tanstack/vue-query'
import { computed, ref, useTemplateRef } from 'vue'
import { api, data } from '@/api/client'
import { useSheet } from '@/frame/sheet'
import { useAnnotating } from './annotating'
import { about, choices, targetOf, type ThreadInfo } from './target'
import { useThread } from './use'

/** Where the place of a thread is mended by hand: whatever is selected on any page is
 * what it can be attached to. */
const props = defineProps<{ repository: number; thread: ThreadInfo }>()
const { selected, replacing } = useAnnotating()
const act = useThread(() => props.repository)
const offered = computed(() => (selected.value ? choices(selected.value) : []))
/** Chosen by its words: what is offered changes while a page loads. */
const wanted = ref('')
const chosen = computed(() => offered.value.find((c) => c.says === wanted.value) ?? offered.value[0])
const { data: whole } = useQuery({
  queryKey: computed(() => ['repository', props.repository, 'notes', 'whole', props.thread.id]),
  queryFn: ({ signal }) =>
    data(
      api.GET('/api/repositories/{repository}/annotations/{annotation}', {
        params: { path: { repository: props.repository, annotation: props.thread.id } },
        signal,
      }),
    ),
})
const busy = ref(false)
async function put() {
  const to = chosen.value
  if (!to || busy.value) return
  busy.value = true
  if (await act.place(props.thread, to.target)) replacing.value = null
  busy.value = false
}
const element = useTemplateRef<HTMLElement>('element')
useSheet({ element: () => element.value, modal: false, close: () => (replacing.value = null), save: () => void put() })
</script>

<template>
  <section ref="element" class="corner-sheet" role="dialog" aria-label="Mend the place of a note">
    <p>
      <b>Where does this belong?</b> <q>{{ thread.text.slice(0, 120) }}{{ thread.text.length > 120 ? '…' : '' }}</q>
    </p>
    <p class="soft">It is at {{ about(thread) }} now. Select the lines, the file or the folder that it is about, on any page.</p>
    <select
      data-first
      name="place"
      aria-label="What it is attached to"
      :disabled="!offered.length"
      :value="chosen?.says ?? ''"
      @change="(e) => (wanted = (e.target as HTMLSelectElement).value)"
    >
      <option v-if="!offered.length" value="">nothing is selected yet</option>
      <option v-for="c in offered" :key="c.says" :value="c.says">{{ c.says }}</option>
    </select>
    <p v-if="whole?.targets.length" class="soft">Earlier places: {{ whole.targets.map(targetOf).join(' · ') }}</p>
    <footer>
      <a-button size="small" @click="replacing = null">Cancel</a-button>
      <a-button size="small" type="primary" :disabled="!offered.length" :loading="busy" title="Ctrl Enter" @click="put"
        >Place it here</a-button
      >
    </footer>
  </section>
</template>

<style scoped>
select {
  width: 100%;
  height: 30px;
  margin: 6px 0;
  font: inherit;
  color: inherit;
  background: var(--sheet);
  border: 1px solid var(--rule);
  border-radius: var(--radius);
}
footer {
  display: flex;
  justify-content: end;
  gap: 10px;
  margin-top: 8px;
}
</style>
