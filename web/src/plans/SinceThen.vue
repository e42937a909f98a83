<script setup lang="ts">
import { computed } from 'vue'
import { useRepository } from '@/frame/repository'
import { short } from '@/words/format'
import { alike, difference, reasons, useHealth } from './health'
import { lines } from './model'
import type { Plan } from './use'

/** What became of a passage that is read at another commit than the pin. */
const props = defineProps<{ plan: Plan; passage: string }>()
const here = useRepository()
const { data: health } = useHealth(
  () => props.plan,
  () => (props.plan.edition ? String(props.plan.edition) : 'draft'),
  true,
)
const found = computed(() => health.value?.passages.find((p) => p.passage === props.passage))
const pin = computed(() => here.value.pin_ref || short(here.value.pin))
</script>

<template>
  <p v-if="found" class="soft since" role="note">
    <template v-if="found.what === 'same'">At the pin, {{ pin }}, it reads as it does here.</template>
    <template v-else>
      At the pin, {{ pin }}:
      <template v-for="(p, i) in found.places.filter((x) => x.what !== 'same')" :key="i">
        {{ i ? '; ' : '' }}
        <template v-if="p.what === 'gone'"
          >{{ reasons[p.reason] ?? 'it is not there any more' }}
          <router-link v-if="p.reason_commit" :to="{ name: 'commit', params: { repository: here.id, commit: p.reason_commit } }"
            >in {{ short(p.reason_commit) }}</router-link
          ></template
        >
        <template v-else>
          <template v-if="lines(p.now) !== lines(p.was)"
            >it is <span class="mono">{{ lines(p.now) }}</span></template
          ><template v-if="p.what === 'changed'"
            >{{ lines(p.now) !== lines(p.was) ? ', ' : '' }}{{ alike(p) }}
            <router-link :to="difference(here.id, p)">the difference</router-link></template
          ></template
        ></template
      >.
    </template>
  </p>
</template>

<style scoped>
.since {
  margin: 0;
  padding: 4px 14px;
  border-bottom: 1px solid var(--rule);
  font-size: 12.5px;
}
</style>
