<script setup lang="ts">
import { computed, ref, watch } from 'vue'
import { useRepository } from '@/frame/repository'
import { count } from '@/words/format'
import type { Range } from '@/words/range'
import CodePane from './pane/CodePane.vue'
import { foldedRegions, openRegions, shownLines } from './pane/skim'
import { useSkim } from './pane/text'

/** Lines of a file at a commit, or the file in its most telling lines. */
const props = defineProps<{
  path: string
  commit: string
  start?: number
  end?: number
  skim?: number
  choosing?: boolean // the range is chosen in it
}>()
const emit = defineEmits<{ select: [range: Range | null] }>()
const repository = useRepository()
const id = computed(() => repository.value.id)
const file = computed(() => ({
  repository: id.value,
  path: props.path,
  at: props.commit === repository.value.pin ? undefined : props.commit,
}))
const own = computed(() => (props.start && props.end ? { start: props.start, end: props.end } : null))
const chosen = ref<Range | null>(null)
watch(own, () => (chosen.value = null))
const { data: skimmed } = useSkim(file, () => !!props.skim)
const byHand = ref(new Map<number, boolean>())
const whole = ref(false)
watch(
  () => [props.path, props.commit, props.skim],
  () => {
    byHand.value = new Map()
    whole.value = false
  },
)
const open = computed(() => (skimmed.value ? openRegions(skimmed.value, whole.value ? null : props.skim!, byHand.value) : new Uint8Array()))
const shown = computed(() => (skimmed.value ? shownLines(skimmed.value, foldedRegions(skimmed.value, open.value)) : 0))
function fold(regions: number[], on: boolean) {
  byHand.value = new Map([...byHand.value, ...regions.map((r) => [r, on] as const)])
}
function select(r: Range | null) {
  chosen.value = r
  emit('select', r)
}
</script>

<template>
  <div class="target">
    <p v-if="skimmed && skim" class="soft note">
      the {{ count(shown) }} most telling of {{ count(skimmed.total) }} lines ·
      <button class="link" @click="whole = !whole">{{ whole ? 'back to these' : 'show all' }}</button>
    </p>
    <CodePane
      class="code"
      :fixed="!choosing"
      :file="file"
      :range="chosen ?? own"
      :skim="skim && skimmed?.order.length ? skimmed : null"
      :open="open"
      @fold="fold"
      @reveal="(r) => fold(r, true)"
      @select="select"
    />
  </div>
</template>

<style scoped>
.target {
  display: flex;
  flex-direction: column;
  min-height: 0;
  min-width: 0;
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
