<script setup lang="ts">
import { computed, ref, watch } from 'vue'
import type { Schemas } from '@/api/client'
import { useKeys } from '@/frame/keys'
import { lineSpan } from '@/words/format'
import TargetFile from './TargetFile.vue'

/** Hops, one after another: the lines of the one at hand stand beside the list. */
const props = defineProps<{ target: Schemas['Target'] }>()
const hops = computed(() => props.target.hops ?? [])
const at = ref(0)
watch(
  () => props.target,
  (now, before) => JSON.stringify(now) !== JSON.stringify(before) && (at.value = 0),
)
const hop = computed(() => hops.value[Math.min(at.value, hops.value.length - 1)])
const go = (by: number) => (at.value = Math.max(0, Math.min(hops.value.length - 1, at.value + by)))
useKeys({ ']': () => go(1), '[': () => go(-1) })
</script>

<template>
  <div class="way">
    <ol>
      <li v-for="(h, i) in hops" :key="i">
        <button class="hop" :class="{ at: i === at }" :aria-current="i === at ? 'step' : undefined" @click="at = i">
          <span class="number">{{ i + 1 }}</span>
          <span class="says">{{ h.says || 'look here' }}</span>
          <span class="mono soft"
            >{{ h.path.split('/').at(-1) }}<template v-if="h.start">:{{ lineSpan(h.start, h.end ?? h.start) }}</template></span
          >
        </button>
      </li>
      <li class="soft keys"><kbd>[</kbd> <kbd>]</kbd> the hop before, the next</li>
    </ol>
    <TargetFile v-if="hop" class="code" :path="hop.path" :commit="hop.commit || target.commit" :start="hop.start" :end="hop.end" />
  </div>
</template>

<style scoped>
.way {
  height: 100%;
  display: grid;
  grid-template-columns: 210px minmax(0, 1fr);
}
ol {
  list-style: none;
  margin: 0;
  padding: 4px 0;
  overflow: auto;
  border-right: 1px solid var(--rule);
}
.hop {
  display: grid;
  grid-template-columns: 20px minmax(0, 1fr);
  gap: 0 4px;
  width: 100%;
  padding: 5px 10px;
  text-align: left;
  background: none;
  border: 0;
  border-left: 3px solid transparent;
  font: inherit;
  font-size: 13px;
  color: inherit;
  cursor: pointer;
}
.hop:hover {
  background: var(--hover);
}
.hop.at {
  border-left-color: var(--plum);
  background: var(--hover);
}
.number {
  color: var(--plum);
  font: 600 13px var(--serif);
}
.mono {
  grid-column: 2;
  font-size: 11.5px;
  overflow-wrap: anywhere;
}
.keys {
  padding: 8px 12px;
  font-size: 12px;
}
.code {
  min-height: 0;
}
</style>
