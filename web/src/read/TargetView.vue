<script setup lang="ts">
import { computed, ref } from 'vue'
import type { Schemas } from '@/api/client'
import { useRepository } from '@/frame/repository'
import type { Range } from '@/words/range'
import Asset from './Asset.vue'
import { assetOf } from './asset'
import ExtractView from './ExtractView.vue'
import FolderList from './FolderList.vue'
import TargetCommits from './TargetCommits.vue'
import TargetFile from './TargetFile.vue'
import TargetPair from './TargetPair.vue'
import TargetTry from './TargetTry.vue'
import TargetWay from './TargetWay.vue'

/** What a passage has one read. */
const props = defineProps<{ target: Schemas['Target']; choosing?: boolean; reading?: boolean }>()
const emit = defineEmits<{ select: [range: Range | null] }>()
const repository = useRepository()
const id = computed(() => repository.value.id)
const pinned = computed(() => props.target.commit === repository.value.pin)
const file = computed(() => ({ repository: id.value, path: props.target.path, at: pinned.value ? undefined : props.target.commit }))
const picture = computed(() => assetOf(props.target.path))
/** A document is read as prose, unless its lines are asked for. */
const asSource = ref(false)
const asset = computed(() => {
  const { kind, skim } = props.target
  if (asSource.value || !picture.value) return null
  if (kind === 'asset') return picture.value
  const part = kind === 'lines' || kind === 'symbol'
  return picture.value === 'prose' && !skim && (kind === 'file' || (part && props.reading)) ? 'prose' : null
})
const range = computed(() => (props.target.start && props.target.end ? { start: props.target.start, end: props.target.end } : null))
</script>

<template>
  <FolderList v-if="target.kind === 'folder'" :repository="id" :path="target.path" />
  <ExtractView
    v-else-if="target.kind === 'extract' && pinned"
    :repository="id"
    :path="target.path"
    :line="target.start!"
    :column="target.column ?? 0"
  />
  <TargetPair v-else-if="target.kind === 'pair'" :target="target" />
  <TargetWay v-else-if="target.kind === 'way'" :target="target" />
  <TargetTry v-else-if="target.kind === 'try'" :repository="id" :target="target" />
  <TargetCommits v-else-if="target.kind === 'commit' || target.kind === 'comparison'" :repository="id" :target="target" />
  <div v-else-if="target.kind === 'planned'" class="planned">
    <p class="note">
      <b class="mono">{{ target.path }}</b> is not there yet.
      <template v-if="target.pattern"
        >Go by <span class="mono">{{ target.pattern }}</span>:</template
      >
    </p>
    <TargetFile v-if="target.pattern" class="rest" :path="target.pattern" :commit="target.commit" />
  </div>
  <Asset v-else-if="asset" class="asset" :file="file" :kind="asset" :range="range" own @source="asSource = true" />
  <div v-else class="planned">
    <p v-if="asSource" class="soft note"><button class="link" @click="asSource = false">as prose</button></p>
    <p v-if="target.kind === 'extract'" class="soft note">An extract is told at the pin alone; here are the lines of its symbol.</p>
    <TargetFile
      class="rest"
      :path="target.path"
      :commit="target.commit"
      :start="target.start"
      :end="target.end"
      :skim="target.skim"
      :choosing="choosing"
      @select="(r) => emit('select', r)"
    />
  </div>
</template>

<style scoped>
.planned {
  display: flex;
  flex-direction: column;
  min-height: 0;
  height: 100%;
}
.rest {
  flex: 1;
  min-height: 0;
}
.note {
  flex: none;
  padding: 6px 18px;
  border-bottom: 1px solid var(--rule-soft);
}
.asset {
  height: 100%;
  overflow: auto;
}
</style>
