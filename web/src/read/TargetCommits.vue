<script setup lang="ts">
import { useQuery } from '@tanstack/vue-query'
import { computed, ref } from 'vue'
import { api, data, words } from '@/api/client'
import type { Schemas } from '@/api/client'
import Diff from '@/history/Diff.vue'
import { useCommit } from '@/history/useCommit'
import { count, date, many, short } from '@/words/format'

/** What a commit changed, or how two commits differ. */
const props = defineProps<{ repository: number; target: Schemas['Target'] }>()
const both = computed(() => props.target.kind === 'comparison')
const { data: commit, error: fault } = useCommit(
  () => props.repository,
  () => props.target.commit,
)
const { data: compared, error: apart } = useQuery({
  queryKey: computed(() => ['repository', props.repository, 'compare', props.target.base, props.target.commit, false]),
  queryFn: ({ signal }) =>
    data(
      api.GET('/api/repositories/{repository}/compare', {
        params: { path: { repository: props.repository }, query: { from: props.target.base ?? '', to: props.target.commit } },
        signal,
      }),
    ),
  enabled: both,
  retry: false,
})
const error = computed(() => (both.value ? apart.value : fault.value))
const from = computed(() =>
  both.value ? (props.target.base ?? '') : commit.value?.against ? (commit.value.parents[commit.value.against - 1]?.id ?? '') : '',
)
const changes = computed(() => (both.value ? compared.value?.changes : commit.value?.changes) ?? [])
const total = computed(() => (both.value ? compared.value?.total : commit.value?.total) ?? changes.value.length)
const most = ref(20)
</script>

<template>
  <div class="commits">
    <p v-if="error" class="fault" role="alert">{{ words(error) }}</p>
    <header v-else-if="commit">
      <p>
        <b>{{ commit.subject || '(no message)' }}</b>
        <span class="soft">
          <template v-if="commit.person"> · {{ commit.person }}</template> · {{ date(commit.committer.at) }}</span
        >
      </p>
      <p v-if="both" class="soft">with all that came since {{ short(target.base ?? '') }}</p>
      <p v-else-if="commit.message" class="message">{{ commit.message }}</p>
      <p class="soft">
        {{ many(total, 'file') }} changed<template v-if="total > changes.length"
          >; the first {{ count(changes.length) }} can be shown</template
        >
      </p>
    </header>
    <section v-for="c in changes.slice(0, most)" :key="c.path">
      <p class="mono name">
        <template v-if="c.old_path">{{ c.old_path }} → </template>{{ c.path }}
        <span v-if="c.added >= 0" class="soft">+{{ c.added }} −{{ c.deleted }}</span>
      </p>
      <Diff :from="from" :to="target.commit" :path="c.path" :old-path="c.old_path" :side-by-side="false" :ignore-space="false" :at="-1" />
    </section>
    <p v-if="changes.length > most" class="more">
      <button class="link" @click="most += 100">show {{ many(changes.length - most, 'more file', 'more files') }}</button>
    </p>
  </div>
</template>

<style scoped>
.commits {
  height: 100%;
  overflow: auto;
  padding: 10px 18px;
}
.message {
  white-space: pre-line;
}
.name {
  position: sticky;
  top: -10px;
  z-index: 1;
  margin-top: 10px;
  padding: 3px 0;
  background: var(--paper);
  font-size: 12.5px;
  font-weight: 600;
  overflow-wrap: anywhere;
}
.more {
  padding: 8px 0;
}
</style>
