import { inject, onUnmounted, provide, shallowRef, watchEffect, type InjectionKey, type ShallowRef } from 'vue'

import type { Stretch } from './use'

/** Something a passage can be made of. */
export interface Candidate {
  kind: 'file' | 'lines' | 'folder' | 'extract' | 'asset' | 'pair' | 'commit' | 'comparison'
  path: string
  start?: number
  end?: number
  column?: number // of an extract's name, in bytes
  skim?: number // how many lines of a file to show
  symbols?: readonly { qualified: string; kind: string; start: number; end: number }[] // of its file
  beside?: Stretch // of a pair
  commit?: string // full id; left out: the pin
  base?: string // of a comparison: full id
  title: string
  lines: number // to read; for the estimate of minutes
  why?: string
}

interface Adding {
  /** What `a` would add: the page's selection. */
  selected: ShallowRef<Candidate | null>
  /** What is being added: the dialogue is open. */
  current: ShallowRef<Candidate | null>
  /** What is dragged, and may be dropped on the ribbon. */
  carried: ShallowRef<Candidate | null>
}

const key: InjectionKey<Adding> = Symbol('adding')

export function provideAdding() {
  provide(key, { selected: shallowRef(null), current: shallowRef(null), carried: shallowRef(null) })
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

/** Makes a row something that is dragged onto the ribbon. */
export function useCarrying() {
  const { carried } = useAdding()
  return (c: Candidate) => ({
    draggable: true,
    onDragstart: (e: DragEvent) => {
      carried.value = c
      e.dataTransfer?.setData('text/plain', c.path || c.title)
    },
    onDragend: () => (carried.value = null),
  })
}
