<script setup lang="ts">
import { computed, ref } from 'vue'
import Dialog from '@/frame/Dialog.vue'
import { editorAddress, editorPattern, faultOf } from './editor'

const open = defineModel<boolean>({ required: true })
const props = defineProps<{ path: string; line: number }>()
const typed = ref(editorPattern.value)
const fault = computed(() => (typed.value.trim() ? faultOf(typed.value) : ''))
const example = computed(() => (typed.value.trim() && !fault.value ? editorAddress(typed.value, props.path, props.line, props.line) : ''))
function keep() {
  if (fault.value) return
  editorPattern.value = typed.value.trim()
  open.value = false
}
</script>

<template>
  <Dialog
    v-if="open"
    title="Your own editor"
    ok="Save"
    :disabled="!!fault"
    :unsaved="typed !== editorPattern"
    @close="open = false"
    @save="keep"
  >
    <p>
      An address that opens a place in the editor on this machine. <code>{path}</code> stands for the path in the repository,
      <code>{line}</code> for the line. Put the folder of your checkout before the path.
    </p>
    <a-input
      v-model:value="typed"
      class="mono"
      aria-label="Address pattern of your editor"
      placeholder="editor://open?file=/home/you/checkout/{path}&line={line}"
      @keydown.enter.prevent="keep"
    />
    <p v-if="fault" class="fault" role="alert">{{ fault }}</p>
    <p v-else-if="example" class="soft example">
      Here it would be <span class="mono">{{ example }}</span>
    </p>
    <p v-else class="soft">Left empty, nothing is opened. It is kept in this browser alone.</p>
  </Dialog>
</template>

<style scoped>
p {
  margin: 8px 0;
}
.example {
  overflow-wrap: anywhere;
}
</style>
