<script setup lang="ts">
import { computed, ref, watch } from 'vue'
import { count, many } from '@/words/format'
import { foldersOf, rowsOfFolds } from './folded'
import { sortOf, type ChangeInfo } from './useCommit'

/** Files that differ, folded by folder: at the left what the code is, at the
 * right what happened to it. */
const props = defineProps<{ changes: readonly ChangeInfo[]; total: number }>()
const emit = defineEmits<{ choose: [path: string] }>()
const root = computed(() => foldersOf(props.changes))
const open = ref(new Set<string>())
watch(
  root,
  (r) => {
    // all of a small comparison is open, of a large one the first folders
    const all: string[] = []
    const walk = (f: typeof r, depth: number) => {
      for (const c of f.children) {
        if (!c.file && (props.changes.length <= 60 || depth < 1)) {
          all.push(c.path)
          walk(c, depth + 1)
        }
      }
    }
    walk(r, 0)
    open.value = new Set(all)
  },
  { immediate: true },
)
const rows = computed(() => rowsOfFolds(root.value, open.value))
const mostLines = computed(() => Math.max(1, ...rows.value.map((r) => r.lines)))
const mostChanged = computed(() => Math.max(1, ...rows.value.map((r) => r.added + r.deleted)))
const left = (n: number) => `${(150 * Math.sqrt(n / mostLines.value)).toFixed(1)}px`
const right = (n: number) => `${(190 * Math.sqrt(n / mostChanged.value)).toFixed(1)}px`
function press(path: string, file: boolean) {
  if (file) emit('choose', path)
  else {
    const next = new Set(open.value)
    if (!next.delete(path)) next.add(path)
    open.value = next
  }
}
</script>

<template>
  <div class="apart">
    <div class="head soft" aria-hidden="true"><span>lines at the pin</span><span>folder or file</span><span>lines that differ</span></div>
    <button
      v-for="r in rows"
      :key="r.path"
      class="row"
      :aria-expanded="r.file ? undefined : open.has(r.path)"
      :title="r.file?.old_path ? `before: ${r.file.old_path}` : r.path"
      @click="press(r.path, !!r.file)"
    >
      <span class="wing left"
        ><span class="n">{{ r.lines ? count(r.lines) : '' }}</span
        ><i :style="{ width: left(r.lines) }"
      /></span>
      <span class="name" :style="{ paddingLeft: `${r.depth * 16}px` }"
        ><span class="sign" aria-hidden="true">{{ r.file ? '' : open.has(r.path) ? '−' : '+' }}</span
        ><b v-if="!r.file">{{ r.name }}/</b><span v-else :class="{ gone: r.file.status === 'deleted' }">{{ r.name }}</span>
        <span v-if="r.file" class="soft">{{ r.file.binary ? 'binary' : sortOf(r.file) }}</span><span v-else class="soft">{{
          many(r.files, 'file')
        }}</span></span
      >
      <span class="wing right"
        ><i v-if="r.added" class="came" :style="{ width: right(r.added) }" /><i
          v-if="r.deleted"
          class="went"
          :style="{ width: right(r.deleted) }"
        /><span class="n">+{{ count(r.added) }} −{{ count(r.deleted) }}</span></span
      >
    </button>
    <p v-if="total > changes.length" class="soft note">{{ count(total - changes.length) }} further files are not listed.</p>
  </div>
</template>

<style scoped>
.head,
.row {
  display: grid;
  grid-template-columns: 220px minmax(240px, 420px) minmax(0, 1fr);
  gap: 12px;
  align-items: center;
  padding: 0 var(--gap);
  width: 100%;
}
.head {
  font-size: 11.5px;
  padding-top: 6px;
  border-bottom: 1px solid var(--rule-soft);
}
.head span:first-child {
  text-align: right;
}
.row {
  height: 25px;
  border: 0;
  background: none;
  color: inherit;
  font: inherit;
  text-align: left;
  cursor: pointer;
  content-visibility: auto;
  contain-intrinsic-size: auto 25px;
}
.row:hover {
  background: var(--hover);
}
.wing {
  display: flex;
  align-items: center;
  gap: 1px;
}
.wing.left {
  justify-content: flex-end;
  gap: 6px;
}
.wing i {
  height: 9px;
}
.left i {
  background: var(--teal);
}
.came {
  background: var(--ochre);
}
.went {
  border: 1px solid var(--ochre-mid);
}
.n {
  font-size: 11.5px;
  color: var(--ink-soft);
  margin-left: 5px;
  white-space: nowrap;
}
.name {
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
}
.name .soft {
  font-size: 12px;
  margin-left: 6px;
}
.sign {
  display: inline-block;
  width: 14px;
  font: 600 13px var(--mono);
  color: var(--teal);
}
.gone {
  text-decoration: line-through;
}
.note {
  padding: 8px var(--gap);
}
</style>
