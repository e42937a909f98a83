<script setup lang="ts">
import type { Side } from './desk'

/** What stands at the right of the text: the margin, all about the file, or the
 * uses of a name. */
const side = defineModel<Side>({ required: true })
defineProps<{ named: boolean }>()
const emit = defineEmits<{ quiet: [] }>()
const tabs = [
  ['margin', 'margin', 'What plans, tagged comments and starts say beside the lines'],
  ['about', 'about this file', 'What it is, imports, links, history (i)'],
  ['name', 'uses', 'All that is known of the name (u)'],
] as const
</script>

<template>
  <aside class="side">
    <div class="tabs" role="tablist">
      <template v-for="[key, title, why] in tabs" :key="key">
        <button
          v-if="key !== 'name' || named"
          class="pick"
          role="tab"
          :aria-selected="side === key"
          :class="{ on: side === key }"
          :title="why"
          @click="side = key"
        >
          {{ title }}
        </button>
      </template>
      <span class="room" />
      <button class="link" title="Hide the margin (q)" @click="emit('quiet')">quieten <kbd>q</kbd></button>
    </div>
    <slot />
  </aside>
</template>

<style scoped>
.side {
  border-left: 1px solid var(--rule);
  background: var(--sheet);
  display: flex;
  flex-direction: column;
  min-height: 0;
}
.side > :last-child {
  flex: 1;
  min-height: 0;
}
.tabs {
  display: flex;
  gap: 12px;
  padding: 9px 18px 6px 20px;
  border-bottom: 1px solid var(--rule-soft);
  font-size: 12.5px;
  white-space: nowrap;
}
.room {
  flex: 1;
}
</style>
