import { diff } from '@codemirror/merge'
import type { Schemas } from '@/api/client'

export type DiffInfo = Schemas['DiffInfo']
export type DiffLine = Schemas['DiffLine']

/** A piece of a line: its text, its colour, and whether it changed. */
export interface Run {
  text: string
  class: string
  changed: boolean
}

export interface Cell {
  number: number
  line: DiffLine
  /** Spans that differ from the line beside it, as offsets. */
  marks: readonly (readonly [number, number])[]
}

export type Row =
  | { kind: 'hidden'; count: number; old: number; new: number }
  | { kind: 'line'; what: 'same' | 'changed'; old: Cell | null; new: Cell | null; change: number }

/** Texts over which characters are not compared. */
const fine = 4000

/** The spans in which two lines differ; none where hardly anything is alike. */
export function marksOf(a: string, b: string): { a: [number, number][]; b: [number, number][] } {
  if (a.length > fine || b.length > fine || !a.trim() || !b.trim()) return { a: [], b: [] }
  const changes = diff(a, b, { scanLimit: 500 })
  const out = { a: [] as [number, number][], b: [] as [number, number][] }
  let changed = 0
  for (const c of changes) {
    if (c.toA > c.fromA) out.a.push([c.fromA, c.toA])
    if (c.toB > c.fromB) out.b.push([c.fromB, c.toB])
    changed += Math.max(c.toA - c.fromA, c.toB - c.fromB)
  }
  return changed > 0.7 * Math.max(a.length, b.length) ? { a: [], b: [] } : out
}

/** The lines of a diff side by side: in a changed run, the nth line that went
 * stands beside the nth that came. */
export function rowsOf(d: DiffInfo): Row[] {
  const out: Row[] = []
  let change = -1
  for (const p of d.pieces) {
    if (p.kind === 'hidden') out.push({ kind: 'hidden', count: p.count, old: p.old_start, new: p.new_start })
    else if (p.kind === 'same')
      (p.same ?? []).forEach((line, n) =>
        out.push({
          kind: 'line',
          what: 'same',
          old: { number: p.old_start + n, line, marks: [] },
          new: { number: p.new_start + n, line, marks: [] },
          change: -1,
        }),
      )
    else {
      change++
      const removed = p.removed ?? []
      const added = p.added ?? []
      for (let n = 0; n < Math.max(removed.length, added.length); n++) {
        const a = removed[n]
        const b = added[n]
        const marks = a && b ? marksOf(a.text, b.text) : { a: [], b: [] }
        out.push({
          kind: 'line',
          what: 'changed',
          old: a ? { number: p.old_start + n, line: a, marks: marks.a } : null,
          new: b ? { number: p.new_start + n, line: b, marks: marks.b } : null,
          change,
        })
      }
    }
  }
  return out
}

/** The same rows one below the other: what went first, then what came. */
export function unified(rows: readonly Row[]): Row[] {
  const out: Row[] = []
  for (let i = 0; i < rows.length;) {
    const r = rows[i]!
    if (r.kind !== 'line' || r.what === 'same') {
      out.push(r)
      i++
      continue
    }
    const run: (Row & { kind: 'line' })[] = []
    for (; i < rows.length; i++) {
      const x = rows[i]!
      if (x.kind !== 'line' || x.change !== r.change) break
      run.push(x)
    }
    for (const x of run) if (x.old) out.push({ ...x, new: null })
    for (const x of run) if (x.new) out.push({ ...x, old: null })
  }
  return out
}

/** A line cut by its colours and its changed spans. */
export function runsOf(cell: Cell, classes: readonly string[]): Run[] {
  const { text, tokens = [] } = cell.line
  const out: Run[] = []
  const put = (from: number, to: number, name: string) => {
    let at = from
    for (const [a, b] of cell.marks) {
      if (b <= at || a >= to) continue
      if (a > at) out.push({ text: text.slice(at, a), class: name, changed: false })
      out.push({ text: text.slice(Math.max(a, at), Math.min(b, to)), class: name, changed: true })
      at = Math.min(b, to)
    }
    if (at < to) out.push({ text: text.slice(at, to), class: name, changed: false })
  }
  let at = 0
  for (let i = 0; i + 1 < tokens.length && at < text.length; i += 2) {
    const to = Math.min(text.length, at + tokens[i]!)
    put(at, to, tokens[i + 1] ? `c-${classes[tokens[i + 1]!]}` : '')
    at = to
  }
  if (at < text.length) put(at, text.length, '')
  return out
}
