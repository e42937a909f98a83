<script setup lang="ts">
import { ref } from 'vue'
import Dialog from '@/frame/Dialog.vue'
import { many } from '@/words/format'

/** Asks why leads are set aside. */
const open = defineModel<boolean>({ required: true })
defineProps<{ leads: number; title: string }>()
const emit = defineEmits<{ aside: [reason: string] }>()
const reason = ref('')
const usual = ['known, and tracked elsewhere', 'no longer true', 'not for a first reading', 'belongs to code that is not ours']
function done(why = reason.value) {
  if (!why.trim()) return
  emit('aside', why.trim())
  open.value = false
}
</script>

<template>
  <Dialog
    v-if="open"
    :title="leads === 1 ? 'Set it aside' : `Set ${many(leads, 'lead')} aside`"
    ok="Set aside"
    :disabled="!reason.trim()"
    :unsaved="!!reason.trim()"
    @close="open = false"
    @save="done()"
  >
    <p class="what">{{ title }}</p>
    <p class="soft">It leaves the list for everybody, stays set aside in later surveys, and can be brought back. Say why:</p>
    <a-input v-model:value="reason" name="reason" autofocus :maxlength="500" aria-label="Reason" @keydown.enter.prevent="done()" />
    <p class="usual">
      <button v-for="u in usual" :key="u" class="link" @click="done(u)">{{ u }}</button>
    </p>
  </Dialog>
</template>

<style scoped>
p {
  margin: 8px 0;
}
.what {
  font-family: var(--serif);
  font-size: 15px;
  overflow-wrap: anywhere;
}
.usual {
  display: flex;
  flex-wrap: wrap;
  gap: 4px 16px;
}
</style>
