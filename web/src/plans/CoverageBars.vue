<script setup lang="ts">
import { count } from '@/words/format'
import { kindTitles, type CoverageKind } from './covering'

/** What a plan covers of each kind, as a bar: read here, read elsewhere, set aside,
 * not decided yet. */
defineProps<{ kinds: readonly CoverageKind[]; chosen?: string }>()
const emit = defineEmits<{ choose: [kind: string] }>()
const parts = [
  { part: 'here', says: 'read here' },
  { part: 'elsewhere', says: 'read in another plan' },
  { part: 'aside', says: 'set aside' },
  { part: 'open', says: 'not decided yet' },
] as const
</script>

<template>
  <table class="bars">
    <thead>
      <tr>
        <th></th>
        <th></th>
        <th v-for="p in parts" :key="p.part"><i :class="p.part" aria-hidden="true" /> {{ p.says }}</th>
        <th title="of the weight of all, what is read here">share read here</th>
      </tr>
    </thead>
    <tbody>
      <tr v-for="k in kinds" :key="k.kind" :class="{ on: k.kind === chosen }">
        <th>
          <button v-if="chosen" class="link" @click="emit('choose', k.kind)">{{ kindTitles[k.kind] ?? k.kind }}</button>
          <template v-else>{{ kindTitles[k.kind] ?? k.kind }}</template>
        </th>
        <td class="bar" aria-hidden="true">
          <i v-for="p in parts" :key="p.part" :class="p.part" :style="{ width: `${(100 * k[p.part]) / Math.max(1, k.total)}%` }" />
        </td>
        <td v-for="p in parts" :key="p.part" class="n">{{ count(k[p.part]) }}</td>
        <td class="n">
          <b>{{ Math.round(100 * k.share) }} %</b>
        </td>
      </tr>
    </tbody>
  </table>
</template>

<style scoped>
.bars {
  width: 100%;
  border-collapse: collapse;
  font: 12.5px/1.4 var(--sans);
}
thead th {
  padding: 0 8px 4px;
  color: var(--ink-soft);
  font-weight: 400;
  font-size: 11.5px;
  text-align: right;
}
tbody th {
  padding: 3px 0;
  font-weight: 400;
  text-align: left;
  white-space: nowrap;
}
tbody tr {
  border-top: 1px solid var(--rule-soft);
}
tr.on th {
  font-weight: 600;
}
.n {
  padding: 0 8px;
  text-align: right;
  font-variant-numeric: tabular-nums;
}
.bar {
  width: 28%;
  padding: 0 10px;
}
td.bar i {
  display: inline-block;
  height: 9px;
}
thead i {
  display: inline-block;
  width: 9px;
  height: 9px;
}
i.here {
  background: var(--plum);
}
i.elsewhere {
  background: var(--plum-pale);
}
i.aside {
  background: repeating-linear-gradient(135deg, var(--ink-soft) 0 1px, transparent 1px 4px);
}
i.open {
  background: none;
  box-shadow: inset 0 0 0 1px var(--rule);
}
</style>
