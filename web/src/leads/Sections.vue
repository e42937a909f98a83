<script setup lang="ts">
import { useRoute } from 'vue-router'
import SubNav from '@/frame/SubNav.vue'

/** The pages of what was found, as words. */
const route = useRoute()
const pages = [
  { name: 'leads', title: 'All leads' },
  { name: 'tagged', title: 'Tagged comments' },
]
</script>

<template>
  <SubNav label="Leads" :pages="pages" :here="route.name"><span class="room" /><slot /></SubNav>
</template>

<style scoped>
.room {
  flex: 1;
}
</style>
