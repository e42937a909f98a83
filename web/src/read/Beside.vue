<script setup lang="ts">
import { useQuery } from '@tanstack/vue-query'
import { refDebounced } from '@vueuse/core'
import { computed, ref } from 'vue'
import Dialog from '@/frame/Dialog.vue'
import { useRouter } from 'vue-router'
import { api, data, type Schemas } from '@/api/client'

/** What stands beside a file: a twin, its tests, another state of itself, or any
 * other file. */
const open = defineModel<boolean>({ required: true })
const props = defineProps<{ repository: number; path: string; at?: string; links?: Schemas['LinksInfo'] }>()
const router = useRouter()
const typed = ref('')
const revision = ref('')
const asked = refDebounced(typed, 120)
const { data: found } = useQuery({
  queryKey: computed(() => ['repository', props.repository, 'paths', asked.value]),
  queryFn: ({ signal }) =>
    data(
      api.GET('/api/repositories/{repository}/paths', {
        params: { path: { repository: props.repository }, query: { text: asked.value, limit: 12 } },
        signal,
      }),
    ),
  enabled: computed(() => open.value && asked.value.trim() !== ''),
})
const offers = computed(() => [
  ...(props.links?.twins.map((t) => ({ path: t.path, why: `its twin: ${t.evidence}` })) ?? []),
  ...(props.links?.tests.map((path) => ({ path, why: 'a test that shows it' })) ?? []),
  ...(props.links?.shows.map((path) => ({ path, why: 'what it shows' })) ?? []),
])
function go(beside: string, at?: string) {
  open.value = false
  void router.push({
    name: 'pair',
    params: { repository: props.repository },
    query: { path: props.path, ...(props.at ? { at: props.at } : {}), beside, ...(at ? { beside_at: at } : {}) },
  })
}
</script>

<template>
  <Dialog v-if="open" title="Put beside it" :width="640" @close="open = false">
    <template v-if="offers.length">
      <ul>
        <li v-for="o in offers" :key="o.path">
          <button class="link mono" @click="go(o.path)">{{ o.path }}</button> <span class="soft">{{ o.why }}</span>
        </li>
      </ul>
    </template>
    <form @submit.prevent="revision.trim() && go(path, revision.trim())">
      <label for="revision">The same file at another commit</label>
      <div class="row">
        <a-input id="revision" v-model:value="revision" class="mono" placeholder="a tag, a branch or a commit id" />
        <a-button html-type="submit" :disabled="!revision.trim()">Beside</a-button>
      </div>
    </form>
    <label for="other">Any other file</label>
    <a-input id="other" v-model:value="typed" class="mono" placeholder="part of its path" />
    <ul>
      <li v-for="f in asked.trim() ? found?.files : []" :key="f.path">
        <button class="link mono" @click="go(f.path)">{{ f.path }}</button>
      </li>
      <li v-if="asked.trim() && found && !found.files.length" class="soft">No path of this survey holds “{{ asked }}”.</li>
    </ul>
  </Dialog>
</template>

<style scoped>
ul {
  list-style: none;
  margin: 0 0 12px;
  padding: 0;
}
li {
  padding: 3px 0;
  border-top: 1px solid var(--rule-soft);
  overflow-wrap: anywhere;
}
form {
  margin-bottom: 12px;
}
label {
  display: block;
  margin-bottom: 4px;
}
.row {
  display: flex;
  gap: 8px;
}
</style>
