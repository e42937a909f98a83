<script setup lang="ts">
import { computed } from 'vue'
import { useRoute } from 'vue-router'
import FilePage from './FilePage.vue'
import FileTree from './FileTree.vue'

const route = useRoute()
const text = (v: unknown) => (typeof v === 'string' ? v : '')
const path = computed(() => text(route.query.path))
const folder = computed(() => text(route.query.folder))
</script>

<template>
  <FilePage v-if="path" :path="path" />
  <FileTree v-else :folder="folder" />
</template>
