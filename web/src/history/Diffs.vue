<script setup lang="ts">
import { computed, reactive, ref, useTemplateRef, watch } from 'vue'
import { useRoute, useRouter } from 'vue-router'
import { describeKeys } from '@/frame/help'
import { useKeys } from '@/frame/keys'
import { useRepository } from '@/frame/repository'
import { count, many } from '@/words/format'
import ChangedPaths from './ChangedPaths.vue'
import Diff from './Diff.vue'
import { sortOf, type ChangeInfo } from './useCommit'

/** The files in which two commits differ, with how. */
const props = defineProps<{ from: string; to: string; changes: readonly ChangeInfo[]; total: number }>()
const repository = useRepository()
const route = useRoute()
const router = useRouter()
const beside = computed(() => route.query.as === 'beside')
const space = computed(() => route.query.space === 'ignored')
const put = (q: Record<string, string | undefined>) => void router.replace({ query: { ...route.query, ...q } })

/** How many files are drawn at once; the rest comes when asked for. */
const step = 100
const most = ref(step)
const shown = computed(() => props.changes.slice(0, most.value))
const files = useTemplateRef<HTMLElement[]>('files')
const file = ref(-1)
const at = ref(-1) // change within the file
const counts = reactive(new Map<string, number>())
watch(
  () => [props.from, props.to],
  () => counts.clear(),
)
const known = computed(() => shown.value.reduce((n, c) => n + (counts.get(c.path) ?? 0), 0))
const more = computed(() => (counts.size < shown.value.length ? ' so far' : ''))
const before = computed(() => shown.value.slice(0, Math.max(0, file.value)).reduce((n, c) => n + (counts.get(c.path) ?? 0), 0))
function go(i: number) {
  if (i >= most.value) most.value = i + step
  file.value = i
  at.value = -1
  requestAnimationFrame(() => files.value?.[i]?.scrollIntoView({ block: 'start' }))
}
function stepChange(by: number) {
  let f = Math.max(0, file.value)
  let n = file.value < 0 ? 0 : at.value + by
  while (f >= 0 && f < shown.value.length) {
    const has = counts.get(shown.value[f]!.path) ?? 1
    if (n >= 0 && n < has) {
      file.value = f
      at.value = n
      return
    }
    f += by
    n = by > 0 ? 0 : (counts.get(shown.value[f]?.path ?? '') ?? 1) - 1
  }
}
const stepFile = (by: number) => go(Math.max(0, Math.min(props.changes.length - 1, file.value + by)))
// a path in the address is where to begin
watch(
  () => [props.changes.length, route.query.path],
  () => {
    const i = props.changes.findIndex((c) => c.path === route.query.path)
    if (i >= 0) requestAnimationFrame(() => go(i))
  },
  { immediate: true },
)
useKeys({
  n: () => stepChange(1),
  p: () => stepChange(-1),
  N: () => stepFile(1),
  P: () => stepFile(-1),
  v: () => put({ as: beside.value ? undefined : 'beside' }),
  w: () => put({ space: space.value ? undefined : 'ignored' }),
})
describeKeys('Changes', [
  ['n p', 'the next change, the one before'],
  ['N P', 'the next file, the one before'],
  ['v', 'one below the other, or side by side'],
  ['w', 'ignore white space, or not'],
])
</script>

<template>
  <div class="diffs">
    <aside>
      <h3>{{ many(total, 'path') }}</h3>
      <ChangedPaths :changes="changes" :total="total" :at="file" @choose="go" />
    </aside>
    <section>
      <div class="tools">
        <span role="status">{{
          at >= 0 ? `change ${count(before + at + 1)} of ${count(known)}${more}` : known ? `${many(known, 'change')}${more}` : ''
        }}</span>
        <button class="link" @click="stepChange(-1)">before <kbd>p</kbd></button>
        <button class="link" @click="stepChange(1)">next <kbd>n</kbd></button>
        <span class="room" />
        <label><input type="checkbox" :checked="space" @change="put({ space: space ? undefined : 'ignored' })" /> ignore white space</label>
        <span class="picks"
          ><button class="pick" :aria-pressed="!beside" @click="put({ as: undefined })">one below the other</button>
          <button class="pick" :aria-pressed="beside" @click="put({ as: 'beside' })">side by side</button></span
        >
      </div>
      <article v-for="(c, i) in shown" :key="c.path" ref="files" class="file">
        <h3>
          <router-link
            class="mono plain"
            :to="{
              name: 'read',
              params: { repository: repository.id },
              query: { path: c.status === 'deleted' ? c.path : c.path, at: c.status === 'deleted' ? from : to },
            }"
            >{{ c.old_path ? `${c.old_path} → ${c.path}` : c.path }}</router-link
          >
          <span class="soft"
            >{{ sortOf(c) }} <template v-if="!c.binary && !c.link">+{{ count(c.added) }} −{{ count(c.deleted) }}</template>
            {{ c.mode }}</span
          >
          <router-link class="story" :to="{ name: 'story', params: { repository: repository.id }, query: { path: c.path } }"
            >its story</router-link
          >
        </h3>
        <p v-if="c.link" class="soft note">A submodule: another repository's commit, which is not read here.</p>
        <Diff
          v-else
          :from="from"
          :to="to"
          :path="c.path"
          :old-path="c.old_path"
          :side-by-side="beside"
          :ignore-space="space"
          :at="i === file ? at : -1"
          @changes="(n) => counts.set(c.path, n)"
        />
      </article>
      <p v-if="changes.length > most" class="note">
        <button class="link" @click="most += step">{{ many(changes.length - most, 'further file') }}</button>
      </p>
      <p v-if="!total" class="note soft">Nothing differs.</p>
    </section>
  </div>
</template>

<style scoped>
.diffs {
  display: grid;
  grid-template-columns: 300px minmax(0, 1fr);
  align-items: start;
}
aside {
  position: sticky;
  top: 0;
  max-height: calc(100vh - 180px);
  overflow: auto;
  padding: 8px 12px 12px 20px;
  border-right: 1px solid var(--rule);
}
.tools {
  position: sticky;
  top: 0;
  z-index: 3;
  display: flex;
  gap: 14px;
  align-items: baseline;
  padding: 6px 16px;
  font-size: 12.5px;
  background: var(--paper);
  border-bottom: 1px solid var(--rule);
}
.room {
  flex: 1;
}
.picks {
  display: flex;
  gap: 10px;
}
.file {
  margin: 12px 16px;
  border: 1px solid var(--rule);
  background: var(--sheet);
  scroll-margin-top: 40px;
}
.file h3 {
  display: flex;
  gap: 12px;
  align-items: baseline;
  padding: 5px 14px;
  font: 600 12.5px/1.6 var(--mono);
  overflow-wrap: anywhere;
}
.file h3 .soft,
.story {
  font: 12.5px var(--sans);
  flex: none;
}
.story {
  margin-left: auto;
}
.note {
  padding: 8px 14px;
}
</style>
