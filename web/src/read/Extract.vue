<script setup lang="ts">
import { computed, ref, watch } from 'vue'
import { useRoute, useRouter } from 'vue-router'
import { useRepository } from '@/frame/repository'
import { useAdding, useSelection } from '@/plans/adding'
import { parseName } from '@/told'
import ExtractView from './ExtractView.vue'

const repository = useRepository()
const route = useRoute()
const router = useRouter()
const adding = useAdding()
const path = computed(() => (typeof route.query.path === 'string' ? route.query.path : ''))
const place = computed(() => parseName(route.query.name))
const number = (v: unknown, most: number) => (typeof v === 'string' && /^\d{1,6}$/.test(v) ? Math.min(most, Number(v)) : undefined)
const depth = computed(() => number(route.query.depth, 100) ?? 0)
const lines = computed(() => Math.max(1, number(route.query.lines, 20_000) ?? 1500))
const name = ref('')
watch([path, place], () => (name.value = ''))
const put = (q: Record<string, string | undefined>) => void router.replace({ query: { ...route.query, ...q } })
const view = ref<InstanceType<typeof ExtractView> | null>(null)
useSelection(() => {
  const found = view.value?.found
  const first = found?.pieces[0]
  if (!first || !place.value) return null
  return {
    kind: 'extract',
    path: path.value,
    start: place.value.line,
    end: place.value.line,
    column: place.value.column,
    title: `${first.qualified}, with all it needs`,
    lines: found.lines,
  }
})
</script>

<template>
  <div class="page-extract">
    <div class="head">
      <h1>{{ name || '…' }} <span class="soft">with everything of this repository that it needs</span></h1>
      <span class="room" />
      <label>
        depth
        <select :value="depth" @change="(e) => put({ depth: (e.target as HTMLSelectElement).value })">
          <option :value="0">to the end</option>
          <option v-for="n in [1, 2, 3, 4, 6, 8]" :key="n" :value="n">{{ n }}</option>
        </select>
      </label>
      <label>
        at most
        <select :value="lines" @change="(e) => put({ lines: (e.target as HTMLSelectElement).value })">
          <option v-for="n in [...new Set([100, 300, 1500, 5000, 20000, lines])].sort((a, b) => a - b)" :key="n" :value="n">
            {{ n.toLocaleString('en') }} lines
          </option>
        </select>
      </label>
      <a-button size="small" :disabled="!name" @click="adding.current.value = adding.selected.value">Add to plan <kbd>a</kbd></a-button>
    </div>
    <ExtractView
      v-if="place"
      ref="view"
      class="view"
      :repository="repository.id"
      :path="path"
      :line="place.line"
      :column="place.column"
      :depth="depth"
      :lines="lines"
      @name="(n) => (name = n)"
    />
    <p v-else class="page soft">An extract begins with a name: click one in Read, then choose “extract”.</p>
  </div>
</template>

<style scoped>
.page-extract {
  height: 100%;
  display: flex;
  flex-direction: column;
}
.head {
  display: flex;
  align-items: baseline;
  gap: 14px;
  padding: 10px 18px 9px var(--gap);
  border-bottom: 1px solid var(--rule);
  white-space: nowrap;
}
h1 {
  font-size: 18px;
  overflow: hidden;
  text-overflow: ellipsis;
}
h1 .soft {
  font-weight: 400;
  font-size: 15px;
}
.room {
  flex: 1;
}
select {
  font: inherit;
  color: inherit;
  background: var(--sheet);
  border: 1px solid var(--rule);
  border-radius: var(--radius);
  padding: 2px 4px;
}
.view {
  flex: 1;
}
</style>
