<script setup lang="ts">
import { computed, watch, watchEffect } from 'vue'
import { useRoute, useRouter } from 'vue-router'
import { words } from '@/api/client'
import TakingIn from '@/shelf/TakingIn.vue'
import { provideAdding } from '@/plans/adding'
import AddPassage from '@/plans/AddPassage.vue'
import Ribbon from './Ribbon.vue'
import { pageTitles, titleOf } from './title'
import { provideAnnotating, Write } from '@/notes'
import { includes, provideRepository, useRepositoryQuery } from './repository'

const route = useRoute()
const router = useRouter()
const { data: repository, error, isPending } = useRepositoryQuery()
provideRepository(computed(() => repository.value!))
provideAdding()
provideAnnotating(() => repository.value?.id ?? 0)

watch(
  () => [repository.value?.state, route.name],
  () => {
    const r = repository.value
    if (r && r.state === 'needs-pin' && route.name !== 'pin' && route.name !== 'settings')
      void router.replace({ name: 'pin', params: { repository: r.id } })
  },
  { immediate: true },
)
watchEffect(() => {
  if (repository.value) document.title = titleOf(pageTitles[String(route.name)] ?? '', repository.value.name)
})
</script>

<template>
  <div class="repository">
    <div v-if="error" class="page narrow">
      <h1>This repository does not open</h1>
      <p class="prose">{{ words(error) }}</p>
      <p><router-link to="/">To the shelf</router-link></p>
    </div>
    <p v-else-if="isPending" class="page soft">Opening the repository …</p>
    <template v-else-if="repository">
      <TakingIn
        v-if="(repository.state === 'taking-in' || repository.state === 'failed') && route.name !== 'settings'"
        :repository="repository"
        class="inner"
      />
      <template v-else>
        <div class="inner"><router-view :key="String(route.params.repository)" /></div>
        <Ribbon v-if="repository.pin" />
        <AddPassage v-if="repository.pin" />
        <Write v-if="repository.pin" :repository="repository.id" :writer="includes(repository.role, 'writer')" />
      </template>
    </template>
  </div>
</template>

<style scoped>
.repository {
  height: 100%;
  display: flex;
  flex-direction: column;
}
.inner {
  flex: 1;
  min-height: 0;
  overflow: auto;
}
@media print {
  .repository,
  .inner {
    height: auto;
    overflow: visible;
  }
  .repository > :not(.inner) {
    display: none;
  }
}
</style>
