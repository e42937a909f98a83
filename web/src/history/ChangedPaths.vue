<script setup lang="ts">
import { computed } from 'vue'
import { count } from '@/words/format'
import { bar, sortOf, type ChangeInfo } from './useCommit'

/** The paths that a commit changed, with how much: what it took away to the
 * left, what it added to the right. */
const props = defineProps<{ changes: readonly ChangeInfo[]; total: number; at?: number }>()
const emit = defineEmits<{ choose: [index: number] }>()
const most = computed(() => Math.max(1, ...props.changes.map((c) => Math.max(c.added, c.deleted))))
const name = (p: string) => p.slice(p.lastIndexOf('/') + 1)
const folder = (p: string) => p.slice(0, p.lastIndexOf('/') + 1)
const told = (c: ChangeInfo) =>
  [
    c.old_path ? `${c.old_path} → ${c.path}` : c.path,
    sortOf(c),
    c.binary ? 'binary' : c.link ? 'a submodule' : `+${count(c.added)} −${count(c.deleted)}`,
    c.mode,
    c.role,
  ]
    .filter(Boolean)
    .join(', ')
</script>

<template>
  <div class="paths">
    <button v-for="(c, i) in changes" :key="c.path" class="path" :class="{ on: i === at }" :title="told(c)" @click="emit('choose', i)">
      <span class="name" :class="{ gone: c.status === 'deleted' }"
        ><b>{{ name(c.path) }}</b> <span class="soft">{{ folder(c.path) }}</span></span
      >
      <span class="sort soft">{{ c.binary ? 'binary' : sortOf(c) }}</span>
      <span class="bars" aria-hidden="true"
        ><span class="taken"><i :style="{ width: bar(c, most).deleted }" /></span
        ><span class="given"><i :style="{ width: bar(c, most).added }" /></span
      ></span>
      <span class="sr">{{ told(c) }}</span>
    </button>
    <p v-if="total > changes.length" class="soft">{{ count(total - changes.length) }} more are not listed.</p>
  </div>
</template>

<style scoped>
.path {
  position: relative;
  display: grid;
  grid-template-columns: minmax(0, 1fr) auto 84px;
  gap: 8px;
  align-items: center;
  width: 100%;
  padding: 2px 4px;
  border: 0;
  background: none;
  color: inherit;
  font: inherit;
  text-align: left;
  cursor: pointer;
}
.path:hover,
.path.on {
  background: var(--hover);
}
.name {
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
}
.name b {
  font-weight: 600;
}
.name .soft,
.sort {
  font-size: 12px;
}
.gone b {
  text-decoration: line-through;
}
.bars {
  display: grid;
  grid-template-columns: 1fr 1fr;
}
.bars i {
  display: block;
  height: 7px;
}
.taken i {
  margin-left: auto;
  border: 1px solid var(--ochre-mid);
}
.given {
  border-left: 1px solid var(--ink-soft);
}
.given i {
  background: var(--ochre);
}
.sr {
  position: absolute;
  clip-path: inset(50%);
  width: 1px;
  height: 1px;
  overflow: hidden;
}
p {
  padding: 4px;
}
</style>
