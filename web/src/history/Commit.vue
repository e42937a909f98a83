<script setup lang="ts">
import { computed, ref } from 'vue'
import { useRoute, useRouter } from 'vue-router'
import { words } from '@/api/client'
import { describeKeys } from '@/frame/help'
import { useKeys } from '@/frame/keys'
import { includes, useRepository } from '@/frame/repository'
import { useSelection } from '@/plans/adding'
import { ThreadsHere, useAnnotating, useWrittenAbout } from '@/notes'
import { count, many, short, size } from '@/words/format'
import Diffs from './Diffs.vue'
import Sections from './Sections.vue'
import SurveyIt from './SurveyIt.vue'
import { momentWords, useCommit } from './useCommit'

/** One commit: all that it says, where it belongs, and what it changed. */
const repository = useRepository()
const route = useRoute()
const router = useRouter()
const annotating = useAnnotating()
const id = computed(() => repository.value.id)
const commit = computed(() => String(route.params.commit))
const against = computed(() => Number(route.query.against) || 1)
const { data: c, error } = useCommit(id, commit, against)
useWrittenAbout(() => ({ commit: c.value?.id ?? commit.value }))
useSelection(() =>
  c.value
    ? {
        kind: 'commit',
        path: '',
        commit: c.value.id,
        title: c.value.subject || short(c.value.id),
        lines: Math.min(500, c.value.added + c.value.deleted),
      }
    : null,
)
const base = computed(() => (c.value?.against ? c.value.parents[c.value.against - 1]!.id : ''))
const committed = computed(() => c.value && (c.value.committer.name !== c.value.author.name || c.value.committer.at !== c.value.author.at))
const to = (commit: string) => ({ name: 'commit', params: { repository: id.value, commit } })
const logAt = computed(() => ({
  name: 'history',
  params: { repository: id.value },
  query: { keep: route.query.keep, drop: route.query.drop, commit: commit.value },
}))
/** Back to the place in the log that one came from, else to this commit in it. */
function back() {
  if (typeof history.state?.back === 'string' && history.state.back.includes('/history?')) router.back()
  else void router.push(logAt.value)
}
const all = ref(false)
const few = 6
useKeys({
  Escape: back,
  b: back,
  '[': () => c.value?.parents[0] && void router.push(to(c.value.parents[0].id)),
  ']': () => c.value?.children[0] && void router.push(to(c.value.children[0].id)),
})
describeKeys('A commit', [
  ['b Esc', 'back to the log'],
  ['[ ]', 'its first parent, its child'],
])
const copied = ref(false)
async function copy() {
  await navigator.clipboard.writeText(c.value!.id)
  copied.value = true
}
</script>

