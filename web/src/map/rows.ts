import { computed, ref, watch, type Ref } from 'vue'
import { useKeys } from '@/frame/keys'
import { fold, type State } from './address'
import type { Chart } from './chart'
import type { Picture } from './picture'

/** Choosing and folding rows, by hand and by keys. */
export function useRows(
  chart: Ref<Chart | null>,
  drawn: Ref<Picture | null>,
  state: Ref<State>,
  set: (change: Partial<State>) => void,
  read: (path: string) => void,
) {
  /** The row of the selected path; -1: none. */
  const row = computed(() => (chart.value && state.value.at ? chart.value.row(state.value.at) : -1))
  /** Its line: its own, or the one it is told together in. */
  const selected = computed(() => {
    if (row.value < 0 || !drawn.value) return -1
    const own = drawn.value.lines.findIndex((l) => l.row === row.value && l.kind !== 'more')
    return own >= 0 ? own : drawn.value.lines.findIndex((l) => l.rows?.includes(row.value))
  })
  /** The line that the keys are on: of the selection, or of siblings told together. */
  const cursor = ref(-1)
  const hover = ref(-1)
  watch(selected, (s) => (cursor.value = s), { immediate: true })

  const around = (r: number) => `${r < 0 ? '' : chart.value!.path(r)}/*`

  // an address that names a path shows it, whatever is folded
  let revealed = ''
  watch(
    [chart, () => state.value.at],
    () => {
      const c = chart.value
      const s = state.value
      if (!c || !s.at || revealed === s.at || s.order !== 'tree') return
      revealed = s.at
      if (row.value < 0 || !drawn.value || drawn.value.lines.some((l) => l.row === row.value && l.kind !== 'more')) return
      const open = new Set(s.open)
      for (let up = c.parent[row.value]!; up >= 0; up = c.parent[up]!) open.add(c.path(up))
      open.add(around(c.parent[row.value]!))
      set({ open: [...open], shut: s.shut.filter((p) => !open.has(p)) })
    },
    { immediate: true },
  )

  function select(index: number) {
    const l = drawn.value?.lines[index]
    if (!l || !chart.value) return
    if (l.kind === 'more') return unfold(index)
    revealed = chart.value.path(l.row)
    set({ at: revealed })
  }
  function unfold(index: number) {
    const l = drawn.value?.lines[index]
    const c = chart.value
    if (!l || !c) return
    if (l.kind === 'more') set(fold(state.value, around(c.parent[l.row]!), true))
    else if (l.kind === 'folder') set(fold(state.value, c.path(l.row), !l.open))
  }
  function open(index: number) {
    const l = drawn.value?.lines[index]
    if (!l || !chart.value) return
    if (l.kind === 'file') read(chart.value.path(l.row))
    else unfold(index)
  }
  function step(by: number) {
    const lines = drawn.value?.lines
    if (!lines?.length) return
    const from = cursor.value < 0 ? (by > 0 ? -1 : lines.length) : cursor.value
    const to = Math.max(0, Math.min(lines.length - 1, from + by))
    cursor.value = to
    hover.value = -1
    if (lines[to]!.kind !== 'more') select(to)
  }
  function left() {
    const lines = drawn.value?.lines
    const l = lines?.[cursor.value]
    if (!lines || !l) return
    if (l.open) return unfold(cursor.value)
    for (let i = cursor.value - 1; i >= 0; i--) if (lines[i]!.depth < l.depth) return select(i)
  }
  function right() {
    const l = drawn.value?.lines[cursor.value]
    if (l && l.kind !== 'file' && !l.open) unfold(cursor.value)
    else step(1)
  }
  useKeys({
    ArrowDown: () => step(1),
    ArrowUp: () => step(-1),
    PageDown: () => step(15),
    PageUp: () => step(-15),
    Home: () => step(-Infinity),
    End: () => step(Infinity),
    ArrowRight: right,
    ArrowLeft: left,
    Enter: () => open(cursor.value),
    Escape: () => set({ at: '' }),
  })
  return { row, cursor, hover, select, unfold, open }
}
