<script setup lang="ts">
defineProps<{ large?: boolean }>()
</script>

<template>
  <router-link to="/" class="wordmark plain" :class="{ large }">
    <svg viewBox="0 0 26 24" width="26" height="24" aria-hidden="true">
      <g class="is">
        <rect x="1" y="3" width="11" height="4" />
        <rect x="5" y="10" width="7" height="4" />
        <rect x="3" y="17" width="9" height="4" />
      </g>
      <g class="happened">
        <rect x="14" y="6" width="7" height="4" />
        <rect x="14" y="13" width="11" height="4" />
      </g>
      <rect class="spine" x="12.2" y="1" width="1.6" height="22" />
    </svg>
    <span>Juxtagram</span>
  </router-link>
</template>

<style scoped>
.wordmark {
  display: inline-flex;
  align-items: center;
  gap: 9px;
  font: 600 20px/1 var(--serif);
  color: var(--ink);
}
.wordmark:hover {
  text-decoration: none;
}
.large {
  font-size: 26px;
}
.is {
  fill: var(--teal);
}
.happened {
  fill: var(--ochre);
}
.spine {
  fill: var(--ink);
}
</style>