<template>
  <div class="commit">
    <Sections
      ><span class="room" /><button class="link" @click="back">back to the log <kbd>b</kbd></button></Sections
    >
    <p v-if="error" class="fault note" role="alert">{{ words(error) }}</p>
    <p v-else-if="!c" class="soft note">Reading the commit …</p>
    <template v-else>
      <header>
        <div class="says">
          <h1>{{ c.subject || '(no message)' }}</h1>
          <p v-if="c.message" class="message">{{ c.message }}</p>
          <p v-if="c.cut" class="soft">{{ size(c.cut) }} more of the message are not shown.</p>
          <p><button class="link" title="Write about this commit (r)" @click="annotating.asked.value++">write about it</button></p>
          <ThreadsHere :repository="id" :commit="c.id" :writer="includes(repository.role, 'writer')" />
        </div>
        <dl>
          <dt>commit</dt>
          <dd>
            <span class="mono id">{{ c.id }}</span> <button class="link" @click="copy">{{ copied ? 'copied' : 'copy' }}</button>
            <span v-if="c.pin" class="thepin">the pin</span>
          </dd>
          <template v-if="c.person">
            <dt>written by</dt>
            <dd>
              {{ c.person }}<span v-if="c.person !== c.author.name" class="soft"> (as {{ c.author.name || 'nobody named' }})</span>
              <span class="soft"> · {{ momentWords(c.author.at) }}</span>
            </dd>
            <template v-if="committed">
              <dt>committed by</dt>
              <dd>
                {{ c.committer.name || 'nobody named' }} <span class="soft">{{ momentWords(c.committer.at) }}</span>
              </dd>
            </template>
          </template>
          <template v-else>
            <dt>committed</dt>
            <dd class="soft">{{ momentWords(c.committer.at) }}</dd>
          </template>
          <dt>{{ c.parents.length > 1 ? 'parents' : 'parent' }}</dt>
          <dd>
            <span v-if="!c.parents.length" class="soft">none: a first commit</span>
            <span v-for="(p, n) in c.parents" :key="p.id" class="relative">
              <router-link :to="to(p.id)"
                ><span class="mono">{{ short(p.id) }}</span> {{ p.subject }}</router-link
              >
              <template v-if="c.parents.length > 1"
                ><b v-if="c.against === n + 1" class="soft"> compared with</b
                ><button v-else class="link" @click="router.replace({ query: { ...route.query, against: String(n + 1) } })">
                  compare with this
                </button></template
              >
            </span>
          </dd>
          <template v-if="c.children.length">
            <dt>{{ c.children.length > 1 ? 'children' : 'child' }}</dt>
            <dd>
              <span v-for="p in c.children.slice(0, few)" :key="p.id" class="relative"
                ><router-link :to="to(p.id)"
                  ><span class="mono">{{ short(p.id) }}</span> {{ p.subject }}</router-link
                ></span
              >
              <span v-if="c.children.length > few" class="soft">and {{ count(c.children.length - few) }} more</span>
            </dd>
          </template>
          <dt>held by</dt>
          <dd>
            <template v-if="!c.known"
              ><span class="soft">no branch or tag leads to it: it was rewritten, or its history is still being read</span></template
            >
            <template v-else>
              <span v-if="c.tags.length"
                >{{ c.tags.slice(0, all ? undefined : few).join(', ') }}
                <span class="soft">(the first release that has it comes first)</span></span
              >
              <span v-else class="soft">no tag yet</span>
              <br />
              <span v-if="c.branches.length">on {{ c.branches.slice(0, all ? undefined : few).join(', ') }}</span>
              <button v-if="!all && Math.max(c.tags.length, c.branches.length) > few" class="link" @click="all = true">
                all {{ count(c.containing) }}
              </button>
              <span v-if="all && c.tags.length + c.branches.length < c.containing" class="soft"
                >, the first of {{ count(c.containing) }}</span
              >
            </template>
          </dd>
        </dl>
      </header>
      <p class="acts">
        <router-link :to="{ name: 'read', params: { repository: id }, query: { at: c.id } }">files as of then</router-link>
        <router-link v-if="!c.pin" :to="{ name: 'compare', params: { repository: id }, query: { from: repository.pin, to: c.id } }"
          >compare with the pin</router-link
        >
        <SurveyIt v-if="!c.surveyed" :commit="c.id" :surveying="c.surveying" />
        <span class="room" />
        <span class="soft">{{ many(c.total, 'path') }}, +{{ count(c.added) }} −{{ count(c.deleted) }} lines</span>
      </p>
      <p v-if="c.cut_off" class="note">
        What came before is not in this shallow repository, so nobody can tell here what this commit changed.
      </p>
      <Diffs v-else :from="base" :to="c.id" :changes="c.changes" :total="c.total" />
    </template>
  </div>
</template>

<style scoped>
.commit {
  min-height: 100%;
}
.room {
  flex: 1;
}
header {
  display: grid;
  grid-template-columns: minmax(0, 1fr) minmax(0, 460px);
  gap: 30px;
  padding: 6px var(--gap) 12px;
}
h1 {
  font-size: 22px;
  overflow-wrap: anywhere;
}
.message {
  margin-top: 8px;
  white-space: pre-wrap;
  overflow-wrap: anywhere;
  font: 15px/1.55 var(--serif);
  max-width: 76ch;
}
dl {
  display: grid;
  grid-template-columns: 92px minmax(0, 1fr);
  gap: 3px 10px;
  margin: 4px 0 0;
  font-size: 12.5px;
  align-content: start;
}
dt {
  color: var(--ink-soft);
}
dd {
  margin: 0;
  overflow-wrap: anywhere;
}
.id {
  font-size: 11.5px;
}
.relative {
  display: block;
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
}
.thepin {
  background: var(--ink);
  color: var(--paper);
  padding: 0 6px;
}
.acts {
  display: flex;
  gap: 18px;
  padding: 6px var(--gap);
  border-top: 1px solid var(--rule);
  border-bottom: 1px solid var(--rule);
  font-size: 12.5px;
}
.note {
  padding: 14px var(--gap);
}
</style>
