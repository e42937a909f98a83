<script setup lang="ts">
import type { Schemas } from '@/api/client'
import { Mark } from '@/map'
import { age, count } from '@/words/format'
import Add from './Add.vue'

/** Tagged comments by word, and by how long nobody has touched them. */
const props = defineProps<{ words: Schemas['WordSum'][]; pinAt: string | null; repository: number }>()
const ago = (at: string) => (props.pinAt ? age(at, props.pinAt).replace(' earlier', '') : '')
const parts = [
  { key: 'quarter', title: '90 days' },
  { key: 'year', title: 'a year' },
  { key: 'older', title: 'older' },
] as const
</script>

<template>
  <p v-if="!words.length" class="soft">No comment carries an agreed word.</p>
  <table v-else>
    <thead>
      <tr class="soft">
        <th />
        <th class="n">all</th>
        <th class="n" title="Touched within 90 days before the pin">last 90 days</th>
        <th class="n" title="Touched within a year before the pin, and not in the last 90 days">this year</th>
        <th class="n">older</th>
        <th class="oldest">the oldest</th>
        <th />
      </tr>
    </thead>
    <tbody>
      <tr v-for="w in words" :key="w.word" class="line">
        <td>
          <a-tooltip :title="w.meaning">
            <router-link class="word" :to="{ name: 'leads', params: { repository }, query: { kind: 'tagged-comment', detail: w.word } }"
              ><Mark kind="tagged" /> {{ w.word }}</router-link
            >
          </a-tooltip>
        </td>
        <td class="n">{{ count(w.count) }}</td>
        <td v-for="p in parts" :key="p.key" class="n" :class="{ soft: !w[p.key] }">{{ count(w[p.key]) }}</td>
        <td class="oldest">
          <router-link
            v-if="w.path"
            :title="`${w.path}:${w.line}`"
            :to="{ name: 'read', params: { repository }, query: { path: w.path, lines: String(w.line) } }"
            >{{ w.path.split('/').at(-1) }}:{{ w.line }}</router-link
          >
          <span v-if="w.oldest_at" class="soft"> {{ ago(w.oldest_at) }}</span>
          <span v-if="w.undated" class="soft" title="The history does not say when they were touched"> {{ count(w.undated) }} undated</span>
        </td>
        <td>
          <Add
            v-if="w.path"
            :of="{
              kind: 'lines',
              path: w.path,
              start: w.line,
              end: w.line,
              title: `The oldest ${w.word}`,
              lines: 10,
              why: `${w.word}: ${w.meaning}`,
            }"
          />
        </td>
      </tr>
    </tbody>
  </table>
</template>

<style scoped>
table {
  width: 100%;
  border-collapse: collapse;
}
th {
  font-weight: 400;
  font-size: 11.5px;
  text-align: left;
  white-space: nowrap;
}
td,
th {
  padding: 2px 10px 2px 0;
  white-space: nowrap;
}
.line td {
  border-top: 1px solid var(--rule-soft);
}
.n {
  text-align: right;
}
.word {
  display: inline-flex;
  align-items: center;
  gap: 5px;
  color: var(--ochre-text);
}
.oldest .soft {
  margin-left: 6px;
}
.oldest {
  max-width: 190px;
  overflow: hidden;
  text-overflow: ellipsis;
}
</style>
