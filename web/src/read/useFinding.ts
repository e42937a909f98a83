import { refDebounced } from '@vueuse/core'
import { computed, ref, watch, type Ref } from 'vue'
import { hitFrom, hitsIn } from './find'

/** Finding in one file: what was typed, the hits, and the one at hand. */
export function useFinding(text: Ref<string>, from: () => number) {
  const open = ref(false)
  const typed = ref('')
  const settled = refDebounced(typed, 80)
  const found = computed(() => (open.value ? hitsIn(text.value, settled.value) : { hits: [], more: false }))
  const at = ref(-1)
  watch(found, (f) => (at.value = hitFrom(f.hits, from())))
  return {
    open,
    typed,
    found,
    at,
    step(by: number) {
      const n = found.value.hits.length
      if (n) at.value = (at.value + by + n) % n
    },
  }
}
