<script setup lang="ts">
import { useMutation, useQuery, useQueryClient } from '@tanstack/vue-query'
import { refDebounced } from '@vueuse/core'
import { computed, ref } from 'vue'
import { api, data, words } from '@/api/client'
import Dialog from '@/frame/Dialog.vue'
import { count, many } from '@/words/format'
import { useMarks } from './marks'

/** The rules that hide tagged comments, and what another would hide. */
const open = defineModel<boolean>({ required: true })
const props = defineProps<{ repository: number; writer: boolean }>()
const client = useQueryClient()
const { forget } = useMarks(() => props.repository)
const key = computed(() => ['repository', props.repository, 'tagged-rules'])
const path = computed(() => ({ repository: props.repository }))
const { data: rules, error } = useQuery({
  queryKey: key,
  queryFn: ({ signal }) => data(api.GET('/api/repositories/{repository}/tagged/ignored', { params: { path: path.value }, signal })),
  retry: false,
})
const kind = ref<'path' | 'text'>('path')
const pattern = ref('')
const asked = refDebounced(pattern, 250)
const { data: preview, error: fault } = useQuery({
  queryKey: computed(() => ['repository', props.repository, 'tagged-preview', kind.value, asked.value]),
  queryFn: ({ signal }) =>
    data(
      api.GET('/api/repositories/{repository}/tagged/ignored/preview', {
        params: { path: path.value, query: { kind: kind.value, pattern: asked.value } },
        signal,
      }),
    ),
  enabled: computed(() => !!asked.value.trim()),
  retry: false,
})
const changed = async () => {
  await Promise.all([client.invalidateQueries({ queryKey: key.value }), forget()])
}
const add = useMutation({
  mutationFn: () =>
    data(
      api.POST('/api/repositories/{repository}/tagged/ignored', {
        params: { path: path.value },
        body: { kind: kind.value, pattern: pattern.value },
      }),
    ),
  onSuccess: async () => {
    pattern.value = ''
    await changed()
  },
})
const end = useMutation({
  mutationFn: (rule: number) =>
    data(api.DELETE('/api/repositories/{repository}/tagged/ignored/{rule}', { params: { path: { ...path.value, rule } } })),
  onSuccess: changed,
})
const problem = computed(() => error.value ?? (asked.value ? fault.value : null) ?? add.error.value ?? end.error.value)
</script>

<template>
  <Dialog
    v-if="open"
    title="Rules that hide tagged comments"
    :width="680"
    :unsaved="!!pattern.trim()"
    :busy="add.isPending.value"
    @close="open = false"
    @save="pattern.trim() && !fault && add.mutate()"
  >
    <p v-if="rules && !rules.length" class="soft">No rule hides anything.</p>
    <ul v-else>
      <li v-for="r in rules ?? []" :key="r.id">
        <span class="soft">{{ r.kind === 'path' ? 'path' : 'says' }}</span> <code>{{ r.pattern }}</code>
        <span class="soft">hides {{ many(r.hides, 'comment') }}</span>
        <button v-if="writer" class="link" @click="end.mutate(r.id)">take away</button>
      </li>
    </ul>
    <template v-if="writer">
      <h3>Hide more</h3>
      <div class="new">
        <a-select
          v-model:value="kind"
          style="width: 130px"
          :options="[
            { value: 'path', label: 'whose path is' },
            { value: 'text', label: 'that say' },
          ]"
          aria-label="Hide those"
        />
        <a-input
          v-model:value="pattern"
          name="pattern"
          class="mono"
          :placeholder="kind === 'path' ? 'vendor/** or *.min.js' : 'a pattern, as in ^TODO: add tests'"
          aria-label="Pattern"
          @keydown.enter.prevent="preview?.hides && add.mutate()"
        />
        <a-button type="primary" :disabled="!pattern.trim() || !!fault" :loading="add.isPending.value" @click="add.mutate()">Hide</a-button>
      </div>
      <p v-if="asked && preview" class="soft">
        It would hide {{ count(preview.hides) }} of {{ many(preview.of, 'comment') }}{{ preview.hides ? ', the first of them:' : '.' }}
      </p>
      <ul v-if="asked && preview" class="first">
        <li v-for="t in preview.first" :key="t.lead + t.line">
          <span class="mono">{{ t.path }}:{{ t.line }}</span> {{ t.said }}
        </li>
      </ul>
    </template>
    <p v-if="problem" class="fault" role="alert">{{ words(problem) }}</p>
  </Dialog>
</template>

<style scoped>
ul {
  padding-left: 18px;
  margin: 8px 0;
}
li code {
  margin: 0 8px;
}
h3,
.new,
p {
  margin: 10px 0 6px;
}
.new {
  display: flex;
  gap: 8px;
}
.first {
  max-height: 200px;
  overflow: auto;
  font-size: 12.5px;
}
.first li {
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
}
.first .mono {
  font-size: 12px;
}
li .link {
  margin-left: 12px;
}
</style>
