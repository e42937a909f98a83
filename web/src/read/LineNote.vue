<script setup lang="ts">
import { computed } from 'vue'
import { count, date, many, short } from '@/words/format'
import type { LineStory } from './useLineHistory'

/** Where the line at hand comes from, in words. */
const props = defineProps<{
  repository: number
  story: LineStory
  bulk: number
  wide: number
  skipBulk: boolean
  listed: number
  unignored: number
}>()
const emit = defineEmits<{ go: [line: number]; behind: [commit: string]; forward: []; bulk: [skip: boolean] }>()
const c = computed(() => props.story.commit)
/** The next line of the same commit that does not stand right below. */
const next = computed(() => {
  const { lines, line } = props.story
  let last = line
  for (const n of lines) {
    if (n <= line) continue
    if (n > last + 1) return n
    last = n
  }
  return lines[0] !== undefined && lines[0] < line ? lines[0] : 0
})
const others = computed(() => props.story.lines.length - 1)
</script>

<template>
  <p class="soft top">
    line {{ story.line }} · {{ story.age || date(c.time) }}<template v-if="c.person"> · {{ c.person }}</template>
  </p>
  <p>{{ c.subject || '(no message)' }}</p>
  <p v-if="c.cut_off" class="soft">or before: what came earlier is not in this shallow repository</p>
  <p class="soft id">
    <router-link
      class="mono"
      :to="{ name: 'commit', params: { repository, commit: c.id }, query: { path: c.path } }"
      :title="date(c.time)"
      >{{ short(c.id) }}</router-link
    >
    <template v-if="story.past">
      · behind {{ many(story.past, 'commit') }} <button class="link" @click="emit('forward')">return</button></template
    >
  </p>
  <p class="acts">
    <button class="link" title="What stood here before this commit" @click="emit('behind', c.id)">before that</button>
    <button v-if="next" class="link" @click="emit('go', next)">
      {{ count(others) }} more {{ others === 1 ? 'line' : 'lines' }} of this commit
    </button>
    <span v-else-if="others" class="soft">{{ many(others, 'line') }} around it too</span>
    <span v-if="unignored" class="soft">{{ many(unignored, 'further commit') }} could not be looked behind: 400 are at most</span>
    <span v-if="listed" class="soft" title="Listed in .git-blame-ignore-revs">behind {{ many(listed, 'listed revision') }}</span>
    <button v-if="bulk" class="link" :title="`Commits that changed more than ${wide} files`" @click="emit('bulk', !skipBulk)">
      {{ skipBulk ? 'with bulk commits' : `look behind ${many(bulk, 'bulk commit')}` }}
    </button>
  </p>
</template>

<style scoped>
.top,
.id {
  font-size: 12.5px;
}
.acts {
  display: flex;
  flex-wrap: wrap;
  gap: 2px 14px;
}
</style>
