<script setup lang="ts">
import { watch } from 'vue'
import { describeKeys } from '@/frame/help'
import { useKeys } from '@/frame/keys'
import { notice } from '@/frame/notice'
import { useAnnotating } from './annotating'
import { choices, says, type Place } from './target'
import PlaceSheet from './PlaceSheet.vue'
import WriteSheet from './WriteSheet.vue'

/** Where a new thread is begun, from any page of a repository. */
defineProps<{ repository: number; writer: boolean }>()
const { selected, draft, open, asked: wished, replacing } = useAnnotating()

const same = (a: unknown, b: unknown) => JSON.stringify(a) === JSON.stringify(b)
function begin(place: Place) {
  if (draft.value?.text.trim() && !same(draft.value.place, place)) {
    open.value = true
    notice('You are writing a text here; save or delete it first.')
    return
  }
  draft.value = { place, target: choices(place)[0]!.target, text: draft.value?.text ?? '', kind: 'note', private: false }
  open.value = true
}
useKeys({ r: () => selected.value && begin(selected.value) })
describeKeys('Everywhere in a repository', [['r', 'write about what is selected: a remark']])
watch(wished, () => selected.value && begin(selected.value))
watch(draft, (d) => !d && (open.value = false))
</script>

<template>
  <PlaceSheet v-if="replacing" :key="replacing.id" :repository="repository" :thread="replacing" />
  <WriteSheet v-else-if="draft && open" :repository="repository" :draft="draft" />
  <button v-else-if="draft?.text.trim()" class="waiting" @click="open = true">
    ✱ a text of yours is not saved yet: {{ says(draft.place, draft.target) }}
  </button>
</template>

<style scoped>
.waiting {
  position: fixed;
  right: 16px;
  bottom: calc(var(--ribbon) + 10px);
  z-index: 30;
  padding: 4px 12px;
  max-width: 420px;
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
  border: 1px solid var(--ink-soft);
  border-radius: var(--radius);
  background: var(--sheet);
  color: inherit;
  font: 12.5px/1.5 var(--sans);
  cursor: pointer;
}
</style>
