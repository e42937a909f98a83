<script setup lang="ts">
import { computed } from 'vue'
import { useRoute } from 'vue-router'
import SubNav from '@/frame/SubNav.vue'

/** The pages of the history as words. */
const route = useRoute()
const pages = [
  { name: 'history', title: 'Log' },
  { name: 'hotspots', title: 'Hotspots and partners' },
  { name: 'who', title: 'Who to ask' },
  { name: 'compare', title: 'Compare' },
]
const here = computed(() => (route.name === 'commit' || route.name === 'story' ? 'history' : route.name))
</script>

<template>
  <SubNav label="History" :pages="pages" :here="here"><slot /></SubNav>
</template>
