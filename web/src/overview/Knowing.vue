<script setup lang="ts">
import { computed, ref } from 'vue'
import type { Schemas } from '@/api/client'
import { age, count, many } from '@/words/format'
import Add from './Add.vue'

/** Who knows each top folder, and the people there are. */
const props = defineProps<{ overview: Schemas['Overview']; knowledge: Schemas['Knowledge'][]; repository: number }>()
const shown = ref(10)
const everybody = ref(false)
const ago = (at: string | null) => (at && props.overview.pin_at ? age(at, props.overview.pin_at).replace('earlier', 'before the pin') : '')
const seen = (at: string | null) => (ago(at) === 'the same day' ? 'at the pin' : ago(at))
const people = computed(() => props.overview.people ?? [])
</script>

<template>
  <ul class="knowing">
    <li v-for="k in knowledge.slice(0, shown)" :key="k.folder" class="line">
      <router-link v-if="k.folder" class="name" :to="{ name: 'map', params: { repository }, query: { at: k.folder, right: 'people' } }"
        >{{ k.folder }}/</router-link
      >
      <span v-else class="name">files at the root</span>
      <span class="who">
        <template v-for="(p, i) in k.known" :key="p.name"
          ><template v-if="i">, </template
          ><span
            :class="{ soft: p.gone }"
            :title="`${p.name}: ${count(p.commits)} of ${many(k.commits, 'commit')}${p.gone ? `, last seen ${seen(p.last_at)}` : ''}`"
            >{{ p.name }} {{ count(p.commits) }}</span
          ></template
        ><span v-if="k.people > k.known.length" class="soft"> and {{ count(k.people - k.known.length) }} more</span>
        <b v-if="!k.active" class="nobody">nobody who is still active</b>
        <span v-else-if="k.people === 1 && k.commits > 2" class="soft">alone</span>
      </span>
      <Add
        v-if="k.folder"
        :of="{
          kind: 'folder',
          path: k.folder,
          title: k.folder,
          lines: 200,
          why: k.active ? undefined : 'nobody who knows it is still active',
        }"
      />
    </li>
  </ul>
  <p class="soft">
    <button v-if="knowledge.length > shown" class="link" @click="shown = 1e9">{{ many(knowledge.length - shown, 'folder') }} more</button>
    <template v-if="knowledge.length > shown"> · </template>
    <button v-if="overview.counts.people > 1" class="link" @click="everybody = !everybody">
      {{ everybody ? 'hide the people' : `all ${many(overview.counts.people, 'person', 'people')}` }}
    </button>
    <template v-if="overview.counts.people > 1"> · </template>numbers are commits; in grey: nothing for a year before the pin
  </p>
  <table v-if="everybody">
    <tbody>
      <tr v-for="p in people" :key="p.email + p.name">
        <td class="grow">
          <router-link :to="{ name: 'map', params: { repository }, query: { by: p.name } }" :title="`What ${p.name} changed, on the Map`">{{
            p.name
          }}</router-link>
        </td>
        <td class="n">{{ many(p.commits, 'commit') }}</td>
        <td class="n">{{ many(p.files, 'file') }}</td>
        <td class="soft n">{{ seen(p.last_at) }}</td>
      </tr>
      <tr v-if="overview.counts.people > people.length">
        <td class="soft" colspan="4">and {{ count(overview.counts.people - people.length) }} with fewer commits</td>
      </tr>
    </tbody>
  </table>
</template>

<style scoped>
.knowing {
  list-style: none;
  margin: 0;
  padding: 0;
}
.line {
  display: grid;
  grid-template-columns: minmax(0, 120px) minmax(0, 1fr) 40px;
  gap: 12px;
  padding: 3px 0;
  border-top: 1px solid var(--rule-soft);
}
.line:first-child {
  border-top: 0;
}
.name {
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
}
.nobody {
  display: block;
  font-weight: 600;
  color: var(--ochre-text);
}
.who .soft:last-child {
  margin-left: 6px;
}
table {
  width: 100%;
  border-collapse: collapse;
  margin-top: 4px;
}
td {
  padding: 2px 12px 2px 0;
  white-space: nowrap;
}
.grow {
  max-width: 200px;
  overflow: hidden;
  text-overflow: ellipsis;
}
.n {
  text-align: right;
}
</style>
