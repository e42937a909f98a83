<script setup lang="ts">
import { useTemplateRef } from 'vue'
import { useSheet } from './sheet'

/** A modal dialogue: see useSheet. With `ok` it has a button that saves. */
const props = withDefaults(
  defineProps<{
    title: string
    width?: number // px
    ok?: string
    disabled?: boolean // nothing can be saved yet
    busy?: boolean
    danger?: boolean
    /** Closing would lose words. */
    unsaved?: boolean
  }>(),
  { width: 520, ok: '' },
)
const emit = defineEmits<{ close: []; save: [] }>()
const element = useTemplateRef<HTMLDialogElement>('element')
function save() {
  if (!props.disabled && !props.busy) emit('save')
}
const { asking, leave } = useSheet({
  element: () => element.value,
  modal: true,
  close: () => emit('close'),
  unsaved: () => props.unsaved && !props.busy, // what is being saved is not lost
  save,
})
</script>

<template>
  <Teleport to="body">
    <dialog
      ref="element"
      :aria-label="title"
      :style="{ width: `${width}px` }"
      @cancel.prevent="leave"
      @close="emit('close')"
      @mousedown.self="leave"
    >
      <div class="inside">
        <header>
          <h2>{{ title }}</h2>
          <button type="button" class="link" aria-label="Close" @click="leave">×</button>
        </header>
        <slot />
        <p v-if="asking" class="asking" role="alert">
          What you wrote here is not saved.
          <button type="button" class="link" @click="asking = false">Keep writing</button>
          <button type="button" class="link" @click="emit('close')">Discard it</button>
        </p>
        <footer v-if="ok">
          <a-button @click="leave">Cancel</a-button>
          <a-button type="primary" title="Ctrl Enter" :danger="danger" :disabled="disabled" :loading="busy" @click="save">{{
            ok
          }}</a-button>
        </footer>
      </div>
    </dialog>
  </Teleport>
</template>

<style scoped>
dialog {
  max-width: calc(100vw - 32px);
  max-height: calc(100dvh - 48px);
  padding: 0;
  overflow: auto;
  color: var(--ink);
  background: var(--sheet);
  border: 1px solid var(--ink-soft);
  border-radius: var(--radius);
}
dialog::backdrop {
  background: var(--ink);
  opacity: 0.3;
}
.inside {
  padding: 16px 20px;
}
header {
  display: flex;
  justify-content: space-between;
  align-items: baseline;
  gap: 16px;
  margin-bottom: 12px;
}
h2 {
  margin: 0;
  font: 600 17px/1.3 var(--serif);
}
header button {
  font-size: 18px;
  color: var(--ink-soft);
}
footer {
  display: flex;
  justify-content: end;
  gap: 10px;
  margin-top: 16px;
}
.asking {
  padding: 6px 10px;
  margin: 12px 0 0;
  background: var(--hover);
  border-left: 2px solid var(--plum);
}
.asking button {
  margin-left: 14px;
}
</style>
