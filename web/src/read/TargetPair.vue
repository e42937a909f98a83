<script setup lang="ts">
import type { Schemas } from '@/api/client'
import { lineSpan } from '@/words/format'
import TargetFile from './TargetFile.vue'

/** Two things side by side. */
defineProps<{ target: Schemas['Target'] }>()
</script>

<template>
  <div class="pair">
    <section v-for="(x, i) in [target, target.beside!]" :key="i">
      <p class="mono name">
        {{ x.path }}<template v-if="x.start">:{{ lineSpan(x.start, x.end ?? x.start) }}</template>
      </p>
      <TargetFile class="one" :path="x.path" :commit="x.commit || target.commit" :start="x.start" :end="x.end" />
    </section>
  </div>
</template>

<style scoped>
.pair {
  height: 100%;
  display: grid;
  grid-template-columns: minmax(0, 1fr) minmax(0, 1fr);
}
section {
  display: flex;
  flex-direction: column;
  min-height: 0;
}
section + section {
  border-left: 1px solid var(--rule);
}
.name {
  flex: none;
  padding: 4px 12px;
  font-size: 12px;
  font-weight: 600;
  border-bottom: 1px solid var(--rule-soft);
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
  direction: rtl;
  text-align: left;
}
.one {
  flex: 1;
}
</style>
