import { inject, onUnmounted, provide, shallowRef, watchEffect, type InjectionKey, type ShallowRef } from 'vue'

/** Something a passage can be made of. */
export interface Candidate {
  kind: 'file' | 'lines' | 'folder' | 'extract'
  path: string
  start?: number
  end?: number
  column?: number // of an extract's name, in bytes
  skim?: number // how many lines of a file to show
  title: string
  lines: number // to read; for the estimate of minutes
  why?: string
}

interface Adding {
  /** What `a` would add: the page's selection. */
  selected: ShallowRef<Candidate | null>
  /** What is being added: the dialogue is open. */
  current: ShallowRef<Candidate | null>
}

const key: InjectionKey<Adding> = Symbol('adding')

export function provideAdding() {
  provide(key, { selected: shallowRef(null), current: shallowRef(null) })
}

export function useAdding(): Adding {
  const a = inject(key)
  if (!a) throw new Error('nothing can be added on this page')
  return a
}

/** Tells what is selected on this page, for as long as it is shown. */
export function useSelection(of: () => Candidate | null) {
  const { selected } = useAdding()
  watchEffect(() => (selected.value = of()))
  onUnmounted(() => (selected.value = null))
}
