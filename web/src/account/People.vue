<script setup lang="ts">
import { useQuery, useQueryClient } from '@tanstack/vue-query'
import { ref } from 'vue'
import { api, data, words, type Schemas } from '@/api/client'
import { notice } from '@/frame/notice'
import { many, size } from '@/words/format'

/** Everybody with an account, and what each may take in: for the installation's owner. */
const queries = useQueryClient()
const { data: installation, error } = useQuery({
  queryKey: ['people'],
  queryFn: ({ signal }) => data(api.GET('/api/people', { signal })),
  retry: false,
})
const saving = ref(0)

async function set(person: Schemas['PersonInfo'], change: { may_take_in?: boolean; roots?: string[] }) {
  const body = { may_take_in: person.may_take_in, roots: person.roots, ...change }
  if (!body.may_take_in) body.roots = []
  saving.value = person.id
  try {
    await data(api.PUT('/api/people/{person}/rights', { params: { path: { person: person.id } }, body }))
    await queries.invalidateQueries({ queryKey: ['people'] })
  } catch (e) {
    notice(words(e), { fault: true })
  } finally {
    saving.value = 0
  }
}
const toggled = (list: string[], one: string, on: boolean) => (on ? [...list, one] : list.filter((x) => x !== one))
</script>

<template>
  <div class="page people">
    <h1>People of this installation</h1>
    <p class="prose soft">
      Who may take in repositories, and from where. Everybody reads only the repositories in which they have a part; a keeper invites people
      in a repository's settings.
    </p>
    <p v-if="error" class="fault" role="alert">{{ words(error) }}</p>
    <table v-else-if="installation">
      <thead>
        <tr>
          <th>Person</th>
          <th>May take in</th>
          <th>Folders of the server</th>
          <th class="n">Has a part in</th>
          <th class="n">Taken in</th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="p in installation.people" :key="p.id">
          <td>
            <div class="name">{{ p.name }}</div>
            <div class="soft address">{{ p.email }}</div>
          </td>
          <td>
            <span v-if="p.owner" class="soft">owner: everything</span>
            <a-checkbox
              v-else
              :checked="p.may_take_in"
              :disabled="saving === p.id"
              :aria-label="`${p.name} may take in repositories`"
              @change="(e: { target: { checked: boolean } }) => set(p, { may_take_in: e.target.checked })"
              >addresses and files</a-checkbox
            >
          </td>
          <td>
            <span v-if="p.owner" class="soft">all of them</span>
            <span v-else-if="!installation.roots.length" class="soft">the server was started with none</span>
            <span v-else-if="!p.may_take_in" class="soft">none</span>
            <div v-for="r in p.owner || !p.may_take_in ? [] : installation.roots" :key="r">
              <a-checkbox
                :checked="p.roots.includes(r)"
                :disabled="saving === p.id"
                :aria-label="`${p.name} may take in folders below ${r}`"
                @change="(e: { target: { checked: boolean } }) => set(p, { roots: toggled(p.roots, r, e.target.checked) })"
                ><span class="mono root">{{ r }}</span></a-checkbox
              >
            </div>
          </td>
          <td class="n">{{ many(p.parts, 'repository', 'repositories') }}</td>
          <td class="n" :title="`${size(p.bytes)} on the disk`">{{ many(p.repositories, 'repository', 'repositories') }}</td>
        </tr>
      </tbody>
    </table>
  </div>
</template>

<style scoped>
.people {
  max-width: 1060px;
  margin: 0 auto;
}
table {
  width: 100%;
  border-collapse: collapse;
  margin-top: 18px;
}
h1 {
  margin-bottom: 6px;
}
th {
  text-align: left;
  font-weight: 600;
  color: var(--ink-soft);
}
th,
td {
  padding: 9px 18px 9px 0;
  border-bottom: 1px solid var(--rule-soft);
  vertical-align: top;
}
.n {
  text-align: right;
  white-space: nowrap;
}
.name {
  font-weight: 600;
}
.address,
.root {
  overflow-wrap: anywhere;
}
</style>
