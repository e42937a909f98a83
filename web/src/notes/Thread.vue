<script setup lang="ts">
import { computed, ref } from 'vue'
import { ProblemError, words } from '@/api/client'
import { notice } from '@/frame/notice'
import { usePromote } from '@/plans/promote'
import { date, short } from '@/words/format'
import { answered, merge, Questions, useTypedText, type Question } from '@/typing'
import FollowUps from './FollowUps.vue'
import NoteText from './NoteText.vue'
import { useAnnotating } from './annotating'
import { about, kinds, why, type ThreadInfo } from './target'
import { useThread } from './use'
import WriteField from './WriteField.vue'

/** A thread: what was written, the replies, and what can be done. */
const props = withDefaults(defineProps<{ repository: number; thread: ThreadInfo; writer: boolean; placed?: boolean }>(), { placed: false })
const emit = defineEmits<{ go: [] }>()
const act = useThread(() => props.repository)
const { to, promote } = usePromote(
  () => props.repository,
  () => props.thread,
)
const replying = ref(false)
const linking = ref(false)
const reply = useTypedText(
  () => `thread.${props.thread.id}.reply`,
  () => (replying.value = true),
)
const editing = ref(0)
const text = useTypedText(
  () => `thread.${props.thread.id}.edit`,
  () => {
    // which note it was is not kept: the newest of one's own is meant
    const n = [props.thread, ...props.thread.replies].filter((x) => x.may_edit).at(-1)
    if (n) [editing.value, begun.value, rev.value] = [n.id, n.text, n.rev]
  },
)
const rev = ref(0)
const begun = ref('') // the text as it was when editing it began
const questions = ref<Question[]>([])
const t = computed(() => props.thread)
const notes = computed(() => [t.value, ...t.value.replies])
const gone = computed(() => t.value.placed.what === 'gone')

async function sendReply() {
  if (await act.reply(t.value, reply.value)) {
    reply.value = ''
    replying.value = false
  }
}
type Note = ThreadInfo['replies'][number]
function edit(n: Note) {
  editing.value = n.id
  text.value = begun.value = n.text
  rev.value = n.rev
  questions.value = []
}
function endEdit() {
  editing.value = 0
  text.value = ''
}
async function save(n: Note): Promise<void> {
  try {
    await act.edit(n.id, rev.value, text.value)
    endEdit()
  } catch (e) {
    if (!(e instanceof ProblemError) || e.status !== 409) return notice(words(e), { fault: true })
    await act.forget()
    const now = notes.value.find((x) => x.id === n.id)
    if (!now) return
    const m = merge(begun.value, text.value, now.text)
    ;[text.value, begun.value, rev.value] = [m.text, now.text, now.rev]
    questions.value = m.clashes.map((c) => ({ ...c, by: 'You, in another tab,' }))
    if (!m.clashes.length) return save(n)
  }
}
function answer(q: Question, chosen: 'mine' | 'theirs' | 'both') {
  text.value = answered(text.value, q, chosen)
  questions.value = questions.value.filter((x) => x !== q)
}
const asking = ref(0)
/** What there is to say of a note beside who wrote it. */
function asides(n: ThreadInfo['replies'][number], i: number): string {
  const first = i === 0
  return [
    '',
    date(n.created_at),
    n.edited_at && 'edited',
    first && t.value.kind !== 'note' && (t.value.asked ? `asks ${t.value.asked} to act` : kinds[t.value.kind]),
    first && t.value.private && 'for you alone',
    n.id === t.value.answer && 'the answer',
    t.value.unread && !n.mine && i === notes.value.length - 1 && 'new',
  ]
    .filter((x) => x !== false && x !== null && x !== undefined)
    .join(' · ')
}
function remove(id: number) {
  asking.value = 0
  void act.remove(id)
}
type Candidate = ThreadInfo['placed']['candidates'][number]
const isWhole = (c: Candidate) => c.why === 'file' || c.why === 'folder'
function attach(c: Candidate) {
  void act.place(
    t.value,
    isWhole(c) ? { kind: c.why as 'file', path: c.path } : { kind: 'lines', path: c.path, start: c.start, end: c.end },
  )
}
function offer(c: Candidate): string {
  if (isWhole(c)) return `attach to the ${c.why} ${c.path}${c.why === 'folder' ? '/' : ''}`
  const why = c.why === 'symbol' ? 'its symbol' : `${Math.floor(c.like * 100)} % alike`
  return `place at ${c.path.split('/').at(-1)}:${c.start} (${why})`
}
const { replacing } = useAnnotating()
</script>

