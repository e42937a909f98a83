<script setup lang="ts">
import { refDebounced } from '@vueuse/core'
import { computed } from 'vue'
import { Correct } from '@/correct'
import { Sentences, useSummary } from '@/told'

const props = defineProps<{ repository: number; path: string; folder: boolean; writer: boolean }>()
const settled = refDebounced(
  computed(() => props.path),
  120,
)
const { data: summary } = useSummary(() => props.repository, settled)
</script>

<template>
  <section class="short" aria-label="In short">
    <div>
      <span class="mono path">{{ path || 'the repository' }}{{ folder && path ? '/' : '' }}</span>
      <Correct v-if="writer && folder" :repository="repository" :path="path" folder />
    </div>
    <Sentences
      v-if="summary?.sentences.length"
      :sentences="summary.sentences.slice(0, 3)"
      :repository="repository"
      :folder="folder ? path : undefined"
    />
    <p v-else-if="summary" class="soft">No fact speaks for it.</p>
  </section>
</template>

<style scoped>
.short {
  flex: none;
  height: 104px;
  overflow: auto;
  padding: 7px var(--gap);
  border-top: 1px solid var(--rule);
  background: var(--sheet);
  display: grid;
  grid-template-columns: 200px minmax(0, 1fr);
  gap: 20px;
}
.path {
  font: 12.5px/1.5 var(--mono);
  color: var(--teal);
  overflow-wrap: anywhere;
}
@media (max-width: 700px) {
  .short {
    grid-template-columns: minmax(0, 1fr);
    gap: 4px;
    padding: 7px 12px;
  }
}
</style>
