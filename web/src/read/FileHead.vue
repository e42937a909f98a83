<script setup lang="ts">
import { computed } from 'vue'
import type { Schemas } from '@/api/client'
import { count, many, short } from '@/words/format'
import type { Range } from '@/words/range'

const props = defineProps<{
  repository: number
  path: string
  pin: string
  at?: string // another commit than the pin
  range: Range | null
  total: number
  file?: Schemas['FileInfo']
  outline?: Schemas['OutlineInfo']
  since?: Schemas['SinceInfo']
}>()
const emit = defineEmits<{ copyPath: []; copyAddress: []; beside: []; elsewhere: []; editor: []; find: []; add: []; write: [] }>()
const parts = computed(() => props.path.split('/'))
const depths: Record<string, string> = { parsed: 'parsed', lexed: 'read by token rules', listed: 'not read' }
const changed = computed(() => {
  const s = props.since
  if (!s?.branch) return ''
  return s.changes ? `${s.more ? 'more than ' : ''}${many(s.changes, 'change')} since` : 'unchanged since'
})
</script>

<template>
  <div class="head">
    <div class="first">
      <h1 class="mono">
        <span v-if="parts.length > 1" class="folders" :title="path">
          <router-link
            v-for="(p, i) in parts.slice(0, -1)"
            :key="i"
            class="plain soft"
            :to="{
              name: 'read',
              params: { repository },
              query: { folder: parts.slice(0, i + 1).join('/'), ...(at ? { at } : {}) },
            }"
            >{{ p }}/</router-link
          >
        </span>
        <b>{{ parts.at(-1) }}</b>
      </h1>
      <span class="room" />
      <slot />
    </div>
    <div class="second">
      <span class="soft facts">
        <template v-if="outline">{{ outline.language || 'no language' }}, {{ depths[outline.depth] }}</template>
        <template v-if="file && !at"> · {{ file.role }}</template>
        <template v-if="total && !$slots.default"> · {{ count(total) }} lines</template>
        ·
        <template v-if="at">
          <span class="elsewhere">at {{ short(at) }}, not at the pin;</span>
          <router-link :to="{ query: { ...$route.query, at: undefined } }">see it at the pin</router-link>
        </template>
        <span v-else :title="`The pin, ${short(pin)}`">at the pin</span>
        <template v-if="changed"> · {{ changed }}</template>
      </span>
      <span class="room" />
      <button class="link" title="Path and lines, as text (c)" @click="emit('copyPath')">copy path{{ range ? ':lines' : '' }}</button>
      <button class="link" title="Copy the address of these lines at this very commit" @click="emit('copyAddress')">address</button>
      <button class="link" title="Find in this file (f)" @click="emit('find')">find</button>
      <router-link
        class="link"
        :to="{ name: 'story', params: { repository }, query: { path } }"
        title="Its story: the commits that changed it, and where (H)"
        >story</router-link
      >
      <button class="link" title="Put something beside it (b)" @click="emit('beside')">beside…</button>
      <button class="link" title="The same place at another commit (t)" @click="emit('elsewhere')">at…</button>
      <button class="link" title="Open this place in your own editor (e)" @click="emit('editor')">editor</button>
      <a-button size="small" title="Write about what is selected" @click="emit('write')">Write <kbd>r</kbd></a-button>
      <a-button v-if="!at" size="small" @click="emit('add')">Add to plan <kbd>a</kbd></a-button>
    </div>
  </div>
</template>

<style scoped>
.head {
  border-bottom: 1px solid var(--rule);
  padding: 7px 14px 5px 16px;
}
.first,
.second {
  display: flex;
  align-items: baseline;
  gap: 11px;
  white-space: nowrap;
  min-width: 0;
}
.second {
  font-size: 12px;
  gap: 9px;
  margin-top: 3px;
}
.facts {
  flex: 0 1 auto;
  min-width: 0;
  overflow: hidden;
  text-overflow: ellipsis;
}
.elsewhere {
  color: var(--ochre-text);
}
h1 {
  font-size: 13px;
  font-weight: 400;
  font-family: var(--mono);
  display: flex;
  min-width: 0;
}
h1 .folders {
  flex: 0 1000 auto;
  min-width: 1.4em;
  overflow: hidden;
  text-overflow: ellipsis;
}
h1 b {
  flex: 0 1 auto;
  min-width: 0;
  overflow: hidden;
  text-overflow: ellipsis;
}
.room {
  flex: 1;
}
@media (max-width: 700px) {
  .head {
    padding: 7px 12px 5px;
  }
  .first {
    flex-wrap: wrap;
  }
  .second {
    overflow-x: auto;
    gap: 14px;
    scrollbar-width: none;
  }
  .facts {
    flex: none;
  }
}
</style>
