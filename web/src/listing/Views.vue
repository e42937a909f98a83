<script setup lang="ts">
import { useMutation, useQuery, useQueryClient } from '@tanstack/vue-query'
import { computed, ref } from 'vue'
import { useRoute, useRouter } from 'vue-router'
import { api, data, words } from '@/api/client'
import { notice } from '@/frame/notice'
import Dialog from '@/frame/Dialog.vue'

/** Lists that are kept by a name: how the page is narrowed and grouped. */
const props = defineProps<{ repository: number; page: 'leads' | 'tagged' | 'notes'; writer: boolean }>()
const route = useRoute()
const router = useRouter()
const client = useQueryClient()
const key = computed(() => ['repository', props.repository, 'views', props.page])
const path = computed(() => ({ repository: props.repository }))
const { data: views } = useQuery({
  queryKey: key,
  queryFn: ({ signal }) =>
    data(api.GET('/api/repositories/{repository}/views', { params: { path: path.value, query: { page: props.page } }, signal })),
})
const open = ref(false)
const name = ref('')
const shared = ref(false)
const here = computed(() => route.fullPath.split('?')[1] ?? '')
const keep = useMutation({
  mutationFn: () =>
    data(
      api.POST('/api/repositories/{repository}/views', {
        params: { path: path.value },
        body: { page: props.page, name: name.value.trim(), query: here.value, shared: shared.value },
      }),
    ),
  onSuccess: () => {
    open.value = false
    name.value = ''
    void client.invalidateQueries({ queryKey: key.value })
  },
  onError: (e) => notice(words(e), { fault: true }),
})
const end = useMutation({
  mutationFn: (view: number) =>
    data(api.DELETE('/api/repositories/{repository}/views/{view}', { params: { path: { ...path.value, view } } })),
  onSuccess: () => client.invalidateQueries({ queryKey: key.value }),
  onError: (e) => notice(words(e), { fault: true }),
})
const go = (query: string) => router.push(route.path + (query ? '?' + query : ''))
</script>

<template>
  <a-dropdown :trigger="['click']">
    <button class="link">kept lists{{ views?.length ? ` (${views.length})` : '' }} ▾</button>
    <template #overlay>
      <a-menu>
        <a-menu-item v-for="v in views ?? []" :key="v.id" @click="go(v.query)">
          <span class="view">
            <span>{{ v.query === here ? '✓ ' : '' }}{{ v.name }}<span v-if="v.shared" class="soft"> · everybody’s</span></span>
            <button v-if="!v.shared || writer" class="link" :aria-label="`Keep ${v.name} no more`" @click.stop="end.mutate(v.id)">×</button>
          </span>
        </a-menu-item>
        <a-menu-item v-if="!views?.length" key="none" disabled>None is kept yet</a-menu-item>
        <a-menu-divider />
        <a-menu-item key="keep" @click="open = true">Keep this list …</a-menu-item>
      </a-menu>
    </template>
  </a-dropdown>
  <Dialog
    v-if="open"
    title="Keep this list"
    ok="Save"
    :disabled="!name.trim()"
    :busy="keep.isPending.value"
    :unsaved="!!name.trim()"
    @close="open = false"
    @save="keep.mutate()"
  >
    <p class="soft">How it is narrowed and grouped is kept by a name; what it holds is found anew each time.</p>
    <a-input
      v-model:value="name"
      name="view"
      autofocus
      :maxlength="60"
      placeholder="Name"
      aria-label="Name of the list"
      @keydown.enter.prevent="name.trim() && keep.mutate()"
    />
    <a-checkbox v-if="writer" v-model:checked="shared" class="shared">for everybody who reads this repository</a-checkbox>
  </Dialog>
</template>

<style scoped>
.view {
  display: flex;
  justify-content: space-between;
  gap: 24px;
}
p,
.shared {
  margin: 8px 0;
}
</style>
