<script setup lang="ts">
import { computed } from 'vue'
import { words } from '@/api/client'
import { useRepository } from '@/frame/repository'
import { count, many, short } from '@/words/format'
import ChangedPaths from './ChangedPaths.vue'
import { momentWords, useCommit } from './useCommit'

/** A commit in short, beside the log. */
const props = defineProps<{ commit: string }>()
defineEmits<{ open: [] }>()
const repository = useRepository()
const id = computed(() => repository.value.id)
const { data: c, error } = useCommit(id, () => props.commit)
const shown = 12
</script>

<template>
  <aside aria-label="The chosen commit">
    <p v-if="error" class="fault" role="alert">{{ words(error) }}</p>
    <template v-else-if="c">
      <h2>{{ c.subject || '(no message)' }}</h2>
      <p class="soft meta">
        {{ c.person }}<template v-if="c.person"> · </template>{{ momentWords(c.committer.at) }} ·
        <span class="mono">{{ short(c.id) }}</span>
      </p>
      <p v-if="c.message" class="message">{{ c.message }}</p>
      <p v-if="c.tags.length" class="soft">first in {{ c.tags[0] }}</p>
      <p v-else-if="c.branches.length" class="soft">
        on {{ c.branches.slice(0, 3).join(', ') }}<template v-if="c.branches.length > 3"> and others</template>, in no release yet
      </p>
      <p class="acts">
        <button class="link" @click="$emit('open')">open it <kbd>Enter</kbd></button>
        <router-link :to="{ name: 'read', params: { repository: id }, query: { at: c.id } }">files as of then</router-link>
        <router-link v-if="!c.pin" :to="{ name: 'compare', params: { repository: id }, query: { from: repository.pin, to: c.id } }"
          >compare with the pin</router-link
        >
      </p>
      <h3>
        {{ many(c.total, 'path') }} changed
        <span class="soft">+{{ count(c.added) }} −{{ count(c.deleted) }}</span>
      </h3>
      <p v-if="c.cut_off" class="soft">What came before is not in this shallow repository, so its changes are not known.</p>
      <ChangedPaths
        :changes="c.changes.slice(0, shown)"
        :total="Math.min(c.changes.length, shown)"
        @choose="(i) => $router.push({ name: 'commit', params: { repository: id, commit: c!.id }, query: { path: c!.changes[i]!.path } })"
      />
      <p v-if="c.total > shown">
        <button class="link" @click="$emit('open')">{{ many(c.total - shown, 'other path') }}</button>
      </p>
    </template>
    <p v-else class="soft">Asking …</p>
  </aside>
</template>

<style scoped>
h2 {
  font-size: 17px;
  overflow-wrap: anywhere;
}
h3 {
  margin: 14px 0 4px;
}
h3 .soft {
  font: 12.5px var(--sans);
  margin-left: 6px;
}
.meta {
  margin: 4px 0 8px;
  font-size: 12.5px;
}
.message {
  white-space: pre-wrap;
  overflow-wrap: anywhere;
  font-family: var(--serif);
  font-size: 14.5px;
  max-height: 220px;
  overflow: auto;
  margin-bottom: 8px;
}
.acts {
  display: flex;
  flex-wrap: wrap;
  gap: 4px 14px;
  margin-top: 8px;
}
</style>
