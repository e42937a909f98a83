<script setup lang="ts">
import { useQuery, useQueryClient } from '@tanstack/vue-query'
import { computed, ref } from 'vue'
import { useRouter } from 'vue-router'
import { api, data, ProblemError, words, type Schemas } from '@/api/client'
import { size } from '@/words/format'

const router = useRouter()
const queries = useQueryClient()
const { data: sources, error: refused } = useQuery({
  queryKey: ['sources'],
  queryFn: ({ signal }) => data(api.GET('/api/sources', { signal })),
  retry: false,
})
const kind = ref<'address' | 'folder' | 'file'>('address')
const address = ref('')
const folder = ref('')
const file = ref<File | null>(null)
const name = ref('')
const subfolder = ref('')
const isPrivate = ref(false)
const user = ref('')
const token = ref('')
const key = ref('')
const fault = ref('')
const sent = ref<number | null>(null)
const isSSH = computed(() => /^ssh:|^[^/:]+@/.test(address.value.trim()))

/** Sends the file as a stream, telling how far it is. */
function upload(f: File): Promise<Schemas['ShelfItem']> {
  const q = new URLSearchParams({ name: f.name })
  if (name.value.trim()) q.set('as', name.value.trim())
  if (subfolder.value.trim()) q.set('subfolder', subfolder.value.trim())
  return new Promise((resolve, reject) => {
    const x = new XMLHttpRequest()
    x.open('POST', `/api/uploads?${q}`)
    x.setRequestHeader('content-type', 'application/octet-stream')
    x.responseType = 'json'
    x.upload.onprogress = (e) => (sent.value = e.total ? e.loaded / e.total : null)
    x.onload = () => (x.status < 300 ? resolve(x.response) : reject(new ProblemError(x.response ?? {}, x.status)))
    x.onerror = () => reject(new ProblemError({ detail: 'The upload was cut off. Try again.' }, 0))
    x.send(f)
  })
}

const busy = ref(false)
async function submit() {
  fault.value = ''
  busy.value = true
  try {
    let made: Schemas['ShelfItem']
    if (kind.value === 'file') {
      if (!file.value) throw new Error('Choose a file first.')
      made = await upload(file.value)
    } else {
      const body: Schemas['TakeInRequest'] = {
        source: (kind.value === 'folder' ? folder : address).value.trim(),
        name: name.value,
        subfolder: subfolder.value,
      }
      if (kind.value === 'address' && isPrivate.value)
        Object.assign(body, isSSH.value ? { key: key.value } : { user: user.value, token: token.value })
      made = await data(api.POST('/api/repositories', { body }))
    }
    await queries.invalidateQueries({ queryKey: ['shelf'] })
    await router.push(`/r/${made.id}`)
  } catch (e) {
    fault.value = words(e)
  } finally {
    busy.value = false
    sent.value = null
  }
}
</script>

<template>
  <div class="page narrow middle">
    <h1>Take in a repository</h1>
    <p class="prose lead">
      It is copied into a mirror of our own and only ever read. Then you choose the release to read, and it is surveyed.
    </p>
    <p v-if="sources?.full" class="fault" role="alert">Nothing can be taken in now: {{ sources.full }}.</p>
    <p v-if="refused" class="prose" role="alert">
      You may not take in repositories here. Ask the owner of this installation to let you; a keeper can invite you to a repository that is
      here already.
    </p>
    <a-radio-group v-if="!refused" v-model:value="kind" class="kinds">
      <a-radio-button value="address">An address</a-radio-button>
      <a-radio-button value="folder">A folder of the server</a-radio-button>
      <a-radio-button value="file">An archive or bundle</a-radio-button>
    </a-radio-group>
    <form v-if="!refused" class="form" @submit.prevent="submit">
      <template v-if="kind === 'address'">
        <label>
          Git address
          <a-input v-model:value="address" name="address" placeholder="https://… or ssh://…" required autofocus spellcheck="false" />
          <span class="soft">By {{ sources?.protocols.join(', ') }}.</span>
        </label>
        <a-checkbox v-model:checked="isPrivate">It is private</a-checkbox>
        <template v-if="isPrivate">
          <label v-if="isSSH">Private key<a-textarea v-model:value="key" name="key" :rows="4" class="mono" spellcheck="false" /></label>
          <div v-else class="row">
            <label>User (may be empty)<a-input v-model:value="user" name="user" autocomplete="off" /></label>
            <label>Token<a-input-password v-model:value="token" name="token" autocomplete="off" /></label>
          </div>
          <p class="soft">Kept encrypted with this installation's key, given to git alone, never shown again.</p>
        </template>
      </template>
      <label v-else-if="kind === 'folder'">
        Folder
        <a-input v-model:value="folder" name="folder" placeholder="/path/to/the/repository" required autofocus spellcheck="false" />
        <span v-if="sources?.roots.length" class="soft">Below {{ sources.roots.join(' or ') }}.</span>
        <span v-else-if="sources" class="fault"
          >No folder of the server is open to you. Its owner opens some to people; whoever runs it names them with --roots.</span
        >
      </label>
      <label v-else>
        Archive (zip, tar, tar.gz) or git bundle
        <input type="file" name="file" @change="(e) => (file = (e.target as HTMLInputElement).files?.[0] ?? null)" />
        <span v-if="sources" class="soft"
          >Up to {{ size(sources.upload_limit) }}. With its .git folder the history is read; without one it becomes a single commit.</span
        >
      </label>
      <div class="row">
        <label>Name (made from the source if empty)<a-input v-model:value="name" name="name" :maxlength="100" /></label>
        <label
          >Only this subfolder (all if empty)<a-input
            v-model:value="subfolder"
            name="subfolder"
            placeholder="packages/core"
            spellcheck="false"
        /></label>
      </div>
      <p v-if="fault" class="fault" role="alert">{{ fault }}</p>
      <a-progress v-if="sent !== null" :percent="Math.round(sent * 100)" />
      <div><a-button type="primary" html-type="submit" :loading="busy">Take it in</a-button></div>
    </form>
  </div>
</template>

<style scoped>
.middle {
  margin: 0 auto;
}
.lead {
  margin: 6px 0 20px;
}
.kinds {
  margin-bottom: 18px;
}
.form {
  display: grid;
  gap: 16px;
}
label:not([class*='ant-']) {
  display: grid;
  gap: 4px;
  flex: 1;
}
.row {
  display: flex;
  gap: 16px;
}
</style>
