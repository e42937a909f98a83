<script setup lang="ts">
import './marks.css'
import { shapes, type Shape } from './shapes'

defineProps<{ kind: Shape }>()
</script>

<template>
  <svg width="12" height="12" class="mark" aria-hidden="true"><path :class="kind" :d="shapes[kind](0)" /></svg>
</template>
