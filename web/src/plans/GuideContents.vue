<script setup lang="ts">
import { useTemplateRef } from 'vue'
import { notice } from '@/frame/notice'
import { useSheet } from '@/frame/sheet'
import GuideCovers from './GuideCovers.vue'
import GuideSteps from './GuideSteps.vue'
import Prose from './Prose.vue'
import type { ReaderPlace } from './reading'
import type { Plan } from './use'

/** The contents of a plan, opened upward from the ribbon: what it is for, its chapters
 * and passages, and what can be done with the whole. */
const props = defineProps<{
  repository: number
  plan: Plan
  edition?: string
  at?: string
  places: readonly ReaderPlace[]
  today?: number // minutes one means to read
  until?: string // the last passage of today
}>()
const emit = defineEmits<{ close: []; today: [minutes: number] }>()
const element = useTemplateRef<HTMLElement>('element')
useSheet({ element: () => element.value, modal: false, close: () => emit('close') })
const documentAt = (as: string) =>
  `/api/repositories/${props.repository}/plans/${props.plan.id}/document?${new URLSearchParams({ as, ...(props.edition && { edition: props.edition }) })}`
async function share() {
  await navigator.clipboard.writeText(`${location.origin}/r/${props.repository}/plans/${props.plan.id}`)
  notice('The address of this plan is copied. Whoever may read this repository can follow it.')
}
</script>

<template>
  <section ref="element" class="sheet" role="dialog" aria-label="Contents of the plan">
    <div class="about">
      <p class="head">
        <b>{{ plan.title }}</b>
        <button class="link" @click="emit('close')">close <kbd>Esc</kbd></button>
      </p>
      <Prose v-if="plan.purpose" :text="plan.purpose" />
      <p class="today">
        <label
          >today I have
          <input
            type="number"
            name="today"
            min="0"
            max="999"
            step="5"
            :value="today"
            placeholder="–"
            @change="(e) => emit('today', Number((e.target as HTMLInputElement).value))"
          />
          min</label
        >
      </p>
      <p class="soft">
        <button class="link" @click="share">copy address</button> ·
        <router-link :to="{ name: 'print-plan', params: { repository, plan: plan.id }, query: { edition } }">print</router-link> · export as
        <a :href="documentAt('html')" download title="One file with the code in it: to read without network, on a phone, on paper">a page</a
        >, <a :href="documentAt('markdown')" download title="It leads to the code by path and lines, on any Git host">Markdown</a>,
        <a :href="documentAt('json')" download title="All of it (JSON), for another installation">a document</a>
      </p>
      <GuideCovers :repository="repository" :plan="plan" />
    </div>
    <div class="steps"><GuideSteps :plan="plan" :at="at" :places="places" :until="until" /></div>
  </section>
</template>

<style scoped>
.sheet {
  position: absolute;
  left: 0;
  right: 0;
  bottom: 0;
  z-index: 20;
  max-height: calc(100% - 40px);
  overflow: auto;
  display: grid;
  grid-template-columns: 300px minmax(0, 1fr);
  gap: 0 32px;
  padding: 14px var(--gap) 18px;
  background: var(--sheet);
  border-top: 2px solid var(--plum);
}
.head {
  display: flex;
  justify-content: space-between;
  gap: 12px;
  align-items: baseline;
}
.head b {
  font: 600 17px/1.3 var(--serif);
}
.about :deep(.prose) {
  font-size: 14px;
  margin: 6px 0;
}
.today {
  margin: 8px 0;
}
.today input {
  width: 52px;
  font: inherit;
  color: inherit;
  padding: 1px 4px;
  background: var(--sheet);
  border: 1px solid var(--rule);
  border-radius: var(--radius);
}
.steps {
  columns: 320px;
  column-gap: 28px;
}
.steps :deep(.chapter) {
  break-inside: avoid;
  margin: 0 0 16px;
}
@media (max-width: 700px) {
  .sheet {
    position: fixed;
    top: 0;
    max-height: none;
    z-index: 40;
    display: block;
    padding: 14px 16px;
  }
  .steps {
    margin-top: 16px;
    columns: auto;
  }
}
</style>
