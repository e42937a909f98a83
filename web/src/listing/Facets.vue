<script setup lang="ts">
import { ref } from 'vue'
import { useRoute } from 'vue-router'
import type { Schemas } from '@/api/client'
import { count } from '@/words/format'
import { toggled, valuesOf } from './address'

/** What a list can be narrowed by, with what each would leave. */
const props = defineProps<{
  facets: readonly Schemas['FacetInfo'][]
  titles: Record<string, string> // by key, in the order they are offered
  say: (key: string, value: string) => string
  hint?: (key: string, value: string) => string | undefined
  usual?: Record<string, string> // the value that counts where a key is not asked for
}>()
const route = useRoute()
const few = 7
const wide = ref(new Set<string>())
const facet = (k: string) => props.facets.find((f) => f.key === k)
function chosen(k: string): string[] {
  const values = valuesOf(route.query[k])
  const usual = props.usual?.[k]
  return !values.length && usual ? [usual] : values
}
/** Chosen values stay in sight, also where nothing fits them. */
function values(k: string) {
  const all = facet(k)?.values ?? []
  const missing = chosen(k).filter((v) => !all.some((x) => x.value === v))
  const shown = wide.value.has(k) ? all : all.filter((x, i) => i < few || chosen(k).includes(x.value))
  return [...shown, ...missing.map((value) => ({ value, count: 0 }))]
}
function to(k: string, value: string) {
  const usual = props.usual?.[k]
  const now = usual && !route.query[k] ? { ...route.query, [k]: [usual] } : route.query
  return { query: toggled(now, k, value) }
}
function widen(k: string) {
  const next = new Set(wide.value)
  if (!next.delete(k)) next.add(k)
  wide.value = next
}
</script>

<template>
  <template v-for="(title, k) in titles" :key="k">
    <section v-if="facet(k)?.values.length || chosen(k).length" :aria-label="title">
      <h3>{{ title }}</h3>
      <router-link
        v-for="v in values(k)"
        :key="v.value"
        :to="to(k, v.value)"
        replace
        class="plain value"
        :class="{ on: chosen(k).includes(v.value) }"
        :aria-current="chosen(k).includes(v.value) ? 'true' : undefined"
        :title="hint?.(k, v.value) ?? say(k, v.value)"
      >
        <span class="box" aria-hidden="true">{{ chosen(k).includes(v.value) ? '✓' : '' }}</span>
        <span class="name">{{ say(k, v.value) }}</span>
        <span class="soft">{{ count(v.count) }}</span>
      </router-link>
      <button v-if="(facet(k)?.values.length ?? 0) > few" class="link more" @click="widen(k)">
        {{ wide.has(k) ? 'fewer' : `${count((facet(k)?.total ?? 0) - few)} more` }}
      </button>
      <p v-if="wide.has(k) && facet(k)!.total > facet(k)!.values.length" class="soft more">
        {{ count(facet(k)!.total - facet(k)!.values.length) }} more are not listed; narrow by something else first.
      </p>
    </section>
  </template>
</template>

<style scoped>
section {
  margin-bottom: 12px;
}
h3 {
  font-size: 14px;
  margin-bottom: 2px;
}
.value {
  display: grid;
  grid-template-columns: 16px minmax(0, 1fr) auto;
  gap: 4px;
  padding: 1px 6px 1px 0;
  font-size: 12.5px;
}
.value:hover {
  background: var(--hover);
  text-decoration: none;
}
.value.on {
  font-weight: 600;
}
.box {
  color: var(--ochre-text);
}
.name {
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
}
.more {
  margin-left: 20px;
  font-size: 12px;
}
</style>
