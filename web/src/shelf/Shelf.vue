<script setup lang="ts">
import { useQuery } from '@tanstack/vue-query'
import { computed } from 'vue'
import { api, data, words, type Schemas } from '@/api/client'
import { useMe } from '@/account/me'
import { count, date, many, short } from '@/words/format'

const { data: shelf, error } = useQuery({ queryKey: ['shelf'], queryFn: ({ signal }) => data(api.GET('/api/repositories', { signal })) })
const { me } = useMe()
const mayTakeIn = computed(() => !!me.value?.person?.may_take_in)
const { data: sources } = useQuery({
  queryKey: ['sources'],
  queryFn: ({ signal }) => data(api.GET('/api/sources', { signal })),
  enabled: mayTakeIn,
})

function state(r: Schemas['ShelfItem']): string {
  if (r.state === 'taking-in') return r.doing ? `being taken in: ${r.doing}` : 'waiting to be taken in'
  if (r.state === 'failed') return `could not be taken in: ${r.problem}`
  if (r.state === 'needs-pin') return 'taken in; choose the release to read'
  if (r.survey === 'running' || r.survey === 'waiting') return 'being surveyed'
  if (r.survey === 'failed') return 'the survey failed'
  if (r.survey === 'cancelled') return 'the survey was cancelled'
  return ''
}
</script>

<template>
  <div class="page shelf">
    <div class="head">
      <div>
        <h1>The shelf</h1>
        <p class="soft">Every repository you may read.</p>
      </div>
      <router-link v-if="mayTakeIn" to="/take-in"><a-button type="primary">Take in a repository</a-button></router-link>
    </div>
    <p v-if="sources?.full" class="fault" role="alert">Nothing can be taken in now: {{ sources.full }}.</p>
    <p v-if="error" class="fault" role="alert">{{ words(error) }}</p>
    <section v-else-if="shelf && !shelf.length" class="empty">
      <p v-if="!mayTakeIn" class="prose">
        Nothing stands here yet. A keeper of a repository can invite you to it; to take in repositories yourself, ask the owner of this
        installation.
      </p>
      <p v-else class="prose">
        Nothing stands here yet. Take in a Git repository: a folder on the server, an address, an archive or a bundle. It is copied and only
        ever read; then it is surveyed, and you make a reading plan from what was found.
      </p>
    </section>
    <table v-else-if="shelf">
      <thead>
        <tr>
          <th>Repository</th>
          <th>Pinned at</th>
          <th class="n">Files</th>
          <th class="n">Commits</th>
          <th class="n">Plans</th>
          <th>Your part</th>
          <th>Since</th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="r in shelf" :key="r.id">
          <td>
            <router-link :to="`/r/${r.id}`" class="name">{{ r.name }}</router-link>
            <div v-if="state(r)" :class="r.state === 'failed' || r.survey === 'failed' ? 'fault' : 'soft'">{{ state(r) }}</div>
            <div v-else class="soft source" :title="r.source">{{ r.source }}</div>
          </td>
          <td>
            <template v-if="r.pin">
              {{ r.pin_ref || short(r.pin)
              }}<template v-if="r.pin_ref">
                · <span class="soft mono">{{ short(r.pin) }}</span></template
              >
            </template>
            <span v-else class="soft">not yet</span>
          </td>
          <td class="n">{{ r.files ? count(r.files) : '–' }}</td>
          <td class="n">{{ r.commits ? count(r.commits) : '–' }}</td>
          <td class="n">{{ count(r.plans) }}</td>
          <td>{{ r.role }}</td>
          <td class="soft">{{ date(r.created_at) }}</td>
        </tr>
      </tbody>
    </table>
    <p v-else class="soft">Looking at the shelf …</p>
    <p v-if="shelf?.length" class="soft foot">{{ many(shelf.length, 'repository', 'repositories') }}</p>
  </div>
</template>

<style scoped>
.shelf {
  max-width: 1180px;
  margin: 0 auto;
}
.head {
  display: flex;
  justify-content: space-between;
  align-items: end;
  margin-bottom: 18px;
}
.empty {
  max-width: 620px;
  padding: 24px 0;
}
table {
  width: 100%;
  border-collapse: collapse;
  table-layout: auto;
}
th {
  font-weight: 500;
  color: var(--ink-soft);
  text-align: left;
  padding: 6px 12px 6px 0;
  border-bottom: 1px solid var(--rule);
}
td {
  padding: 10px 12px 10px 0;
  border-bottom: 1px solid var(--rule-soft);
  vertical-align: top;
}
.n {
  text-align: right;
  padding-right: 24px;
}
.name {
  font: 600 16px/1.3 var(--serif);
  color: var(--ink);
}
.source {
  max-width: 420px;
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
}
.foot {
  margin-top: 12px;
}
</style>
