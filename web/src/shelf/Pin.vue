<script setup lang="ts">
import { useQuery, useQueryClient } from '@tanstack/vue-query'
import { computed, ref } from 'vue'
import { useRouter } from 'vue-router'
import { api, data, words, type Schemas } from '@/api/client'
import { includes, useRepository } from '@/frame/repository'
import { count, date, short } from '@/words/format'

const repository = useRepository()
const router = useRouter()
const queries = useQueryClient()
const id = computed(() => repository.value.id)
const keeper = computed(() => includes(repository.value.role, 'keeper'))
const { data: refs, error } = useQuery({
  queryKey: computed(() => ['repository', id.value, 'refs']),
  queryFn: ({ signal }) => data(api.GET('/api/repositories/{repository}/refs', { params: { path: { repository: id.value } }, signal })),
})
const list = ref<'tags' | 'branches' | 'recent'>('tags')
const typed = ref('')
const fault = ref('')
const busy = ref(false)
const filter = ref('')
const shown = computed(() => {
  const all = refs.value?.[list.value] ?? []
  const f = filter.value.toLowerCase()
  return f ? all.filter((r) => (r.name + ' ' + r.subject).toLowerCase().includes(f)) : all
})
const most = 200

async function pin(at: string) {
  busy.value = true
  fault.value = ''
  try {
    await data(api.PUT('/api/repositories/{repository}/pin', { params: { path: { repository: id.value } }, body: { pin: at } }))
    // the pin is set: what is shown until the answer arrives must not lead back here
    queries.setQueryData<Schemas['RepositoryInfo']>(['repository', id.value, 'info'], (r) => r && { ...r, state: 'pinned' })
    await queries.invalidateQueries({ queryKey: ['repository', id.value] })
    await router.push({ name: 'overview', params: { repository: id.value } })
  } catch (e) {
    fault.value = words(e)
  } finally {
    busy.value = false
  }
}
const asked = (r: Schemas['RefInfo']) => (r.kind === 'commit' ? r.commit : r.name)
</script>

<template>
  <div class="page pin">
    <h1>{{ repository.pin ? 'Where this repository is pinned' : 'Choose what everyone reads' }}</h1>
    <p class="prose lead">
      <template v-if="repository.pin"
        >Now at {{ repository.pin_ref || 'commit' }} <span class="mono">{{ repository.pin }}</span>.</template
      >
      <template v-else>The pin is one commit, so that everyone reads the same lines.</template>
    </p>
    <ul v-if="repository.notes.length" class="notes">
      <li v-for="n in repository.notes" :key="n" class="soft">{{ n }}</li>
    </ul>
    <p v-if="refs?.shallow" class="soft">This repository is shallow: its history is cut off, and the survey says where.</p>
    <p v-if="error" class="fault" role="alert">{{ words(error) }}</p>
    <p v-if="!keeper" class="soft">Only a keeper moves the pin.</p>
    <section v-if="refs?.suggested && keeper" class="suggested">
      <div>
        <h2>{{ refs.suggested.name }}</h2>
        <p class="soft">
          {{ refs.why }} · {{ date(refs.suggested.time) }} · <span class="mono">{{ short(refs.suggested.commit) }}</span> ·
          {{ refs.suggested.subject }}
        </p>
      </div>
      <a-button type="primary" :loading="busy" :disabled="repository.pin === refs.suggested.commit" @click="pin(asked(refs.suggested))">
        {{ repository.pin === refs.suggested.commit ? 'Pinned here' : 'Pin here and survey' }}
      </a-button>
    </section>
    <p v-if="fault" class="fault" role="alert">{{ fault }}</p>
    <form v-if="keeper" class="typed" @submit.prevent="pin(typed.trim())">
      <label for="typed">Or type a tag, a branch or a commit id</label>
      <div class="row">
        <a-input id="typed" v-model:value="typed" name="pin" class="mono" spellcheck="false" required />
        <a-button html-type="submit" :disabled="!typed.trim()" :loading="busy">Pin there</a-button>
      </div>
    </form>
    <template v-if="refs">
      <div class="choose">
        <a-radio-group v-model:value="list">
          <a-radio-button value="tags">{{ count(refs.tags.length) }} tags</a-radio-button>
          <a-radio-button value="branches">{{ count(refs.branches.length) }} branches</a-radio-button>
          <a-radio-button value="recent">{{ count(refs.recent.length) }} newest commits</a-radio-button>
        </a-radio-group>
        <a-input v-model:value="filter" placeholder="narrow by letters" style="width: 220px" aria-label="Narrow the list" />
      </div>
      <table>
        <tbody>
          <tr v-for="r in shown.slice(0, most)" :key="r.kind + r.name">
            <td class="name">{{ r.name }}</td>
            <td class="soft">{{ date(r.time) }}</td>
            <td class="mono soft">{{ short(r.commit) }}</td>
            <td class="subject">{{ r.subject }}</td>
            <td v-if="keeper" class="act">
              <span v-if="r.commit === repository.pin" class="soft">pinned here</span>
              <button v-else class="link" @click="pin(asked(r))">pin here</button>
            </td>
          </tr>
        </tbody>
      </table>
      <p v-if="!shown.length" class="soft">None{{ filter ? ' that holds these letters' : '' }}.</p>
      <p v-if="shown.length > most" class="soft">{{ count(most) }} of {{ count(shown.length) }} shown; narrow by letters to see others.</p>
    </template>
  </div>
</template>

<style scoped>
.pin {
  max-width: 980px;
  margin: 0 auto;
}
.lead {
  margin: 6px 0 14px;
}
.notes {
  margin: 0 0 12px;
  padding-left: 18px;
}
.suggested {
  display: flex;
  justify-content: space-between;
  align-items: center;
  gap: 24px;
  padding: 14px 0;
  border-top: 1px solid var(--rule);
  border-bottom: 1px solid var(--rule);
  margin-bottom: 14px;
}
.typed {
  display: grid;
  gap: 4px;
  margin: 14px 0 20px;
}
.row {
  display: flex;
  gap: 10px;
  max-width: 520px;
}
.choose {
  display: flex;
  justify-content: space-between;
  margin-bottom: 8px;
}
table {
  width: 100%;
  border-collapse: collapse;
}
td {
  padding: 5px 14px 5px 0;
  border-bottom: 1px solid var(--rule-soft);
  white-space: nowrap;
}
.name {
  font-weight: 600;
  max-width: 260px;
  overflow: hidden;
  text-overflow: ellipsis;
}
.subject {
  max-width: 420px;
  overflow: hidden;
  text-overflow: ellipsis;
}
.act {
  text-align: right;
  padding-right: 0;
}
</style>
