<script setup lang="ts">
import type { Schemas } from '@/api/client'
import type { State } from './address'
import { happenedMeasures, isMeasures } from './measures'
import { orders, type OrderName } from './order'
import Timeline from './Timeline.vue'

defineProps<{ state: State; timeline: Schemas['Timeline'] | null; pinAt: string | null }>()
const emit = defineEmits<{ set: [change: Partial<State>] }>()
const orderList = Object.entries(orders) as [OrderName, (typeof orders)[OrderName]][]
</script>

<template>
  <header class="head">
    <div class="side is">
      <h2>what it is</h2>
      <p role="group" aria-label="Measure of the left wing">
        <button
          v-for="m in isMeasures"
          :key="m.key"
          class="pick"
          :aria-pressed="state.left === m.key"
          :class="{ on: state.left === m.key }"
          :title="m.doc"
          @click="emit('set', { left: m.key })"
        >
          {{ m.title }}
        </button>
      </p>
    </div>
    <div class="order">
      <p role="group" aria-label="Order">
        <span class="soft">order:</span>
        <template v-for="[key, o] in orderList" :key="key">
          <span v-if="key === 'still'" class="break" /><span v-if="key === 'still'" class="soft">mismatch:</span>
          <button
            class="pick"
            :aria-pressed="state.order === key"
            :class="{ on: state.order === key }"
            :title="o.doc"
            @click="emit('set', { order: key })"
          >
            {{ o.title }}
          </button>
        </template>
      </p>
    </div>
    <div class="side happened">
      <Timeline
        v-if="timeline"
        :timeline="timeline"
        :from="state.from"
        :to="state.to"
        :pin-at="pinAt"
        @span="(from, to) => emit('set', { from, to })"
        ><h2>what happened</h2></Timeline
      >
      <h2 v-else>what happened</h2>
      <p role="group" aria-label="Measure of the right wing">
        <button
          v-for="m in happenedMeasures"
          :key="m.key"
          class="pick"
          :aria-pressed="state.right === m.key"
          :class="{ on: state.right === m.key }"
          :title="m.doc"
          @click="emit('set', { right: m.key })"
        >
          {{ m.title }}
        </button>
      </p>
    </div>
  </header>
</template>

<style scoped>
.head {
  display: grid;
  grid-template-columns: var(--wings);
  align-items: end;
  padding: 6px var(--gap) 4px;
  border-bottom: 1px solid var(--rule);
  margin-right: 15px;
}
h2 {
  font-size: 16.5px;
  white-space: nowrap;
}
.is {
  text-align: right;
  padding-right: 10px;
}
.is h2,
.is .on {
  color: var(--teal);
}
.happened {
  padding-left: 10px;
  min-width: 0;
}
.happened h2,
.happened .on {
  color: var(--ochre-text);
}
.break {
  flex-basis: 100%;
  height: 0;
}
.order p {
  padding: 0 6px;
  font-size: 12px;
  justify-content: center;
}
p {
  display: flex;
  flex-wrap: wrap;
  gap: 0 8px;
  font-size: 12.5px;
}
.is p {
  justify-content: flex-end;
}
.pick:not(.on) {
  color: var(--ink-soft);
}
.order .on {
  color: var(--ink);
}
</style>
