<script setup lang="ts">
import { useQuery } from '@tanstack/vue-query'
import { refDebounced, useMediaQuery } from '@vueuse/core'
import { computed, ref, watch } from 'vue'
import { useRouter } from 'vue-router'
import { api, data } from '@/api/client'
import { count } from '@/words/format'
import { useKeys } from './keys'
import { useRepositoryId } from './repository'

const repository = useRepositoryId()
const router = useRouter()
const text = ref('')
const asked = refDebounced(text, 120)
const field = ref<HTMLInputElement>()
const open = ref(false)
const narrow = useMediaQuery('(max-width: 700px)')
const at = ref(0)
const { data: found } = useQuery({
  queryKey: computed(() => ['repository', repository.value, 'paths', asked.value]),
  queryFn: ({ signal }) =>
    data(
      api.GET('/api/repositories/{repository}/paths', {
        params: { path: { repository: repository.value }, query: { text: asked.value, limit: 12 } },
        signal,
      }),
    ),
  enabled: computed(() => asked.value.trim() !== ''),
})
const files = computed(() => (asked.value.trim() ? (found.value?.files ?? []) : []))
watch(asked, () => (at.value = 0))

function go(path: string) {
  open.value = false
  field.value?.blur()
  void router.push({ name: 'read', params: { repository: repository.value }, query: { path } })
}
/** Every line of the repository that holds what was typed. */
function search() {
  open.value = false
  field.value?.blur()
  void router.push({ name: 'search', params: { repository: repository.value }, query: { text: text.value } })
}
function enter(e: KeyboardEvent) {
  const f = files.value[at.value]
  if (f && !e.shiftKey) go(f.path)
  else if (text.value.trim()) search()
}
useKeys({ '/': () => field.value?.focus() })
</script>

<template>
  <div class="box">
    <input
      ref="field"
      v-model="text"
      type="search"
      role="combobox"
      aria-label="Find a file by its path, or a text"
      aria-controls="found-files"
      :aria-expanded="open && files.length > 0"
      :placeholder="narrow ? 'Find' : 'Find a file by its path, or a text'"
      @focus="open = true"
      @blur="open = false"
      @keydown.down.prevent="at = Math.min(at + 1, files.length - 1)"
      @keydown.up.prevent="at = Math.max(at - 1, 0)"
      @keydown.enter.prevent="enter"
      @keydown.esc="field?.blur()"
    />
    <kbd v-if="!open">/</kbd>
    <div v-if="open && asked.trim() && found" id="found-files" class="found" role="listbox">
      <button
        v-for="(f, i) in files"
        :key="f.path"
        role="option"
        :aria-selected="i === at"
        :class="{ at: i === at }"
        @mousedown.prevent="go(f.path)"
      >
        <span class="mono">{{ f.path }}</span><span class="soft">{{ f.language || f.role }}</span>
      </button>
      <p class="soft">
        <template v-if="!files.length">No path of this survey holds “{{ asked }}”.</template>
        <template v-else-if="found.total > files.length"
          >{{ count(found.total) }} files match; the {{ files.length }} nearest are shown.</template
        >
        <template v-else>{{ count(found.total) }} of {{ count(found.total) }} shown.</template>
      </p>
      <button class="text" @mousedown.prevent="search">
        <span>Lines that hold “{{ text }}”</span><kbd>{{ files.length ? 'Shift Enter' : 'Enter' }}</kbd>
      </button>
    </div>
  </div>
</template>

<style scoped>
.box {
  position: relative;
}
input {
  width: 100%;
  height: 30px;
  padding: 0 30px 0 11px;
  font: inherit;
  color: inherit;
  background: var(--paper);
  border: 1px solid var(--rule);
  border-radius: var(--radius);
}
input::placeholder {
  color: var(--ink-soft);
  opacity: 1;
}
kbd {
  position: absolute;
  right: 9px;
  top: 8px;
  border: 0;
}
.found {
  position: absolute;
  top: 34px;
  left: 0;
  width: max(100%, 520px);
  z-index: 50;
  background: var(--sheet);
  border: 1px solid var(--rule);
  border-radius: var(--radius);
  padding: 4px 0;
}
.found button {
  display: flex;
  justify-content: space-between;
  gap: 16px;
  width: 100%;
  padding: 4px 12px;
  border: 0;
  background: none;
  color: inherit;
  font: inherit;
  text-align: left;
  cursor: pointer;
}
.found button .mono {
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
}
.found .at,
.found button:hover {
  background: var(--hover);
}
.found .text {
  border-top: 1px solid var(--rule-soft);
  color: var(--teal);
}
.found .text kbd {
  position: static;
}
.found p {
  padding: 4px 12px;
  font-size: 12px;
}
@media (max-width: 700px) {
  kbd {
    display: none;
  }
  .found {
    position: fixed;
    top: var(--header);
    left: 8px;
    right: 8px;
    width: auto;
  }
}
</style>
