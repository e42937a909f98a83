<script setup lang="ts">
import { computed, onBeforeUnmount, onMounted, ref, useTemplateRef } from 'vue'
import { notice } from '@/frame/notice'
import TargetView from '@/read/TargetView.vue'
import type { Range } from '@/words/range'
import type { Draft } from './draft'
import { setPassage, where } from './model'
import NeedsField from './NeedsField.vue'
import QuestionsField from './QuestionsField.vue'
import TargetFields from './TargetFields.vue'
import TextField from './TextField.vue'
import type { Op, Passage, Plan } from './use'

/** One passage of a draft, to be written: its texts above the code it leads to. */
const props = defineProps<{ passage: Passage; plan: Plan; repository: number; draft: Draft }>()
const emit = defineEmits<{ apply: [ops: (Op | null)[]]; remove: []; choose: [passage: string]; leave: [] }>()
/** Somebody removed it while it is open here. */
const removed = computed(() => props.draft.removal(props.passage.id))
const part = ref<'text' | 'needs' | 'questions' | 'target'>('text')
/** What a text field of the passage needs. */
const kept = (field: 'title' | 'purpose' | 'text' | 'caution') => ({
  name: `passage-${field}`,
  value: props.passage[field] ?? '',
  kept: `plan.${props.plan.id}.${props.passage.id}.${field}`,
  by: props.draft.writer(props.passage.id, field),
  held: !!removed.value,
  save: (from: string, to: string) => props.draft.apply([{ kind: 'set-passage', id: props.passage.id, field, from, to }]),
})
const written = useTemplateRef<InstanceType<typeof TextField>[]>('written')
async function copyWords() {
  const texts = written.value?.map((f) => f.text.trim()).filter(Boolean) ?? []
  try {
    await navigator.clipboard.writeText(texts.join('\n\n'))
    notice('Copied.')
  } catch {
    notice('This browser does not allow copying. Select the text and copy it by hand.', { fault: true })
  }
}
const target = computed(() => props.passage.target)
const selected = ref<Range | null>(null)
/** The code comes once the fields are on the screen. */
const shown = ref(false)
let due = 0
onMounted(() => (due = window.setTimeout(() => (shown.value = true), 30)))
onBeforeUnmount(() => clearTimeout(due))
const choosable = computed(() => !removed.value && ['lines', 'file', 'symbol', 'asset'].includes(target.value.kind))
const taken = computed(() => selected.value && (selected.value.start !== target.value.start || selected.value.end !== target.value.end))
function takeLines() {
  const r = selected.value
  if (!r) return
  const to = { kind: 'lines' as const, path: target.value.path, start: r.start, end: r.end, commit: target.value.commit }
  emit('apply', [setPassage(props.passage, 'target', to)])
  selected.value = null
}
const parts = computed(() => [
  { name: 'text' as const, title: 'Text' },
  { name: 'needs' as const, title: `Know before ${props.passage.needs?.length ?? 0}` },
  { name: 'questions' as const, title: `Questions ${props.passage.questions?.length ?? 0}` },
  { name: 'target' as const, title: 'What is read' },
])
</script>

