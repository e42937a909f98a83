<script setup lang="ts">
import { ref } from 'vue'
import { useQueryClient } from '@tanstack/vue-query'
import { useMe } from '@/account/me'
import { api, data, words, type Schemas } from '@/api/client'

const { me } = useMe()
const sentence = (s: string) => s.charAt(0).toUpperCase() + s.slice(1)
const props = defineProps<{ repository: Schemas['RepositoryInfo'] }>()
const queries = useQueryClient()
const fault = ref('')
const busy = ref(false)

async function attempt(what: () => Promise<unknown>) {
  fault.value = ''
  busy.value = true
  try {
    await what()
    await queries.invalidateQueries({ queryKey: ['repository', props.repository.id] })
  } catch (e) {
    fault.value = words(e)
  } finally {
    busy.value = false
  }
}
const path = () => ({ path: { repository: props.repository.id } })
const again = () => attempt(() => data(api.POST('/api/repositories/{repository}/take-in', { params: path() })))
function fromFile(e: Event) {
  const file = (e.target as HTMLInputElement).files?.[0]
  if (file)
    void attempt(() =>
      data(
        api.PUT('/api/repositories/{repository}/file', {
          params: path(),
          body: file as unknown as string,
          bodySerializer: (b: unknown) => b as BodyInit,
          headers: { 'content-type': 'application/octet-stream' },
        }),
      ),
    )
}
</script>

<template>
  <div class="page narrow middle">
    <template v-if="repository.state === 'failed'">
      <h1>{{ repository.pin ? `${repository.name} cannot be read now` : `${repository.name} could not be taken in` }}</h1>
      <p class="prose fault" role="alert">{{ sentence(repository.problem) }}.</p>
      <p v-if="repository.pin" class="prose">Its survey, notes and plans are kept. Taken in again, it is read where it was pinned.</p>
      <p class="soft source">{{ repository.source }}</p>
      <div class="acts">
        <a-button v-if="repository.role === 'keeper'" type="primary" :loading="busy" @click="again">{{
          repository.pin ? 'Take it in again' : 'Try again'
        }}</a-button>
        <label v-if="repository.role === 'keeper' && repository.from_file" class="file">
          Take in from another file
          <input type="file" name="file" :disabled="busy" @change="fromFile" />
        </label>
        <router-link v-if="!repository.pin && me?.person?.may_take_in" to="/take-in"><a-button>Take in another way</a-button></router-link>
        <router-link v-if="repository.role === 'keeper'" :to="{ name: 'settings', params: { repository: repository.id } }"
          ><a-button>Remove it</a-button></router-link
        >
      </div>
      <p v-if="fault" class="fault" role="alert">{{ fault }}</p>
    </template>
    <template v-else>
      <h1>Taking in {{ repository.name }}</h1>
      <p class="prose" role="status">{{ repository.doing || 'waiting for a worker' }} …</p>
      <p class="soft source">{{ repository.source }}</p>
      <a-progress :percent="100" status="active" :show-info="false" />
      <p class="soft">You may leave this page; it goes on.</p>
    </template>
  </div>
</template>

<style scoped>
.middle {
  width: 100%;
  margin: 6vh auto 0;
  display: grid;
  gap: 12px;
  align-content: start;
}
.acts {
  display: flex;
  gap: 10px;
}
.source {
  overflow-wrap: anywhere;
}
</style>
