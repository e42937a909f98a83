<script setup lang="ts">
import { computed, ref } from 'vue'
import { date } from '@/words/format'
import { inWords, roles, starts, useCorrections } from './use'

const props = defineProps<{ repository: number; path: string; folder?: boolean; role?: string; started?: boolean }>()
const { list, say, undo } = useCorrections(() => props.repository)
const here = computed(() => (list.value ?? []).filter((c) => c.path === props.path))
const open = ref(false)
function choose(kind: 'role' | 'start', e: Event) {
  const value = (e.target as HTMLSelectElement).value
  if (value) void say(kind, props.path, value)
  open.value = false
}
</script>

<template>
  <div class="correct">
    <p v-for="c in here" :key="c.id" class="soft">
      {{ c.by || 'Someone who has left' }} says it {{ inWords(c) }}, {{ date(c.at) }}.
      <button class="link" @click="undo(c)">take back</button>
    </p>
    <button v-if="!open" class="link" @click="open = true">Something is wrong here</button>
    <div v-else class="choices">
      <label
        >it is
        <select :value="''" aria-label="Its role" @change="(e) => choose('role', e)">
          <option value="">… a role</option>
          <option v-for="r in roles" :key="r" :value="r" :disabled="r === role">{{ r }}</option>
        </select></label
      >
      <label v-if="!folder"
        >it starts
        <select :value="''" aria-label="What starts here" @change="(e) => choose('start', e)">
          <option value="">… something</option>
          <option v-for="s in starts" :key="s" :value="s">a {{ s }}</option>
        </select></label
      >
      <button v-if="!folder && started" class="link" @click="say('no-start', path)">nothing starts here</button>
      <button v-if="folder" class="link" @click="say('root', path)">it is a source root</button>
      <button class="link soft" @click="open = false">never mind</button>
    </div>
  </div>
</template>

<style scoped>
.correct {
  padding: 4px 0;
}
.choices {
  display: flex;
  flex-wrap: wrap;
  gap: 6px 14px;
  align-items: baseline;
}
</style>
