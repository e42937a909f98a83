import { Change, diff } from '@codemirror/merge'
import type { Schemas } from '@/api/client'

type Hunk = Schemas['HunkInfo']

/** Where each line of a text begins, and one more for its end. */
export function lineStarts(text: string): number[] {
  const out = [0]
  for (let at = text.indexOf('\n'); at >= 0; at = text.indexOf('\n', at + 1)) out.push(at + 1)
  out.push(text.length)
  return out
}

/** The longest text within which characters are compared, not lines alone. */
const fine = 20_000

/** The changes between two texts, character by character, within runs of lines
 * that are known to differ. */
export function changesIn(hunks: readonly Hunk[], a: string, b: string): Change[] {
  const inA = lineStarts(a)
  const inB = lineStarts(b)
  const span = (starts: number[], start: number, count: number, text: string): [number, number] => {
    // of no lines, start is the line before
    const first = count ? start - 1 : start
    return [starts[Math.min(first, starts.length - 1)]!, Math.min(text.length, starts[Math.min(first + count, starts.length - 1)]!)]
  }
  const out: Change[] = []
  for (const h of hunks) {
    const [fromA, toA] = span(inA, h.old_start, h.old_count, a)
    const [fromB, toB] = span(inB, h.new_start, h.new_count, b)
    if (toA - fromA > fine || toB - fromB > fine || !h.old_count || !h.new_count) {
      out.push(new Change(fromA, toA, fromB, toB))
      continue
    }
    for (const c of diff(a.slice(fromA, toA), b.slice(fromB, toB), { scanLimit: 1000, timeout: 100 })) {
      out.push(new Change(fromA + c.fromA, fromA + c.toA, fromB + c.fromB, fromB + c.toB))
    }
  }
  return out
}

export interface Row {
  name: string
  kind: string
  a: { line: number; lines: number } | null
  b: { line: number; lines: number } | null
  differs: boolean
}

/** The symbols of two outlines side by side, by name: first in the order of the
 * one, then those that only the other has. */
export function aligned(a: readonly Schemas['Symbol'][], b: readonly Schemas['Symbol'][], hunks: readonly Hunk[]): Row[] {
  const place = (s: Schemas['Symbol']) => ({ line: s.name_line, lines: s.end - s.start + 1 })
  const left = new Map<string, Schemas['Symbol'][]>()
  for (const s of b) left.set(s.qualified, [...(left.get(s.qualified) ?? []), s])
  const out: Row[] = []
  for (const s of a) {
    const other = left.get(s.qualified)?.shift()
    const hit = (h: Hunk) => h.old_start <= s.end && h.old_start + Math.max(1, h.old_count) > s.start
    const differs = !other || hunks.some(hit)
    out.push({ name: s.qualified, kind: s.kind, a: place(s), b: other ? place(other) : null, differs })
  }
  for (const s of b)
    if (left.get(s.qualified)?.includes(s)) out.push({ name: s.qualified, kind: s.kind, a: null, b: place(s), differs: true })
  return out
}
