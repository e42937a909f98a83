import type { Chart } from './chart'

/** One line of the picture: a file, a folder, or several siblings together. */
export interface Line {
  kind: 'file' | 'folder' | 'more'
  /** The file or folder; of several siblings, the first. */
  row: number
  depth: number
  open: boolean
  /** Of several siblings: their rows. */
  rows?: number[]
}

export interface Folds {
  /** Folders that were opened or closed by hand, and, with "/*" behind the path,
   * whether small siblings are shown. */
  open: Set<string>
  shut: Set<string>
}

/** How many siblings a folder shows before the small ones are told together. */
const fewSiblings = 7

/** Lays the tree out in about so many lines: the weightiest folders are open, and
 * of many siblings the small ones are told together. budget Infinity shows all.
 * worth is what a row weighs, files and folders; keep says which rows are there
 * at all, null for all. */
export function layout(c: Chart, worth: Float64Array, keep: Uint8Array | null, folds: Folds, budget: number): Line[] {
  const open = new Set<number>()
  const shown = new Map<number, { list: number[]; rest: number[] }>()
  const of = (row: number) => {
    let s = shown.get(row)
    if (!s) shown.set(row, (s = split(c, row, worth, keep, folds, budget === Infinity)))
    return s
  }
  const cost = (row: number) => {
    const s = of(row)
    return s.list.length + (s.rest.length ? 1 : 0)
  }
  let used = cost(-1)
  if (budget === Infinity) {
    for (let i = 0; i < c.size; i++) if (c.isFolder(i)) open.add(i)
  } else {
    // open the weightiest folders among those to be seen, while there is room
    const heap: number[] = [...of(-1).list.filter((r) => c.isFolder(r))]
    const weigh = (a: number, b: number) => worth[b]! - worth[a]! || a - b
    heap.sort(weigh)
    while (heap.length) {
      const next = heap.shift()!
      const more = cost(next)
      if (used + more > budget && open.size) continue
      used += more
      open.add(next)
      const inner = of(next).list.filter((r) => c.isFolder(r))
      if (inner.length) {
        heap.push(...inner)
        heap.sort(weigh)
      }
    }
  }
  for (const p of folds.open) if (!p.endsWith('/*') && c.row(p) >= 0) open.add(c.row(p))
  for (const p of folds.shut) if (!p.endsWith('/*')) open.delete(c.row(p))
  const out: Line[] = []
  const tell = (row: number, depth: number) => {
    const s = of(row)
    for (const r of s.list) {
      const folder = c.isFolder(r)
      const isOpen = folder && open.has(r)
      out.push({ kind: folder ? 'folder' : 'file', row: r, depth, open: isOpen })
      if (isOpen) tell(r, depth + 1)
    }
    if (s.rest.length) out.push({ kind: 'more', row: s.rest[0]!, depth, open: false, rows: s.rest })
  }
  tell(-1, 0)
  return out
}

/** What a folder shows, and what it tells together. */
function split(c: Chart, row: number, worth: Float64Array, keep: Uint8Array | null, folds: Folds, all: boolean) {
  const list: number[] = []
  for (const r of c.children(row)) if (!keep || keep[r]) list.push(r)
  const key = `${row < 0 ? '' : c.path(row)}/*`
  const few = row < 0 ? fewSiblings * 2 : fewSiblings
  if (folds.open.has(key) || (all && !folds.shut.has(key)) || list.length <= few + 2) return { list, rest: [] as number[] }
  const best = new Set([...list].sort((a, b) => worth[b]! - worth[a]! || a - b).slice(0, few))
  return { list: list.filter((r) => best.has(r)), rest: list.filter((r) => !best.has(r)) }
}

/** What each row weighs: its share of the largest on either side. */
export function worths(c: Chart, left: Float64Array, right: Float64Array): Float64Array {
  const top = (v: Float64Array) => {
    let most = 0
    for (const r of c.children(-1)) if (v[r]! > most) most = v[r]!
    return most || 1
  }
  const l = top(left)
  const r = top(right)
  const out = new Float64Array(c.size)
  for (let i = 0; i < c.size; i++) out[i] = (left[i]! / l || 0) + (right[i]! / r || 0)
  return out
}
