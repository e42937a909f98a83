import { count, many } from '@/words/format'
import type { Chart, SpanInfo } from './chart'

/** A figure of rows that a wing shows. NaN: not known, or there is none. */
export interface Measure {
  key: string
  title: string
  /** What it is, in a sentence, with its unit. */
  doc: string
  /** How a value is written out. */
  write: (value: number) => string
  /** How a folder's value comes about where sums are asked for. */
  whole: 'sum' | 'max' | 'min' | 'people'
  /** Where that is no sum: what it is, in words for the legend. */
  wholeDoc: string
}

export interface IsMeasure extends Measure {
  column: (c: Chart) => ArrayLike<number>
  /** What the column's numbers are multiplied by. */
  unit: number
}

/** What the code is: the left wing. Below zero in a column: not known. */
export const isMeasures: IsMeasure[] = [
  {
    key: 'lines',
    title: 'lines',
    doc: 'Lines of text, blank ones and comments included.',
    column: (c) => c.info.lines,
    unit: 1,
    write: count,
    whole: 'sum',
    wholeDoc: '',
  },
  {
    key: 'code',
    title: 'code',
    doc: 'Lines that hold code: neither blank nor comment alone.',
    column: (c) => c.info.code,
    unit: 1,
    write: count,
    whole: 'sum',
    wholeDoc: '',
  },
  {
    key: 'symbols',
    title: 'symbols',
    doc: 'Named things that the outline holds.',
    column: (c) => c.info.symbols,
    unit: 1,
    write: count,
    whole: 'sum',
    wholeDoc: '',
  },
  {
    key: 'dependents',
    title: 'dependents',
    doc: 'Files of this repository that import it.',
    column: (c) => c.info.dependents,
    unit: 1,
    write: count,
    whole: 'sum',
    wholeDoc: '',
  },
  {
    key: 'centrality',
    title: 'centrality',
    doc: 'How often you come by when you follow imports at random, in thousandths.',
    column: (c) => c.info.centrality,
    unit: 1e-3,
    write: (v) => `${v < 10 ? v.toFixed(1) : Math.round(v)}‰`,
    whole: 'sum',
    wholeDoc: '',
  },
  {
    key: 'intricacy',
    title: 'intricacy',
    doc: 'Decisions in the code, one more for each that they stand in.',
    column: (c) => c.info.intricacy,
    unit: 1,
    write: count,
    whole: 'sum',
    wholeDoc: '',
  },
]

export interface HappenedMeasure extends Measure {
  /** The values of all rows; of folders only where whole is 'people'. */
  values: (s: SpanInfo, end: number) => Float64Array
  /** Whether a span's value is a part of the whole history's. */
  part: boolean
}

const day = 86_400

const days = (v: number) =>
  v < 60 ? many(Math.round(v), 'day') : v < 730 ? many(Math.round(v / 30.44), 'month') : many(Math.round(v / 365.25), 'year')

const column = (list: ArrayLike<number>, of: (v: number) => number) => Float64Array.from(list, of)

/** What happened to it: the right wing. Ages count to the end of the span. */
export const happenedMeasures: HappenedMeasure[] = [
  {
    key: 'changes',
    title: 'changes',
    doc: 'Commits that changed it, merges aside.',
    values: (s) => column(s.changes, Number),
    part: true,
    write: count,
    whole: 'sum',
    wholeDoc: '',
  },
  {
    key: 'recent',
    title: 'recent',
    doc: 'Changes, each counting half once it is a half-life old.',
    values: (s) => column(s.recent, (v) => v / 100),
    part: true,
    write: (v) => (v < 10 ? v.toFixed(1) : count(Math.round(v))),
    whole: 'sum',
    wholeDoc: '',
  },
  {
    key: 'people',
    title: 'people',
    doc: 'People who changed it.',
    values: (s) => column(s.people, (v) => (v < 0 ? NaN : v)),
    part: true,
    write: (v) => many(v, 'person', 'people'),
    whole: 'people',
    wholeDoc: 'everybody who changed anything in it, each once',
  },
  {
    key: 'churn',
    title: 'churn',
    doc: 'Lines added and deleted.',
    values: (s) => column(s.churn, (v) => (v < 0 ? NaN : v)),
    part: true,
    write: count,
    whole: 'sum',
    wholeDoc: '',
  },
  {
    key: 'age',
    title: 'age',
    doc: 'Time since its first change.',
    values: (s, end) => column(s.first, (v) => (v ? Math.max(0, end - v) / day : NaN)),
    part: false,
    write: days,
    whole: 'max',
    wholeDoc: 'its oldest file',
  },
  {
    key: 'still',
    title: 'still for',
    doc: 'Time since its last change.',
    values: (s, end) => column(s.last, (v) => (v ? Math.max(0, end - v) / day : NaN)),
    part: false,
    write: days,
    whole: 'min',
    wholeDoc: 'since the last change of any of its files',
  },
]

export type Aggregate = 'sum' | 'max' | 'median'

/** Fills in the folders' values from those of their files. Files that keep
 * leaves out do not count; a folder without a known file has none. people holds
 * the folders' own values where a sum would count people twice. */
export function aggregate(c: Chart, files: Float64Array, how: Aggregate, whole: Measure['whole'], keep: Uint8Array | null): Float64Array {
  const out = Float64Array.from(files)
  if (how === 'median') return medians(c, out, keep)
  const mode = how === 'sum' ? whole : 'max'
  if (mode === 'people' && !keep) return out
  for (let i = 0; i < c.size; i++) if (c.isFolder(i)) out[i] = NaN
  for (let i = c.size - 1; i >= 0; i--) {
    const up = c.parent[i]!
    const v = out[i]!
    if (up < 0 || Number.isNaN(v) || (keep && !keep[i])) continue
    const has = out[up]!
    if (Number.isNaN(has)) out[up] = v
    else if (mode === 'sum') out[up] = has + v
    else if (mode === 'min') out[up] = Math.min(has, v)
    else out[up] = Math.max(has, v)
  }
  return out
}

function medians(c: Chart, out: Float64Array, keep: Uint8Array | null): Float64Array {
  for (let i = 0; i < c.size; i++) {
    if (!c.isFolder(i)) continue
    const list: number[] = []
    for (let k = i + 1; k < c.end(i); k++) {
      if (!c.isFolder(k) && !Number.isNaN(out[k]!) && (!keep || keep[k])) list.push(out[k]!)
    }
    list.sort((a, b) => a - b)
    const mid = list.length >> 1
    out[i] = list.length ? (list.length % 2 ? list[mid]! : (list[mid - 1]! + list[mid]!) / 2) : NaN
  }
  return out
}

/** The values of a column of what the code is, by row. */
export function isValues(c: Chart, m: IsMeasure): Float64Array {
  const from = m.column(c)
  const out = new Float64Array(c.size)
  for (let i = 0; i < c.size; i++) out[i] = from[i]! < 0 || c.isFolder(i) ? NaN : from[i]! * m.unit
  return out
}