<template>
  <article class="thread" :class="[t.state, { unread: t.unread, gone }]" :aria-label="`Thread by ${t.by}`">
    <header v-if="placed" class="where">
      <button class="link" :disabled="gone" @click="emit('go')">{{ about(t) }}</button>
      <span v-if="t.placed.what === 'changed'" class="soft" title="The code it is about has been changed since">code changed since</span>
      <span v-if="t.placed.what === 'unknown'" class="soft">its place is being looked for</span>
    </header>
    <p v-if="gone" class="lost">
      <b>No place at the pin:</b> {{ why(t.placed)
      }}<template v-if="t.placed.reason_commit">
        in
        <router-link class="mono" :to="{ name: 'commit', params: { repository, commit: t.placed.reason_commit } }">{{
          short(t.placed.reason_commit)
        }}</router-link></template
      >.
      <template v-if="writer || t.mine">
        <button v-for="c in t.placed.candidates" :key="c.why + c.path + c.start" class="link" @click="attach(c)">{{ offer(c) }}</button>
      </template>
    </p>
    <div v-for="(n, i) in notes" :key="n.id" class="note" :class="{ answer: n.id === t.answer }">
      <p class="by">
        <b>{{ n.by || 'somebody' }}</b>
        <span class="soft">{{ asides(n, i) }}</span>
        <span v-if="editing !== n.id && asking !== n.id" class="own">
          <button v-if="n.may_edit" class="link" @click="edit(n)">edit</button>
          <button v-if="n.may_delete" class="link" @click="asking = n.id">take away</button>
        </span>
      </p>
      <template v-if="editing === n.id">
        <Questions :questions="questions" @answer="answer" />
        <WriteField v-model="text" :repository="repository" name="edit" label="The text" @save="save(n)" />
        <p class="acts">
          <button class="link" :disabled="!text.trim()" @click="save(n)">save</button>
          <button class="link" @click="endEdit">Cancel</button>
        </p>
      </template>
      <template v-else>
        <NoteText :html="n.html" />
        <p v-if="asking === n.id" class="acts">
          Take it away{{ i === 0 && t.replies.length ? ' with its replies' : '' }}?
          <button class="link" @click="remove(n.id)">yes, take it away</button> <button class="link" @click="asking = 0">no</button>
        </p>
        <p v-else-if="i > 0 && t.kind === 'question'" class="acts small">
          <button v-if="t.state === 'open'" class="link" @click="act.set(t, 'resolved', n.id)">this answers it</button>
          <button v-if="writer && to" class="link" title="Puts it behind what the passage says already" @click="promote(n.text)">
            put it into the passage’s text
          </button>
        </p>
      </template>
    </div>
    <FollowUps v-model:linking="linking" :repository="repository" :thread="t" />
    <template v-if="replying">
      <WriteField v-model="reply" :repository="repository" name="reply" label="Reply" @save="sendReply" />
      <p class="acts">
        <button class="link" :disabled="!reply.trim()" @click="sendReply">send</button>
        <button class="link" @click="((replying = false), (reply = ''))">Cancel</button>
      </p>
    </template>
    <p v-else class="acts">
      <button class="link" @click="replying = true">reply</button>
      <button class="link" @click="act.set(t, t.state === 'open' ? 'resolved' : 'open')">
        {{ t.state === 'open' ? (t.kind === 'ask' ? 'done' : t.kind === 'question' ? 'answered' : 'resolve') : 'open again' }}
      </button>
      <button
        v-if="writer || t.mine"
        class="link"
        title="It stands at the wrong place: say by hand where it belongs"
        @click="replacing = t"
      >
        mend its place
      </button>
      <button class="link" title="Link a commit that follows it up" @click="linking = !linking">link a commit</button>
      <button class="link" @click="act.tell(t, !t.told)">{{ t.told ? 'leave me out' : 'tell me' }}</button>
      <span v-if="t.state === 'resolved'" class="soft">resolved{{ t.state_by ? ` by ${t.state_by}` : '' }}</span>
    </p>
  </article>
</template>

<style scoped>
.thread {
  font-size: 13px;
}
.thread.resolved .note {
  color: var(--ink-soft);
}
.where {
  display: flex;
  gap: 12px;
  align-items: baseline;
}
.where button {
  font: 12.5px/1.5 var(--mono);
  overflow-wrap: anywhere;
  text-align: left;
}
.by {
  font-size: 12.5px;
  display: flex;
  flex-wrap: wrap;
  gap: 0 4px;
}
.own {
  margin-left: auto;
  display: flex;
  gap: 10px;
  font-size: 12px;
}
.note + .note {
  margin-top: 6px;
}
.note.answer {
  padding-left: 8px;
  border-left: 2px solid var(--teal);
}
.acts {
  display: flex;
  flex-wrap: wrap;
  gap: 0 14px;
  font-size: 12.5px;
}
.acts.small {
  font-size: 12px;
}
.lost {
  padding: 6px 10px;
  margin: 4px 0;
  background: var(--hover);
  font-size: 12.5px;
}
.lost button {
  margin-right: 12px;
}
</style>
