import type { Schemas } from '@/api/client'

/** A file cut into regions; the first is the file. Lines count from 1. */
export type Skim = Schemas['SkimInfo']

/** Budgets by name; a number is one of lines. */
export type Budget = 'gist' | 'screen' | 'half' | 'whole' | number

/** How many lines the gist has. */
const gist = 12
/** A file of up to so many screens is shown whole at first. */
const shortScreens = 1.5

/** "40" or "half" in the address; null: nothing that is a budget. */
export function parseBudget(value: unknown): Budget | null {
  if (value === 'gist' || value === 'screen' || value === 'half' || value === 'whole') return value
  return typeof value === 'string' && /^[1-9]\d{0,5}$/.test(value) ? Number(value) : null
}

/** The lines of a budget; null: all. */
export function linesOf(budget: Budget, total: number, screen: number): number | null {
  switch (budget) {
    case 'whole':
      return null
    case 'gist':
      return gist
    case 'half':
      return Math.ceil(total / 2)
    case 'screen':
      return total <= screen * shortScreens ? null : screen
  }
  return budget >= total ? null : budget
}

/** Which regions are open within a budget: the longest run of their order that
 * fits, and what was opened or folded by hand. */
export function openRegions(s: Skim, budget: number | null, byHand?: ReadonlyMap<number, boolean>): Uint8Array {
  const open = new Uint8Array(s.starts.length).fill(budget === null ? 1 : 0)
  open[0] = 1
  if (budget !== null) {
    const inside = new Int32Array(s.starts.length)
    for (const p of s.parents) if (p >= 0) inside[p]!++
    let lines = s.own[0]! + inside[0]!
    for (const r of s.order) {
      const more = s.own[r]! + inside[r]! - 1
      if (lines + more > budget) break
      lines += more
      open[r] = 1
    }
  }
  for (const [region, on] of byHand ?? []) if (region > 0 && region < open.length) open[region] = on ? 1 : 0
  return open
}

/** The regions that show as folded, in text order: those inside of a folded one
 * do not. */
export function foldedRegions(s: Skim, open: Uint8Array): number[] {
  const out: number[] = []
  for (let r = 1; r < s.starts.length;) {
    if (open[r]) {
      r++
      continue
    }
    out.push(r)
    const end = s.ends[r]!
    while (r < s.starts.length && s.starts[r]! <= end) r++
  }
  return out
}

/** How many lines show. */
export function shownLines(s: Skim, folded: number[]): number {
  return folded.reduce((n, r) => n - (s.ends[r]! - s.starts[r]!), s.total)
}

/** A region with all inside it. */
export function withInside(s: Skim, region: number): number[] {
  const out = [region]
  for (let r = region + 1; r < s.starts.length && s.starts[r]! <= s.ends[region]!; r++) out.push(r)
  return out
}

/** What a click on a fold opens: a group by one level, anything else with all
 * inside it, as long as that is no more than a screen or two. */
export function opening(s: Skim, region: number): number[] {
  return s.kinds[region] === 'group' || s.ends[region]! - s.starts[region]! > 80 ? [region] : withInside(s, region)
}

/** The regions to open so that lines are seen: all folded ones over them, unless
 * a fold shows the one line anyway. */
export function revealing(s: Skim, open: Uint8Array, start: number, end: number): number[] {
  const over = (r: number) => !open[r] && s.ends[r]! >= start && s.starts[r]! <= end
  const outer = foldedRegions(s, open).find(over)
  if (outer === undefined || (start === end && s.tells[outer] === start)) return []
  const out: number[] = []
  for (let r = outer; r < s.starts.length && s.starts[r]! <= end; r++) if (over(r)) out.push(r)
  return out
}

/** What a folded region holds, for people. */
export function note(s: Skim, region: number, marks: string[]): string {
  const n = s.ends[region]! - s.starts[region]! + 1
  const label = s.labels[region]!
  const lines = `${n.toLocaleString('en')} lines`
  const text = !label ? lines : s.tells[region] === 0 ? `${label} · ${lines}` : `${lines}: ${label}`
  return marks.length ? `${text} · ${[...new Set(marks)].slice(0, 4).join(' ')}` : text
}
