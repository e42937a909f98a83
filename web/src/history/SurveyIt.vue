<script setup lang="ts">
import { useQueryClient } from '@tanstack/vue-query'
import { onUnmounted, ref } from 'vue'
import { api, data, words } from '@/api/client'
import { onChange } from '@/api/events'
import { notice } from '@/frame/notice'
import { includes, useRepository } from '@/frame/repository'

/** What is not known of a commit that is not surveyed, and the way to know it. */
const props = defineProps<{ commit: string; surveying: boolean }>()
const repository = useRepository()
const queries = useQueryClient()
const asked = ref(false)
async function survey() {
  asked.value = true
  try {
    const params = { path: { repository: repository.value.id, commit: props.commit } }
    await data(api.POST('/api/repositories/{repository}/commits/{commit}/survey', { params }))
  } catch (e) {
    asked.value = false
    notice(words(e), { fault: true })
  }
}
onUnmounted(
  onChange((e) => {
    if (e?.kind === 'survey' && e.repository === repository.value.id && e.state && e.state !== 'running' && e.state !== 'waiting') {
      asked.value = false
      void queries.invalidateQueries({ queryKey: ['repository', repository.value.id] })
    }
  }),
)
</script>

<template>
  <span class="soft"
    >This commit is not surveyed: its files can be read, but not what they say to each other.
    <template v-if="surveying || asked">It is being surveyed …</template>
    <button v-else-if="includes(repository.role, 'writer')" class="link" @click="survey">survey it; the pin stays</button></span
  >
</template>