<template>
  <div class="fields">
    <div v-if="removed" class="removed" role="alert">
      <b>{{ removed.by }} removed this passage{{ removed.back[0]?.kind === 'restore-chapter' ? ' with its chapter' : '' }}.</b> What you
      wrote is still here and not saved.
      <p>
        <button class="link" @click="emit('apply', removed.back)">Bring it back with your words</button>
        <button class="link" @click="copyWords">Copy your words</button>
        <button class="link" @click="emit('leave')">Close it</button>
      </p>
    </div>
    <div class="form">
      <div class="row">
        <TextField ref="written" class="title" label="Title of the passage" :most="200" v-bind="kept('title')" />
        <label class="soft"
          ><input
            class="minutes"
            name="passage-minutes"
            type="number"
            min="0"
            max="600"
            :value="passage.minutes"
            :disabled="!!removed"
            aria-label="Minutes"
            @change="(e) => emit('apply', [setPassage(passage, 'minutes', Number((e.target as HTMLInputElement).value))])"
          />
          min</label
        >
        <a-checkbox
          :checked="!!passage.optional"
          :disabled="!!removed"
          @change="emit('apply', [setPassage(passage, 'optional', !passage.optional)])"
          >optional</a-checkbox
        >
        <button v-if="!removed" class="link" @click="emit('remove')">remove</button>
      </div>
      <nav v-if="!removed" class="parts" aria-label="Parts of the passage">
        <button v-for="x in parts" :key="x.name" :class="{ on: part === x.name }" @click="part = x.name">{{ x.title }}</button>
      </nav>
      <template v-if="part === 'text'">
        <TextField
          ref="written"
          class="prose-field"
          label="What will a reader know after it?"
          :rows="1"
          :most="2000"
          v-bind="kept('purpose')"
        />
        <TextField
          ref="written"
          class="prose-field"
          label="The text beside the code: Markdown; paste or drop pictures"
          :rows="4"
          :repository="repository"
          v-bind="kept('text')"
        />
        <TextField
          ref="written"
          label="A caution: “do not copy this”, “stop here: below is the operating system”"
          :rows="1"
          :most="2000"
          v-bind="kept('caution')"
        />
        <p v-if="passage.why" class="soft">why here: {{ passage.why }}</p>
      </template>
      <NeedsField
        v-else-if="part === 'needs'"
        :plan="plan"
        :passage="passage"
        @apply="(o) => emit('apply', o)"
        @choose="(p) => emit('choose', p)"
      />
      <QuestionsField v-else-if="part === 'questions'" :passage="passage" :plan="plan.id" :draft="draft" @apply="(o) => emit('apply', o)" />
      <TargetFields v-else :plan="plan" :passage="passage" :selected="selected" @apply="(o) => emit('apply', o)" />
    </div>
    <div class="bar">
      <span class="mono">{{ where(target) }}</span>
      <span class="room" />
      <a-button v-if="choosable && taken && selected" size="small" @click="takeLines"
        >use {{ selected.start === selected.end ? `line ${selected.start}` : `lines ${selected.start}-${selected.end}` }}</a-button
      >
      <span v-else-if="choosable" class="soft">select lines to change what is read</span>
    </div>
    <TargetView v-if="shown" :key="passage.id" class="code" :target="target" :choosing="choosable" @select="(r) => (selected = r)" />
  </div>
</template>

<style scoped>
.fields {
  display: flex;
  flex-direction: column;
}
.removed {
  flex: none;
  padding: 8px 20px;
  background: var(--hover);
  border-left: 3px solid var(--plum);
}
.removed button {
  margin-right: 14px;
}
.form {
  flex: none;
  max-height: 58%;
  overflow: auto;
  padding: 8px 20px;
}
.row {
  display: flex;
  gap: 14px;
  align-items: baseline;
}
.title {
  flex: 1;
  font: 600 16px/1.3 var(--serif);
}
.minutes {
  width: 52px;
  font: inherit;
  color: var(--ink);
  padding: 1px 4px;
  background: var(--sheet);
  border: 1px solid var(--rule);
  border-radius: var(--radius);
}
.parts {
  display: flex;
  gap: 16px;
  margin: 6px 0;
  font-size: 12.5px;
}
.parts button {
  padding: 0 0 2px;
  background: none;
  border: 0;
  border-bottom: 1px solid transparent;
  font: inherit;
  color: var(--ink-soft);
  cursor: pointer;
}
.parts button.on {
  color: var(--ink);
  border-bottom-color: var(--ink);
}
.prose-field {
  font: 14.5px/1.45 var(--serif);
}
.bar {
  flex: none;
  display: flex;
  gap: 14px;
  align-items: baseline;
  min-height: 32px;
  padding: 5px 20px;
  border-top: 1px solid var(--rule);
  border-bottom: 1px solid var(--rule-soft);
}
.bar .mono {
  font-weight: 600;
  font-size: 12.5px;
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
}
.bar .soft {
  font-size: 12.5px;
}
.room {
  flex: 1;
}
.code {
  flex: 1;
  min-height: 0;
}
</style>
