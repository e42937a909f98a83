<script setup lang="ts">
import { computed, onBeforeUnmount, ref, useTemplateRef, watch } from 'vue'
import { ProblemError, words } from '@/api/client'
import { notice } from '@/frame/notice'
import { useAttaching } from '@/notes'
import { merge } from '@/words/merge'
import MergeQuestion from '@/words/MergeQuestion.vue'

/** A text that is kept while it is written. Where somebody else changed it
 * meanwhile, both changes are put together and shown before anything is kept. */
const props = withDefaults(
  defineProps<{
    name: string
    label: string
    value: string
    rows?: number
    most?: number // characters
    repository?: number // pictures and files may go with it
    save: (from: string, to: string) => Promise<unknown>
  }>(),
  { rows: 1, most: 20_000, repository: 0 },
)
const text = ref(props.value)
const base = ref(props.value) // what the text is a change of
const met = ref<{ theirs: string; mine: string; both: number } | null>(null)
const dirty = computed(() => text.value !== base.value)
let timer = 0
let busy = false
watch(() => props.value, follow)
/** Takes over what somebody else made of the text. */
function follow(now: string) {
  if (busy || now === base.value) return
  if (dirty.value) meet(now)
  else text.value = now
  base.value = now
}
function meet(theirs: string) {
  const { text: together, both } = merge(base.value, text.value, theirs)
  met.value = together === text.value ? null : { theirs, mine: text.value, both }
  text.value = together
}
async function keep() {
  clearTimeout(timer)
  if (!dirty.value || busy || met.value) return
  const [from, to] = [base.value, text.value]
  busy = true
  base.value = to
  try {
    await props.save(from, to)
    busy = false
  } catch (e) {
    busy = false
    base.value = from
    const current = e instanceof ProblemError ? e.problem.current : undefined
    if (typeof current !== 'string') return notice(words(e), { fault: true })
    meet(current)
    base.value = current
    return
  }
  // meanwhile somebody else may have changed it, and more may have been typed
  follow(props.value)
  void keep()
}
function typed() {
  clearTimeout(timer)
  timer = window.setTimeout(() => void keep(), 1500)
}
function agree(to?: string) {
  if (to !== undefined) text.value = to
  met.value = null
  void keep()
}
onBeforeUnmount(() => void keep())

const area = useTemplateRef<HTMLTextAreaElement>('area')
const { sending, paste, drop } = useAttaching(
  () => props.repository,
  text,
  () => area.value,
)
// what is attached is kept like what is typed
watch(sending, (name) => !name && typed())
const press = (e: KeyboardEvent) => {
  if (e.key === 'Enter' && (props.rows === 1 || e.ctrlKey || e.metaKey)) {
    e.preventDefault()
    void keep()
    ;(e.target as HTMLElement).blur()
  }
}
</script>

<template>
  <div class="kept">
    <MergeQuestion v-if="met" :theirs="met.theirs" :both="met.both">
      <button class="link" @click="agree()">keep this</button>
      <button class="link" @click="agree(met.mine)">yours alone</button>
      <button class="link" @click="agree(met.theirs)">theirs</button>
    </MergeQuestion>
    <textarea
      ref="area"
      v-model="text"
      :name="name"
      :rows="rows"
      :maxlength="most"
      :aria-label="label"
      :placeholder="label"
      @input="typed"
      @blur="keep"
      @keydown="press"
      v-on="repository ? { paste, drop } : {}"
    />
    <p v-if="sending" class="soft" role="status">attaching {{ sending }} …</p>
  </div>
</template>

<style scoped>
textarea {
  display: block;
  width: calc(100% + 6px);
  margin-left: -6px;
  padding: 2px 6px;
  font: inherit;
  color: var(--ink);
  background: none;
  border: 1px solid transparent;
  border-radius: var(--radius);
  resize: none;
  field-sizing: content;
  max-height: 40vh;
}
textarea:hover,
textarea:focus {
  border-color: var(--rule);
  background: var(--sheet);
}
textarea::placeholder {
  color: var(--ink-soft);
  opacity: 1;
}
</style>
