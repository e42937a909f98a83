<script setup lang="ts">
import { useQuery } from '@tanstack/vue-query'
import { computed, useTemplateRef, watch } from 'vue'
import { useRoute, useRouter } from 'vue-router'
import { api, data } from '@/api/client'
import { useMe } from '@/account/me'
import { choice } from '@/theme'
import { date, short } from '@/words/format'
import FindBox from './FindBox.vue'
import { includes, useRepositoryQuery } from './repository'
import Wordmark from './Wordmark.vue'

const route = useRoute()
const router = useRouter()
const { me, set } = useMe()
const { data: repository } = useRepositoryQuery()
const inside = computed(() => route.params.repository !== undefined && repository.value)
const pages = [
  { name: 'overview', title: 'Overview' },
  { name: 'map', title: 'Map' },
  { name: 'read', title: 'Read' },
  { name: 'history', title: 'History' },
  { name: 'leads', title: 'Leads' },
  { name: 'notes', title: 'Notes' },
  { name: 'plans', title: 'Plans' },
]
/** Pages that belong to one of these. */
const within: Record<string, string> = {
  guide: 'plans',
  compose: 'plans',
  'print-plan': 'plans',
  'draft-plan': 'plans',
  pair: 'read',
  extract: 'read',
  search: 'read',
  commit: 'history',
  story: 'history',
  hotspots: 'history',
  who: 'history',
  compare: 'history',
  tagged: 'leads',
}
/** Threads in which others wrote since one was here. */
const { data: news } = useQuery({
  queryKey: computed(() => ['repository', repository.value?.id, 'notes', 'news']),
  queryFn: ({ signal }) =>
    data(
      api.GET('/api/repositories/{repository}/notes', {
        params: { path: { repository: repository.value!.id }, query: { limit: 1 } },
        signal,
      }),
    ),
  enabled: computed(() => !!inside.value && !!repository.value?.pin),
  retry: false,
})
const here = computed(() => within[String(route.name)] ?? route.name)
/** On a narrow screen the sections scroll: the one at hand is in sight. */
const sections = useTemplateRef<HTMLElement>('sections')
watch([here, sections], () => sections.value?.querySelector('.here')?.scrollIntoView({ block: 'nearest', inline: 'nearest' }), {
  flush: 'post',
})

async function signOut() {
  await data(api.POST('/api/sign-out', {}))
  set({ first_account: false })
  await router.push('/sign-in')
}
</script>

<template>
  <header>
    <div class="top">
      <Wordmark />
      <div v-if="inside && repository" class="where">
        <strong>{{ repository.name }}</strong>
        <router-link
          v-if="repository.pin"
          :to="{ name: 'pin', params: { repository: repository.id } }"
          class="pin plain"
          :title="`pinned at commit ${repository.pin}`"
        >
          pinned at {{ repository.pin_ref || short(repository.pin) }}
          <template v-if="repository.pin_ref"> · {{ short(repository.pin) }}</template>
          <template v-if="repository.pinned_at"> · {{ date(repository.pinned_at) }}</template>
        </router-link>
      </div>
      <FindBox v-if="inside && repository?.pin" :key="repository.id" class="find" />
      <span class="room" />
      <a-dropdown :trigger="['click']">
        <button class="me" :aria-label="`You: ${me?.person?.name}`">{{ me?.person?.name }}</button>
        <template #overlay>
          <a-menu>
            <a-menu-item key="shelf" @click="router.push('/')">To the shelf</a-menu-item>
            <a-menu-item
              v-if="inside && repository && includes(repository.role, 'reader')"
              key="settings"
              @click="router.push(`/r/${repository.id}/settings`)"
            >
              People and settings
            </a-menu-item>
            <a-menu-item v-if="me?.person?.owner" key="people" @click="router.push('/people')">People of this installation</a-menu-item>
            <a-menu-divider />
            <a-menu-item v-for="c in ['system', 'light', 'dark'] as const" :key="c" @click="choice = c">
              {{ choice === c ? '✓' : ' ' }} {{ c === 'system' ? 'Light or dark as the system' : c === 'light' ? 'Light' : 'Dark' }}
            </a-menu-item>
            <a-menu-divider />
            <a-menu-item key="out" @click="signOut">Sign out</a-menu-item>
          </a-menu>
        </template>
      </a-dropdown>
    </div>
    <nav v-if="inside && repository?.pin" ref="sections" aria-label="Pages of the repository">
      <router-link
        v-for="p in pages"
        :key="p.name"
        :to="{ name: p.name, params: { repository: repository.id } }"
        class="plain"
        :class="{ here: here === p.name }"
        :aria-current="here === p.name ? 'page' : undefined"
      >
        {{ p.title
        }}<span v-if="p.name === 'notes' && news?.unread" class="news" title="Threads in which others wrote since you were here">{{
          news.unread
        }}</span>
      </router-link>
    </nav>
  </header>
</template>

<style scoped>
header {
  background: var(--sheet);
  flex: none;
}
.top {
  height: var(--header);
  display: flex;
  align-items: center;
  gap: 26px;
  padding: 0 var(--gap);
  border-bottom: 1px solid var(--rule);
}
.where {
  display: flex;
  gap: 10px;
  align-items: baseline;
  min-width: 0;
  white-space: nowrap;
}
.where strong {
  overflow: hidden;
  text-overflow: ellipsis;
  max-width: 260px;
}
.pin {
  color: var(--ink-soft);
  overflow: hidden;
  text-overflow: ellipsis;
}
.find {
  flex: 0 1 400px;
  min-width: 160px;
}
.room {
  flex: 1;
}
.me {
  border: 1px solid var(--rule);
  border-radius: 14px;
  background: none;
  color: inherit;
  font: inherit;
  padding: 3px 12px;
  cursor: pointer;
  white-space: nowrap;
}
nav {
  height: var(--nav);
  display: flex;
  gap: 26px;
  padding: 0 var(--gap);
  border-bottom: 1px solid var(--rule);
  font-size: 14.5px;
  background: var(--paper);
}
nav a {
  display: flex;
  align-items: center;
  color: var(--ink-soft);
  border-bottom: 2px solid transparent;
  border-top: 2px solid transparent;
}
nav a:hover {
  color: var(--ink);
  text-decoration: none;
}
nav .news {
  margin-left: 6px;
  font-size: 12px;
  font-weight: 600;
}
nav .here {
  color: var(--ink);
  font-weight: 600;
  border-bottom-color: var(--ink);
}
@media print {
  header {
    display: none;
  }
}
@media (max-width: 700px) {
  .top {
    gap: 10px;
    padding: 0 12px;
  }
  .top :deep(.wordmark span),
  .pin,
  .room {
    display: none;
  }
  .where strong {
    max-width: 90px;
  }
  .find {
    flex: 1;
    min-width: 80px;
  }
  .me {
    max-width: 84px;
    overflow: hidden;
    text-overflow: ellipsis;
  }
  nav {
    gap: 18px;
    padding: 0 12px;
    overflow-x: auto;
    white-space: nowrap;
    scrollbar-width: none;
  }
}
</style>
