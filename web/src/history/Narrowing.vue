<script setup lang="ts">
import { keepPreviousData, useQuery } from '@tanstack/vue-query'
import { refDebounced, onClickOutside } from '@vueuse/core'
import { computed, ref, useTemplateRef, watch } from 'vue'
import { api, data, type Schemas } from '@/api/client'
import { count, many } from '@/words/format'
import { around, queryOf, type Term } from './terms'

/** A field in which commits are asked for, as a sentence that grows. */
const props = defineProps<{ repository: number; terms: readonly Term[]; told: readonly Schemas['TermInfo'][] }>()
const emit = defineEmits<{ change: [terms: Term[]] }>()

const typed = ref('')
const asked = refDebounced(typed, 120)
const open = ref(false)
const only = ref('') // values of this key alone
const at = ref(-1)
const field = useTemplateRef<HTMLInputElement>('field')
const box = useTemplateRef<HTMLElement>('box')
const path = computed(() => ({ repository: props.repository }))
const { data: keys } = useQuery({
  queryKey: computed(() => ['repository', props.repository, 'log-keys']),
  queryFn: ({ signal }) => data(api.GET('/api/repositories/{repository}/log/keys', { params: { path: path.value }, signal })),
  staleTime: Infinity,
})
const {
  data: offers,
  isFetching,
  isPlaceholderData,
} = useQuery({
  queryKey: computed(() => ['repository', props.repository, 'log-offers', queryOf(props.terms), asked.value, only.value]),
  queryFn: ({ signal }) =>
    data(
      api.GET('/api/repositories/{repository}/log/offers', {
        params: { path: path.value, query: { ...queryOf(props.terms), text: asked.value || undefined, key: only.value || undefined } },
        signal,
      }),
    ),
  enabled: open,
  placeholderData: keepPreviousData,
})
watch([typed, only], () => (at.value = typed.value ? 0 : -1))
onClickOutside(box, () => (open.value = false))

const keyOf = (name: string) => keys.value?.find((k) => k.name === name)
function words(t: Term): [string, string] {
  const k = keyOf(t.key)
  return around(k ? (t.not ? k.says_not : k.says) : `${t.key} %s`)
}
function take(o: Schemas['OfferInfo'] | undefined) {
  if (!o) return
  emit('change', [...props.terms, { key: o.key, value: o.value, not: false }])
  typed.value = ''
  only.value = ''
  at.value = -1
  field.value?.focus()
}
const without = (n: number) => props.terms.filter((_, i) => i !== n)
const turned = (n: number) => props.terms.map((t, i) => (i === n ? { ...t, not: !t.not } : t))
/** Enter may come before what is typed is answered: it is kept until then. */
const entered = ref(false)
const fresh = computed(() => asked.value === typed.value && !isPlaceholderData.value && !!offers.value)
watch([fresh, entered], ([ok, wanted]) => {
  if (!ok || !wanted) return
  entered.value = false
  take(offers.value?.[Math.max(0, at.value)])
})
watch(typed, () => (entered.value = false))
function press(e: KeyboardEvent) {
  const n = offers.value?.length ?? 0
  if (e.key === 'ArrowDown' || e.key === 'ArrowUp') {
    open.value = true
    // what is about to be replaced cannot be chosen
    if (fresh.value) at.value = n ? (Math.max(at.value, e.key === 'ArrowDown' ? -1 : 0) + (e.key === 'ArrowDown' ? 1 : n - 1)) % n : -1
    e.preventDefault()
  } else if (e.key === 'Enter') {
    if (typed.value || at.value >= 0) entered.value = true
    e.preventDefault()
  } else if (e.key === 'Escape') {
    if (only.value) only.value = ''
    else if (typed.value) typed.value = ''
    else {
      open.value = false
      field.value?.blur()
    }
    e.stopPropagation()
  } else if (e.key === 'Backspace' && !typed.value) {
    if (only.value) only.value = ''
    else if (props.terms.length) emit('change', without(props.terms.length - 1))
  }
}
const titles: Record<string, string> = {
  by: 'person',
  message: 'words of the message',
  lines: 'words in changed lines',
  path: 'file or folder',
  symbol: 'symbol',
  branch: 'branch',
  tag: 'tag',
  from: 'from a day on',
  to: 'up to a day',
  is: 'merges',
  'lines-changed': 'lines changed',
  'files-changed': 'files changed',
}
function choose(key: string) {
  only.value = key
  field.value?.focus()
}
defineExpose({ focus: () => field.value?.focus() })
</script>

