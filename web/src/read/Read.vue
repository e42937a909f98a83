<script setup lang="ts">
import { computed } from 'vue'
import { useRoute } from 'vue-router'
import { useRepository } from '@/frame/repository'
import FilePage from './FilePage.vue'
import FileTree from './FileTree.vue'
import FolderAt from './FolderAt.vue'

const route = useRoute()
const text = (v: unknown) => (typeof v === 'string' ? v : '')
const path = computed(() => text(route.query.path))
const folder = computed(() => text(route.query.folder))
const repository = useRepository()
/** A commit other than the pin's. */
const elsewhere = computed(() => (text(route.query.at) !== repository.value.pin ? text(route.query.at) : ''))
</script>

<template>
  <FilePage v-if="path" :path="path" />
  <FolderAt v-else-if="elsewhere" :folder="folder" :at="elsewhere" />
  <FileTree v-else :folder="folder" />
</template>
