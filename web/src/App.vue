<script setup lang="ts">
import { useQueryClient } from '@tanstack/vue-query'
import { onErrorCaptured, onUnmounted, watch } from 'vue'
import { useRoute, useRouter } from 'vue-router'
import { onChange } from './api/events'
import { words } from './api/client'
import { useMe } from './account/me'
import Header from './frame/Header.vue'
import Help from './frame/Help.vue'
import Notice from './frame/Notice.vue'
import { describeKeys } from './frame/help'
import { notice } from './frame/notice'
import { sessionEnded } from './account/session'
import SignInAgain from './account/SignInAgain.vue'
import { typedBy } from './typing'
import { antTheme } from './theme'

const route = useRoute()
const router = useRouter()
const queries = useQueryClient()
describeKeys('Everywhere', [
  ['/', 'find a file'],
  ['?', 'this sheet'],
])
const { me, error } = useMe()

// Nobody signed in: everything but signing in and invitations leads there, and back.
watch([me, () => route.name, () => route.fullPath], () => {
  if (me.value && !me.value.person && !route.meta.bare && route.name)
    void router.replace({ name: 'sign-in', query: { to: route.fullPath } })
})

/** Plans change with every key of whoever composes: lists of them follow after a
 * moment. The composer hears of each by itself. */
let due = 0
function plansChanged(repository: number) {
  clearTimeout(due)
  due = window.setTimeout(() => void queries.invalidateQueries({ queryKey: ['plans', repository] }), 300)
}
onUnmounted(() => clearTimeout(due))

watch(
  () => me.value?.person?.id,
  (id) => typedBy(id ?? 0),
  { immediate: true, flush: 'sync' },
)

let end: (() => void) | null = null
watch(
  () => me.value?.person?.id,
  (id) => {
    end?.()
    end = id
      ? onChange((c) => {
          if (!c) return void queries.invalidateQueries()
          if (c.kind === 'place' || c.kind === 'composing') return // who shows them hears them
          void queries.invalidateQueries({ queryKey: ['shelf'] })
          if (c.kind === 'plan') plansChanged(c.repository)
          else if (c.kind === 'notes') {
            void queries.invalidateQueries({ queryKey: ['repository', c.repository, 'notes'] })
            void queries.invalidateQueries({ queryKey: ['plans', c.repository, 'marks'] })
          } else if (c.kind === 'leads')
            for (const k of ['leads', 'tagged', 'tagged-rules', 'outline', 'file', 'words'])
              void queries.invalidateQueries({ queryKey: ['repository', c.repository, k] })
          // while a stage runs only its progress changes; what it found is there when it ends
          else void queries.invalidateQueries({ queryKey: ['repository', c.repository] })
        })
      : null
  },
  { immediate: true },
)
onUnmounted(() => end?.())

/** Lists of choices open inside of a dialogue: what lies outside cannot be reached. */
const popupContainer = (trigger?: HTMLElement) => trigger?.closest('dialog') ?? document.body

onErrorCaptured((e) => {
  notice(words(e), { fault: true })
  return false
})
</script>

<template>
  <a-config-provider :theme="antTheme" :get-popup-container="popupContainer">
    <div class="app">
      <Header v-if="me?.person" />
      <p v-if="error" class="page fault" role="alert">{{ words(error) }}</p>
      <main v-else-if="me && (me.person || route.meta.bare)" class="main">
        <router-view />
      </main>
      <Notice />
      <Help />
      <SignInAgain v-if="sessionEnded && me?.person" :person="me.person" />
    </div>
  </a-config-provider>
</template>

<style scoped>
.app {
  height: 100%;
  display: flex;
  flex-direction: column;
}
.main {
  flex: 1;
  min-height: 0;
  overflow: auto;
}
</style>
