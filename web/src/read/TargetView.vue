<script setup lang="ts">
import { computed, ref, watch } from 'vue'
import { useRepository } from '@/frame/repository'
import type { Schemas } from '@/api/client'
import ExtractView from './ExtractView.vue'
import FolderList from './FolderList.vue'
import CodePane from './pane/CodePane.vue'
import { foldedRegions, openRegions, shownLines } from './pane/skim'
import { useSkim } from './pane/text'
import { count } from '@/words/format'

/** What a passage has one read. */
const props = defineProps<{ target: Schemas['Target'] }>()
const repository = useRepository()
const id = computed(() => repository.value.id)
const file = computed(() => ({
  repository: id.value,
  path: props.target.path,
  at: props.target.commit === repository.value.pin ? undefined : props.target.commit,
}))
const range = computed(() => {
  const { kind, start, end } = props.target
  return kind !== 'file' && start && end ? { start, end } : null
})
const { data: skim } = useSkim(file, () => !!props.target.skim)
const byHand = ref(new Map<number, boolean>())
watch(
  () => JSON.stringify(props.target),
  () => (byHand.value = new Map()),
)
const whole = ref(false)
const open = computed(() =>
  skim.value ? openRegions(skim.value, whole.value ? null : props.target.skim!, byHand.value) : new Uint8Array(),
)
const shown = computed(() => (skim.value ? shownLines(skim.value, foldedRegions(skim.value, open.value)) : 0))
function fold(regions: number[], on: boolean) {
  byHand.value = new Map([...byHand.value, ...regions.map((r) => [r, on] as const)])
}
</script>

<template>
  <FolderList v-if="target.kind === 'folder'" :repository="id" :path="target.path" />
  <ExtractView
    v-else-if="target.kind === 'extract' && !file.at"
    :repository="id"
    :path="target.path"
    :line="target.start!"
    :column="target.column ?? 0"
  />
  <div v-else class="target">
    <p v-if="target.kind === 'extract'" class="soft note">An extract is told at the pin alone; here are the lines of its symbol.</p>
    <p v-if="skim && target.skim" class="soft note">
      the {{ count(shown) }} most telling of {{ count(skim.total) }} lines ·
      <button class="link" @click="whole = !whole">{{ whole ? 'back to these' : 'show all' }}</button>
    </p>
    <CodePane
      class="code"
      fixed
      :file="file"
      :range="range"
      :skim="target.skim && skim?.order.length ? skim : null"
      :open="open"
      @fold="fold"
      @reveal="(r) => fold(r, true)"
    />
  </div>
</template>

<style scoped>
.target {
  display: flex;
  flex-direction: column;
  min-height: 0;
  height: 100%;
}
.code {
  flex: 1;
}
.note {
  padding: 4px 18px;
  border-bottom: 1px solid var(--rule-soft);
}
</style>
