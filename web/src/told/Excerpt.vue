<script setup lang="ts">
import { useQuery } from '@tanstack/vue-query'
import { computed } from 'vue'
import { api, data, words } from '@/api/client'
import { pieces } from './pieces'

/** A few lines of a file around a place. */
const props = withDefaults(defineProps<{ repository: number; path: string; start: number; end: number; at?: string; around?: number }>(), {
  at: undefined,
  around: 5,
})
const {
  data: source,
  error,
  isPending,
} = useQuery({
  queryKey: computed(() => ['repository', props.repository, 'source', props.path, props.start, props.end, props.at, props.around]),
  queryFn: ({ signal }) => {
    const query = { path: props.path, at: props.at, start: Math.max(1, props.start - props.around), end: props.end + props.around }
    return data(api.GET('/api/repositories/{repository}/source', { params: { path: { repository: props.repository }, query }, signal }))
  },
  retry: false,
})
const rows = computed(
  () =>
    source.value?.lines.map((l, i) => ({
      number: source.value!.from + i,
      pieces: pieces(l.text, source.value!.tokens[i], source.value!.classes),
    })) ?? [],
)
</script>

<template>
  <div class="excerpt">
    <p v-if="error" class="fault">{{ words(error) }}</p>
    <p v-else-if="isPending" class="soft">Reading the lines …</p>
    <div v-for="r in rows" v-else :key="r.number" class="row" :class="{ on: r.number >= start && r.number <= end }">
      <span class="number">{{ r.number }}</span><span class="text"
        ><span v-for="(p, i) in r.pieces" :key="i" :class="p.class">{{ p.text }}</span></span
      >
    </div>
  </div>
</template>

<style scoped>
.excerpt {
  padding: 4px 0;
  font: 12px/19px var(--mono);
  overflow: auto;
}
p {
  padding: 4px 12px;
  font-family: var(--sans);
}
.row {
  display: flex;
  white-space: pre;
  tab-size: 4;
}
.row.on {
  background: var(--hover);
}
.number {
  flex: none;
  width: 6ch;
  padding-right: 1.5ch;
  text-align: right;
  color: var(--ink-soft);
  user-select: none;
}
</style>
