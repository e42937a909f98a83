import { useLocalStorage } from '@vueuse/core'
import { computed, inject, onUnmounted, provide, shallowRef, watchEffect, type InjectionKey, type Ref, type ShallowRef } from 'vue'
import type { Place, TargetIn, ThreadInfo } from './target'

/** A text that is being written. It is kept in this browser while it is typed:
 * a click elsewhere or a closed tab loses nothing. */
export interface Draft {
  place: Place
  target: TargetIn
  text: string
  kind: 'note' | 'question'
  private: boolean
  asked?: number
}

interface Annotating {
  /** What `r` would write about: the page's selection. */
  selected: ShallowRef<Place | null>
  draft: Ref<Draft | null>
  open: Ref<boolean>
  /** Counts the wishes to write about what is selected. */
  asked: Ref<number>
  /** The thread whose place is being mended by hand. */
  replacing: ShallowRef<ThreadInfo | null>
}

const key: InjectionKey<Annotating> = Symbol('annotating')

export function provideAnnotating(repository: () => number) {
  const drafts = useLocalStorage<Record<string, Draft>>('juxtagram.drafts', {})
  const draft = computed({
    get: () => drafts.value[repository()] ?? null,
    set: (d) => {
      const next = { ...drafts.value }
      if (d) next[repository()] = d
      else delete next[repository()]
      drafts.value = next
    },
  })
  const made: Annotating = { selected: shallowRef(null), draft, open: shallowRef(false), asked: shallowRef(0), replacing: shallowRef(null) }
  provide(key, made)
  return made
}

export function useAnnotating(): Annotating {
  const a = inject(key)
  if (!a) throw new Error('nothing can be written about on this page')
  return a
}

/** Tells what is selected on this page, for as long as it is shown. */
export function useWrittenAbout(of: () => Place | null) {
  const { selected } = useAnnotating()
  watchEffect(() => (selected.value = of()))
  onUnmounted(() => (selected.value = null))
}
