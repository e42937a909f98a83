import type { Schemas } from '@/api/client'
import type { CoverState } from '@/plans/covering'
import type { Chart, SpanInfo } from './chart'

/** What narrows the rows; empty: nothing. */
export interface Filter {
  name: string
  role: string
  language: string
  mark: '' | Mark
  covers: '' | CoverState // what becomes of leads in the plan at hand
  by: string // a person's name
}

export const marks = {
  start: 'a start',
  tagged: 'tagged comment',
  test: 'test',
  written: 'written about',
  plan: 'in a plan',
  read: 'read by you',
  unread: 'not read by you',
} as const
export type Mark = keyof typeof marks

/** What people did with rows. */
export interface Marked {
  planned: Uint8Array
  written: Int32Array
  read: Uint8Array
  covers: Record<CoverState, Int32Array> // how many leads become what; none where no plan is at hand
}

/** Finds the rows of what people did with paths. */
export function markedRows(c: Chart, info: Schemas['MarksInfo'] | undefined, covered?: Schemas['CoveredPaths']): Marked {
  const planned = new Uint8Array(c.size)
  const read = new Uint8Array(c.size)
  const written = new Int32Array(c.size)
  for (const p of info?.written ?? []) {
    const r = c.row(p.path)
    if (r >= 0) written[r]! += p.threads
  }
  for (const p of info?.planned ?? []) {
    const r = c.row(p.path)
    if (r >= 0) planned[r] = Math.min(255, planned[r]! + 1)
  }
  for (const p of info?.read ?? []) {
    const r = c.row(p)
    if (r >= 0) read[r] = 1
  }
  const covers = {
    open: new Int32Array(c.size),
    here: new Int32Array(c.size),
    elsewhere: new Int32Array(c.size),
    aside: new Int32Array(c.size),
  }
  covered?.paths.forEach((p, i) => {
    const r = c.row(p)
    if (r < 0) return
    for (const state of Object.keys(covers) as CoverState[]) covers[state][r]! += covered[state][i]!
  })
  return { planned, written, read, covers }
}

export function isOn(f: Filter): boolean {
  return !!(f.name || f.role || f.language || f.mark || f.by || f.covers)
}

/** Which rows a filter lets through: files that fit, and folders around them.
 * null: all. span is what the person of the filter did; as long as it is not
 * known, a person leaves nothing. */
export function kept(c: Chart, f: Filter, marked: Marked, span: SpanInfo | undefined): Uint8Array | null {
  if (!isOn(f)) return null
  const role = f.role ? c.info.roles.indexOf(f.role) : -2
  const language = f.language ? c.info.languages.indexOf(f.language) : -2
  const test = c.info.roles.indexOf('test')
  const text = f.name.toLowerCase()
  const out = new Uint8Array(c.size)
  for (let i = 0; i < c.size; i++) {
    if (c.isFolder(i)) continue
    if (role !== -2 && c.info.role[i] !== role) continue
    if (language !== -2 && c.info.language[i] !== language) continue
    if (f.by && !span?.changes[i]) continue
    if (f.mark && !hasMark(c, i, f.mark, marked, test)) continue
    if (f.covers && !marked.covers[f.covers][i]) continue
    if (text && !c.matches(i, text)) continue
    for (let r = i; r >= 0 && !out[r]; r = c.parent[r]!) out[r] = 1
  }
  return out
}

function hasMark(c: Chart, i: number, mark: Mark, marked: Marked, test: number): boolean {
  switch (mark) {
    case 'start':
      return c.info.starts[i]! > 0
    case 'tagged':
      return c.info.tagged[i]! > 0
    case 'test':
      return c.info.role[i] === test
    case 'written':
      return marked.written[i]! > 0
    case 'plan':
      return marked.planned[i]! > 0
    case 'read':
      return marked.read[i]! > 0
    case 'unread':
      return !marked.read[i]
  }
}

/** The marks of rows, each of folders for all below them: how many. */
export interface MarkColumns {
  starts: Int32Array
  tagged: Int32Array
  tests: Int32Array
  planned: Int32Array
  written: Int32Array
  read: Int32Array
  open: Int32Array // leads that are not decided yet
  aside: Int32Array // leads that are set aside
}

/** Sums the marks up for folders; a folder that is itself in a plan counts once
 * more. */
export function markColumns(c: Chart, marked: Marked): MarkColumns {
  const test = c.info.roles.indexOf('test')
  const own = (of: (i: number) => number) => {
    const out = new Int32Array(c.size)
    for (let i = c.size - 1; i >= 0; i--) {
      out[i]! += of(i)
      if (c.parent[i]! >= 0) out[c.parent[i]!]! += out[i]!
    }
    return out
  }
  return {
    starts: own((i) => c.info.starts[i]!),
    tagged: own((i) => c.info.tagged[i]!),
    tests: own((i) => Number(c.info.role[i] === test)),
    planned: own((i) => marked.planned[i]!),
    written: own((i) => marked.written[i]!),
    read: own((i) => (c.isFolder(i) ? 0 : marked.read[i]!)),
    open: own((i) => marked.covers.open[i]!),
    aside: own((i) => marked.covers.aside[i]!),
  }
}
