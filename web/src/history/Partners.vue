<script setup lang="ts">
import { keepPreviousData, useQuery } from '@tanstack/vue-query'
import { computed } from 'vue'
import { useRoute, useRouter } from 'vue-router'
import { api, data, type Schemas } from '@/api/client'
import { count } from '@/words/format'

/** The files that move together, of all or with one of them. */
const props = defineProps<{
  repository: number
  rules: { days?: number; half_life?: number; wide?: number; generated?: boolean; vendored?: boolean; no_tests?: boolean; folder?: string }
  chosen: string
}>()
const emit = defineEmits<{ all: [] }>()
const route = useRoute()
const router = useRouter()
const least = computed(() => Number(route.query.least) || 3)
const { data: partners } = useQuery({
  queryKey: computed(() => ['repository', props.repository, 'partners', props.rules, least.value, props.chosen]),
  queryFn: ({ signal }) =>
    data(
      api.GET('/api/repositories/{repository}/partners', {
        params: { path: { repository: props.repository }, query: { ...props.rules, least: least.value, path: props.chosen || undefined } },
        signal,
      }),
    ),
  placeholderData: keepPreviousData,
  retry: false,
})
const name = (p: string) => p.slice(p.lastIndexOf('/') + 1)
const folder = (p: string) => p.slice(0, p.lastIndexOf('/') + 1)
const read = (p: string) => ({ name: 'read', params: { repository: props.repository }, query: { path: p } })
const imports: Record<string, (p: Schemas['PairInfo']) => string> = {
  a: (p) => `${name(p.a)} imports ${name(p.b)}`,
  b: (p) => `${name(p.b)} imports ${name(p.a)}`,
  both: () => 'they import each other',
  none: () => 'no import explains it',
  unknown: () => '',
}
</script>

<template>
  <section class="partners">
    <h2>{{ chosen ? `What moves with ${name(chosen)}` : 'What moves together' }}</h2>
    <p class="soft">
      Pairs that share
      <select
        :value="least"
        aria-label="Commits that a pair must share"
        @change="router.replace({ query: { ...route.query, least: ($event.target as HTMLSelectElement).value } })"
      >
        <option v-for="n in [2, 3, 5, 8, 12, 20]" :key="n" :value="n">{{ n }}</option>
      </select>
      commits or more, by how much more often than chance that is. Commits over {{ rules.wide && rules.wide < 40 ? rules.wide : 40 }} files
      are not counted.
      <template v-if="chosen"
        ><router-link :to="read(chosen)">read it</router-link> ·
        <router-link :to="{ name: 'story', params: { repository }, query: { path: chosen } }">its story</router-link> ·
        <button class="link" @click="emit('all')">all pairs</button></template
      >
    </p>
    <ol v-if="partners">
      <li v-for="p in partners.pairs" :key="p.a + p.b">
        <p class="pair">
          <router-link class="plain" :to="read(p.a)" :title="p.a"
            ><b>{{ name(p.a) }}</b></router-link
          >
          <span class="soft"> and </span>
          <router-link class="plain" :to="read(p.b)" :title="p.b"
            ><b>{{ name(p.b) }}</b></router-link
          >
          <span class="lift">{{ p.lift < 10 ? p.lift.toFixed(1) : count(Math.round(p.lift)) }} ×</span>
        </p>
        <p class="soft">
          {{ count(p.together) }} commits together, of {{ count(p.of_a) }} and {{ count(p.of_b)
          }}<template v-if="imports[p.import]!(p)">; {{ imports[p.import]!(p) }}</template>
        </p>
        <p v-if="p.across" class="soft">across folders: {{ folder(p.a) || '/' }} and {{ folder(p.b) || '/' }}</p>
        <router-link class="both" :to="{ name: 'history', params: { repository }, query: { keep: [`path:${p.a}`, `path:${p.b}`] } }"
          >these commits</router-link
        >
      </li>
    </ol>
    <p v-if="partners && !partners.pairs.length" class="soft note">
      {{ chosen ? 'Nothing moves with it that often.' : 'No two files move together that often.' }}
    </p>
    <p v-if="partners && partners.total > partners.pairs.length" class="soft">
      {{ count(partners.total - partners.pairs.length) }} weaker pairs are not shown.
    </p>
  </section>
</template>

<style scoped>
.partners {
  border-left: 1px solid var(--rule);
  background: var(--sheet);
  padding: 12px 18px;
  overflow: auto;
}
ol {
  list-style: none;
  margin: 10px 0;
  padding: 0;
}
li {
  padding: 7px 0;
  border-top: 1px solid var(--rule-soft);
  font-size: 12.5px;
}
.pair {
  font-size: 13.5px;
  overflow-wrap: anywhere;
}
.lift {
  float: right;
  color: var(--ochre-text);
  font-weight: 600;
}
select {
  font: inherit;
  color: inherit;
  background: var(--sheet);
  border: 1px solid var(--rule);
  border-radius: var(--radius);
}
.note {
  padding: 14px 0;
}
</style>