<template>
  <div ref="box" class="narrowing">
    <div class="sentence" @click="field?.focus()">
      <span class="word">Commits</span>
      <span v-for="(t, i) in terms" :key="i" class="term" :class="{ not: t.not, odd: told[i]?.alone === 0 }">
        <button
          class="says"
          :aria-label="[words(t)[0], t.value, words(t)[1]].filter(Boolean).join(' ')"
          :title="`Turn it round: ${t.not ? 'only those that fit' : 'only those that do not fit'}`"
          @click.stop="emit('change', turned(i))"
        >
          <span>{{ words(t)[0] }}</span>
          <b v-if="t.key !== 'is'">{{ t.value }}</b>
          <span v-else>{{ t.value }}</span>
          <span v-if="words(t)[1]">{{ words(t)[1] }}</span>
        </button>
        <button class="away" :aria-label="`Take away: ${words(t)[0]} ${t.value}`" @click.stop="emit('change', without(i))">×</button>
      </span>
      <span v-if="only" class="only">{{ titles[only] }}:</span>
      <input
        ref="field"
        v-model="typed"
        name="narrow"
        role="combobox"
        aria-label="Narrow the commits"
        :aria-expanded="open"
        aria-controls="log-offers"
        :placeholder="
          only ? keyOf(only)?.example : terms.length ? 'and …' : 'by anybody, about anything — type a name, a word, a path, a date'
        "
        autocomplete="off"
        spellcheck="false"
        @focus="open = true"
        @click="open = true"
        @keydown="press"
      />
      <button v-if="terms.length" class="link clear" @click.stop="emit('change', [])">show all</button>
    </div>
    <div v-if="open" id="log-offers" class="offers">
      <div class="found" role="listbox" aria-label="What that may mean">
        <button
          v-for="(o, i) in offers ?? []"
          :key="o.key + o.value"
          role="option"
          :aria-selected="i === at"
          :class="{ on: i === at }"
          @mousedown.prevent
          @click="take(o)"
        >
          <span class="what"
            ><span class="soft">{{ around(o.says)[0] }}</span> <b>{{ o.value }}</b> <span class="soft">{{ around(o.says)[1] }}</span></span
          >
          <span class="soft fits">{{ o.fits < 0 ? 'reads the changes' : many(o.fits, 'commit') }}</span>
        </button>
        <p v-if="offers && !offers.length && !isFetching" class="soft none">
          Nothing here is called <b>{{ asked }}</b><template v-if="only"> ({{ titles[only] }})</template>, and no message says it<template
            v-if="terms.length"
          >
            among the commits that are left</template
          >. {{ only ? keyOf(only)?.doc : '' }}
        </p>
      </div>
      <div class="ask">
        <p class="soft">What can be asked</p>
        <button
          v-for="k in keys ?? []"
          :key="k.name"
          :class="{ on: only === k.name }"
          :title="k.doc"
          @mousedown.prevent
          @click="choose(k.name)"
        >
          {{ titles[k.name] ?? k.name }} <span class="soft">{{ k.example }}</span>
        </button>
        <p class="soft more">
          {{
            only ? keyOf(only)?.doc : `${count(keys?.length ?? 0)} sorts of things, any together. A click on a chosen one turns it round.`
          }}
        </p>
      </div>
    </div>
  </div>
</template>

<style scoped>
.narrowing {
  position: relative;
  flex: 1;
  min-width: 0;
}
.sentence {
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: 5px 8px;
  min-height: 36px;
  padding: 4px 10px;
  background: var(--sheet);
  border: 1px solid var(--rule);
  border-radius: var(--radius);
  cursor: text;
}
.sentence:focus-within {
  outline: 2px solid var(--plum);
  outline-offset: 1px;
}
.word {
  font-family: var(--serif);
  font-size: 15.5px;
}
.term {
  display: inline-flex;
  max-width: 100%;
  border-bottom: 2px solid var(--ochre);
}
.term.not {
  border-bottom-style: dashed;
}
.term.odd {
  border-bottom-color: var(--fault);
}
.says,
.away {
  border: 0;
  background: none;
  color: inherit;
  font: 15px/1.5 var(--serif);
  padding: 0 2px;
  cursor: pointer;
  min-width: 0;
}
.says {
  display: flex;
  gap: 5px;
  white-space: nowrap;
}
.says b {
  overflow: hidden;
  text-overflow: ellipsis;
}
.away {
  color: var(--ink-soft);
  font-family: var(--sans);
}
.says:hover,
.away:hover {
  background: var(--hover);
}
input {
  flex: 1;
  min-width: 130px;
  border: 0;
  background: none;
  color: inherit;
  font: inherit;
  outline: none;
}
input::placeholder {
  color: var(--ink-soft);
}
.only {
  color: var(--ochre-text);
}
.clear {
  flex: none;
}
.offers {
  position: absolute;
  z-index: 20;
  top: calc(100% + 4px);
  left: 0;
  right: 0;
  display: grid;
  grid-template-columns: minmax(0, 1fr) 290px;
  background: var(--sheet);
  border: 1px solid var(--rule);
  border-radius: var(--radius);
  max-height: min(460px, 70vh);
}
.found,
.ask {
  overflow: auto;
  padding: 6px 0;
}
.ask {
  border-left: 1px solid var(--rule-soft);
}
.offers button {
  display: flex;
  gap: 12px;
  justify-content: space-between;
  width: 100%;
  padding: 4px 12px;
  border: 0;
  background: none;
  color: inherit;
  font: inherit;
  text-align: left;
  cursor: pointer;
}
.offers button:hover,
.offers button.on {
  background: var(--hover);
}
.ask button {
  padding: 2px 12px;
}
.ask button .soft {
  font-size: 12px;
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
}
.what {
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
}
.fits {
  flex: none;
  font-size: 12.5px;
}
.none,
.ask > p {
  padding: 4px 12px;
  font-size: 12.5px;
}
.more {
  border-top: 1px solid var(--rule-soft);
  margin-top: 6px;
  padding-top: 6px;
}
</style>
