<script setup lang="ts">
/** A passage on the ribbon, as wide as its minutes. Its properties are plain values,
 * so that only those that changed are drawn anew. */
defineProps<{
  repository: number
  plan: number
  passage: string
  minutes: number
  title: string
  label: string
  done: boolean
  here: boolean
  skipped: boolean
  other: boolean // somebody else is here
  stop: boolean // the Tab key leads here
}>()
</script>

<template>
  <router-link
    class="passage"
    :class="{ done, here, skipped }"
    :style="{ flexGrow: Math.max(1, minutes) }"
    :to="{ name: 'guide', params: { repository, plan }, query: { passage } }"
    :title="title"
    :tabindex="stop ? 0 : -1"
    :aria-label="label"
    :aria-current="here ? 'step' : undefined"
    ><i v-if="other" class="other" aria-hidden="true"
  /></router-link>
</template>

<style scoped>
.passage {
  height: 20px;
  flex: 1 1 0;
  min-width: 3px;
  background: var(--plum-pale);
}
.passage.skipped {
  background: none;
  border: 1px dotted var(--plum);
}
/* somebody else is here */
.other {
  display: block;
  width: 100%;
  height: 5px;
  background: repeating-linear-gradient(45deg, var(--ink) 0 2px, transparent 2px 4px);
}
.passage.done .other {
  background: repeating-linear-gradient(45deg, var(--sheet) 0 2px, transparent 2px 4px);
}
.passage:hover {
  outline: 1px solid var(--plum);
}
.passage.done {
  background: var(--plum);
}
.passage.here {
  background: repeating-linear-gradient(-45deg, var(--plum) 0 4px, var(--sheet) 4px 7px);
}
</style>
