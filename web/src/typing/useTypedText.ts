import { ref, watch, type Ref } from 'vue'
import { forgetTyped, keepTyped, leftBehind } from './machine'

/** A text that is sent by hand, kept on this machine with every key until then.
 * `restored` is called with what was typed before a reload or in a closed tab. */
export function useTypedText(name: () => string, restored: () => void): Ref<string> {
  const text = ref('')
  watch(text, (t) => (t.trim() ? keepTyped(name(), t) : forgetTyped(name())), { flush: 'sync' })
  void leftBehind<string>(name()).then(([newest, ...older]) => {
    if (!newest || text.value) return
    for (const l of [newest, ...older]) forgetTyped(name(), l.tab)
    text.value = [newest, ...older].map((l) => l.value).join('\n\n')
    restored()
  })
  return text
}
