<script setup lang="ts">
import { computed } from 'vue'
import type { Schemas } from '@/api/client'
import { Excerpt } from '@/told'
import { age, date, many, short } from '@/words/format'
import { states, type TaggedItem } from './tagged'

/** One tagged comment: what it says, the lines around it, its life, and what
 * can be done with it. */
const props = defineProps<{
  repository: number
  item: TaggedItem
  words: readonly Schemas['WordInfo'][]
  pin: string
  pinAt: string | null
  writer: boolean
}>()
const emit = defineEmits<{ keep: []; aside: []; back: []; add: []; write: [] }>()
const word = computed(() => props.words.find((w) => w.word === props.item.word))
const gone = computed(() => props.item.state === 'gone')
/** One that is gone is read in the text before it went. */
const at = computed(() => (gone.value ? `${props.item.gone_commit}^` : undefined))
const read = computed(() => ({
  name: 'read',
  params: { repository: props.repository },
  query: { path: props.item.path, lines: String(props.item.line), ...(at.value ? { at: at.value } : {}) },
}))
const commit = (id: string) => ({ name: 'commit', params: { repository: props.repository, commit: id } })
const lived = computed(() => {
  const until = props.item.gone_at ?? props.pinAt
  return props.item.born_at && until ? age(props.item.born_at, until).replace(' earlier', '') : ''
})
</script>

<template>
  <article class="card" aria-label="The tagged comment at hand">
    <p class="top">
      <span class="word"><i aria-hidden="true">◇</i> {{ item.word }}</span>
      <span class="soft">{{ word?.meaning ?? 'no agreed word any more' }}</span>
    </p>
    <p class="said">{{ item.whole || item.said }}</p>
    <p class="acts">
      <template v-if="!gone">
        <button class="link" title="Add its lines to the plan (a)" @click="emit('add')">add to plan <kbd>a</kbd></button>
        <button class="link" title="Write about it (r)" @click="emit('write')">write about it <kbd>r</kbd></button>
        <template v-if="writer && item.state !== 'kept' && item.state !== 'aside'">
          <button class="link" title="It is meant to be so (k)" @click="emit('keep')">keep on purpose <kbd>k</kbd></button>
          <button class="link" title="Take it out of the list, with a reason (s)" @click="emit('aside')">set aside <kbd>s</kbd></button>
        </template>
        <button v-else-if="writer" class="link" title="Open again (o)" @click="emit('back')">bring back <kbd>o</kbd></button>
      </template>
      <router-link :to="read">read here <kbd v-if="!gone">Enter</kbd></router-link>
    </p>
    <p v-if="item.state === 'kept' || item.state === 'aside'" class="state">
      {{ states[item.state] }}<template v-if="item.marked_by"> by {{ item.marked_by }}</template
      ><template v-if="item.reason">: “{{ item.reason }}”</template>
    </p>
    <h3>
      <span class="mono">{{ item.path }}:{{ item.line }}</span>
    </h3>
    <p v-if="gone" class="soft">as it stood before it went</p>
    <Excerpt :repository="repository" :path="item.path" :start="item.line" :end="item.end_line" :at="at" class="lines" />
    <h3>Its life</h3>
    <ul>
      <li v-if="item.born_at">
        written {{ date(item.born_at) }}<template v-if="item.person"> by {{ item.person }}</template> in
        <router-link class="mono" :to="commit(item.born_commit)">{{ short(item.born_commit) }}</router-link>
      </li>
      <li v-else class="soft">the history does not tell when it was written</li>
      <li v-if="item.edits">put otherwise {{ item.edits === 1 ? 'once' : `${item.edits} times` }}, last {{ date(item.last_at) }}</li>
      <li v-else-if="item.last_at && item.last_at !== item.born_at">moved {{ date(item.last_at) }}</li>
      <li v-if="gone">
        gone {{ date(item.gone_at) }}<template v-if="item.gone_person">, taken away by {{ item.gone_person }}</template> in
        <router-link class="mono" :to="commit(item.gone_commit)">{{ short(item.gone_commit) }}</router-link><template v-if="lived"
          >, after {{ lived }}</template
        >
      </li>
      <li v-else-if="lived">
        {{ lived === 'the same day' ? 'as old as the pin' : `${lived} old at the pin`
        }}<template v-if="item.outlived"
          >, and has outlived {{ many(item.outlived, 'person', 'people') }} who wrote it or changed this file since</template
        >
      </li>
      <li v-if="item.owner">names {{ item.owner }}</li>
      <li v-if="item.issue">refers to {{ item.issue }}</li>
      <li v-if="gone" class="soft">that it stood in a comment is judged by its line alone</li>
    </ul>
  </article>
</template>

<style scoped>
.card {
  padding: 14px 18px 18px;
  overflow: auto;
  border-left: 1px solid var(--rule);
  background: var(--sheet);
}
.word {
  font: 600 13px/1.4 var(--mono);
  color: var(--ochre-text);
}
.word {
  margin-right: 8px;
}
.word i {
  font-style: normal;
}
.said {
  margin: 6px 0 8px;
  font: 15px/1.45 var(--serif);
  white-space: pre-line;
  overflow-wrap: anywhere;
  max-height: 200px;
  overflow: auto;
}
.acts {
  display: flex;
  flex-wrap: wrap;
  gap: 4px 16px;
}
.state {
  margin-top: 8px;
}
h3 {
  margin: 14px 0 2px;
  font-size: 14px;
  overflow-wrap: anywhere;
}
h3 .mono {
  font-weight: 500;
  font-size: 12.5px;
}
.lines {
  border: 1px solid var(--rule-soft);
  background: var(--paper);
}
ul {
  margin: 2px 0 0;
  padding-left: 16px;
}
</style>
