<script setup lang="ts">
import { useQuery, useQueryClient } from '@tanstack/vue-query'
import { computed, reactive, ref, watch } from 'vue'
import { useRouter } from 'vue-router'
import { api, data, words } from '@/api/client'
import { useMe } from '@/account/me'
import { Corrections } from '@/correct'
import { notice } from '@/frame/notice'
import { includes, useRepository } from '@/frame/repository'
import Dialog from '@/frame/Dialog.vue'
import Hook from './Hook.vue'

const repository = useRepository()
const router = useRouter()
const queries = useQueryClient()
const { me } = useMe()
const id = computed(() => repository.value.id)
const path = computed(() => ({ path: { repository: id.value } }))
const keeper = computed(() => includes(repository.value.role, 'keeper'))
const { data: members } = useQuery({
  queryKey: computed(() => ['repository', id.value, 'members']),
  queryFn: ({ signal }) => data(api.GET('/api/repositories/{repository}/members', { params: path.value, signal })),
})
const role = ref<'reader' | 'writer' | 'keeper'>('reader')
const link = ref('')
const settings = reactive({ name: '', subfolder: '', half_life: 180 })
// each as it was changed, by whomever: a survey's progress leaves alone what is being typed
for (const field of ['name', 'subfolder', 'half_life'] as const)
  watch(
    () => repository.value[field],
    (value) => Object.assign(settings, { [field]: value }),
    { immediate: true },
  )
const confirm = ref('')
const removing = ref(false)

async function attempt(what: () => Promise<unknown>, told?: string) {
  try {
    await what()
    if (told) notice(told)
    await queries.invalidateQueries({ queryKey: ['repository', id.value] })
  } catch (e) {
    notice(words(e), { fault: true })
  }
}
const invite = () =>
  attempt(async () => {
    const made = await data(api.POST('/api/repositories/{repository}/invitations', { params: path.value, body: { role: role.value } }))
    link.value = `${location.origin}/invitation/${made.token}`
  })
const setRole = (person: number, to: string) =>
  attempt(() =>
    data(
      api.PUT('/api/repositories/{repository}/members/{person}', {
        params: { path: { repository: id.value, person } },
        body: { role: to as 'reader' | 'writer' | 'keeper' },
      }),
    ),
  )
const takeOut = (person: number) =>
  attempt(() => data(api.DELETE('/api/repositories/{repository}/members/{person}', { params: { path: { repository: id.value, person } } })))
const save = () =>
  attempt(() => data(api.PUT('/api/repositories/{repository}/settings', { params: path.value, body: { ...settings } })), 'Kept.')
async function remove() {
  await attempt(async () => {
    await data(api.DELETE('/api/repositories/{repository}', { params: { ...path.value, query: { name: confirm.value } } }))
    removing.value = false
    notice(`${repository.value.name} was removed, with everything of it.`)
    await router.push('/')
    await queries.invalidateQueries({ queryKey: ['shelf'] })
  })
}
async function copy() {
  await navigator.clipboard.writeText(link.value)
  notice('The link is copied.')
}
</script>

<template>
  <div class="page narrow middle">
    <h1>People and settings</h1>
    <section>
      <h2>People</h2>
      <table>
        <tbody>
          <tr v-for="m in members ?? []" :key="m.id">
            <td>{{ m.name }}<span v-if="m.id === me?.person?.id" class="soft"> (you)</span></td>
            <td class="soft">{{ m.email }}</td>
            <td>
              <select
                v-if="keeper"
                :value="m.role"
                :aria-label="`Part of ${m.name}`"
                @change="(e) => setRole(m.id, (e.target as HTMLSelectElement).value)"
              >
                <option value="reader">reader</option>
                <option value="writer">writer</option>
                <option value="keeper">keeper</option>
              </select>
              <template v-else>{{ m.role }}</template>
            </td>
            <td><button v-if="keeper" class="link" @click="takeOut(m.id)">take out</button></td>
          </tr>
        </tbody>
      </table>
      <p class="soft">
        A reader reads and discusses; a writer writes plans too; a keeper manages people and settings too. Whoever owns this installation
        keeps every repository.
      </p>
    </section>
    <Corrections :repository="id" :writer="includes(repository.role, 'writer')" />
    <section v-if="keeper">
      <h2>Invite by link</h2>
      <div class="row">
        <label for="role">As a</label>
        <select id="role" v-model="role">
          <option value="reader">reader</option>
          <option value="writer">writer</option>
          <option value="keeper">keeper</option>
        </select>
        <a-button @click="invite">Make a link</a-button>
      </div>
      <div v-if="link" class="row">
        <a-input :value="link" readonly class="mono" aria-label="Invitation link" />
        <a-button @click="copy">Copy</a-button>
      </div>
      <p v-if="link" class="soft">It lets one person in, within 14 days. It is shown this once.</p>
    </section>
    <section v-if="keeper">
      <h2>Settings</h2>
      <form class="form" @submit.prevent="save">
        <label>Name<a-input v-model:value="settings.name" :maxlength="100" required /></label>
        <label>Only this subfolder (all if empty)<a-input v-model:value="settings.subfolder" /></label>
        <label>Days after which a change counts half<a-input-number v-model:value="settings.half_life" :min="1" :max="36500" /></label>
        <div><a-button html-type="submit">Keep these</a-button></div>
        <p class="soft">A change of the subfolder or the half-life makes a new survey.</p>
      </form>
    </section>
    <Hook v-if="keeper" :repository="id" />
    <section v-if="keeper">
      <h2>Remove</h2>
      <a-button danger @click="removing = true">Remove this repository …</a-button>
      <Dialog
        v-if="removing"
        :title="`Remove ${repository.name}?`"
        ok="Delete everything"
        danger
        :disabled="confirm !== repository.name"
        @close="removing = false"
        @save="remove"
      >
        <p>
          Its mirror, surveys, plans and everybody's progress go, and do not come back. The repository it was taken from stays as it is.
        </p>
        <label class="confirm">Type its name, {{ repository.name }}<a-input v-model:value="confirm" /></label>
      </Dialog>
    </section>
  </div>
</template>

<style scoped>
.middle {
  margin: 0 auto;
}
section {
  display: grid;
  gap: 10px;
  padding: 18px 0;
  border-bottom: 1px solid var(--rule);
}
section:last-child {
  border: 0;
}
table {
  width: 100%;
  border-collapse: collapse;
}
td {
  padding: 5px 12px 5px 0;
  border-bottom: 1px solid var(--rule-soft);
}
.row {
  display: flex;
  gap: 10px;
  align-items: center;
}
.form,
label {
  display: grid;
  gap: 4px;
}
.form {
  gap: 12px;
}
.row label {
  display: inline;
}
.confirm {
  margin-top: 12px;
}
select {
  height: 28px;
  font: inherit;
  color: inherit;
  background: var(--sheet);
  border: 1px solid var(--rule);
  border-radius: var(--radius);
}
</style>
