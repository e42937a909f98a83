<script setup lang="ts">
import { useQuery } from '@tanstack/vue-query'
import { refDebounced } from '@vueuse/core'
import { computed, ref, useTemplateRef } from 'vue'
import { api, data } from '@/api/client'
import { notice } from '@/frame/notice'
import { useSheet } from '@/frame/sheet'
import { useAnnotating, type Draft } from './annotating'
import NoteText from './NoteText.vue'
import { choices } from './target'
import { useMentions, useThread } from './use'
import WriteField from './WriteField.vue'

/** The open sheet on which a thread is written. The code beside it stays in reach:
 * closed, it keeps the text. */
const props = defineProps<{ repository: number; draft: Draft }>()
const { draft: kept, open } = useAnnotating()
const { write } = useThread(() => props.repository)
const { members } = useMentions(() => props.repository)

const offered = computed(() => choices(props.draft.place))
const same = (a: unknown, b: unknown) => JSON.stringify(a) === JSON.stringify(b)
const chosen = computed(() =>
  Math.max(
    0,
    offered.value.findIndex((c) => same(c.target, props.draft.target)),
  ),
)
const set = (change: Partial<Draft>) => (kept.value = { ...props.draft, ...change })

const text = computed({ get: () => props.draft.text, set: (t) => set({ text: t }) })
const asked = refDebounced(text, 400)
const shown = ref(false)
const { data: preview } = useQuery({
  queryKey: computed(() => ['note-preview', props.repository, asked.value]),
  queryFn: ({ signal }) =>
    data(
      api.POST('/api/repositories/{repository}/annotations/preview', {
        params: { path: { repository: props.repository } },
        body: { text: asked.value },
        signal,
      }),
    ),
  enabled: computed(() => !!asked.value.trim() && (shown.value || asked.value.includes('@'))),
})
const saving = ref(false)
async function save() {
  const d = props.draft
  if (!d.text.trim() || saving.value) return
  saving.value = true
  if (await write({ target: d.target, text: d.text, kind: d.kind, private: d.private, asked: d.asked })) {
    kept.value = null
    open.value = false
  }
  saving.value = false
}
function discard() {
  const was = props.draft
  kept.value = null
  open.value = false
  const back = () => {
    kept.value = was
    open.value = true
  }
  if (was.text.trim()) notice('The text is deleted.', { action: { label: 'Undo', do: back } })
}
const element = useTemplateRef<HTMLElement>('element')
useSheet({ element: () => element.value, modal: false, close: () => (open.value = false), save: () => void save() })
</script>

<template>
  <section ref="element" class="corner-sheet" role="dialog" aria-label="Write beside the code">
    <header>
      <b>About</b>
      <a-select
        :value="chosen"
        size="small"
        class="about"
        aria-label="What it is attached to"
        :options="offered.map((c, i) => ({ value: i, label: c.says }))"
        @change="(i: unknown) => set({ target: offered[Number(i)]!.target })"
      />
      <button class="link" title="It is kept in this browser until you save or delete it" @click="open = false">
        later <kbd>Esc</kbd>
      </button>
    </header>
    <NoteText v-if="shown && preview" :html="preview.html" class="preview" />
    <WriteField
      v-else
      v-model="text"
      :repository="repository"
      name="note"
      :rows="5"
      label="Markdown; #word is a tag, @ mentions somebody"
      @save="save"
    />
    <p v-if="preview?.mentions.length || preview?.untold.length" class="soft told">
      <template v-if="preview.mentions.length">tells {{ preview.mentions.join(', ') }}</template>
      <template v-if="preview.untold.length">
        {{ preview.mentions.length ? ' · ' : '' }}tells nobody: {{ preview.untold.map((u) => '@' + u).join(', ') }}</template
      >
    </p>
    <footer>
      <a-checkbox :checked="draft.kind === 'question'" @change="set({ kind: draft.kind === 'question' ? 'note' : 'question' })"
        >a question</a-checkbox
      >
      <a-checkbox :checked="draft.private" @change="set({ private: !draft.private })">for me alone</a-checkbox>
      <a-select
        v-if="!draft.private"
        :value="draft.asked"
        size="small"
        allow-clear
        placeholder="ask somebody to act"
        style="width: 160px"
        aria-label="Ask somebody to act"
        :options="members.map((m) => ({ value: m.id, label: m.name }))"
        @change="(v: unknown) => set({ asked: v === undefined ? undefined : Number(v) })"
      />
    </footer>
    <footer>
      <button class="link" @click="shown = !shown">{{ shown ? 'write' : 'preview' }}</button>
      <span class="room" />
      <button class="link" @click="discard">Delete</button>
      <a-button type="primary" :disabled="!text.trim()" :loading="saving" title="Ctrl Enter" @click="save">Save</a-button>
    </footer>
  </section>
</template>

<style scoped>
header,
footer {
  display: flex;
  align-items: center;
  gap: 12px;
}
header {
  margin-bottom: 8px;
}
footer {
  margin-top: 8px;
}
footer :deep(.ant-checkbox-wrapper) {
  white-space: nowrap;
}
.about {
  flex: 1;
  min-width: 0;
}
.room {
  flex: 1;
}
.preview {
  min-height: 110px;
  padding: 4px 11px;
  border: 1px dashed var(--rule);
}
.told {
  margin-top: 4px;
  font-size: 12px;
}
</style>
