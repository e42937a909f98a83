import { scaleLinear, scaleSqrt, scaleSymlog } from 'd3-scale'
import type { ScaleName, State } from './address'
import { details } from './address'
import type { Chart, SpanInfo } from './chart'
import { filesOf, mismatch, ordered } from './order'
import { isOn, kept, markColumns, type MarkColumns, type Marked } from './filter'
import { layout, worths, type Line } from './layout'
import {
  aggregate,
  happenedMeasures,
  isMeasures,
  isValues,
  type Aggregate,
  type HappenedMeasure,
  type IsMeasure,
  type Measure,
} from './measures'

/** All that is drawn, reckoned from the columns and the state of the page. */
export interface Picture {
  lines: Line[]
  files: Int32Array // that the filter lets through
  keep: Uint8Array | null
  dim: boolean // what does not fit is dimmed, not gone
  left: Float64Array
  right: Float64Array // of the span
  whole: Float64Array | null // of the whole history, where the span is a part of it
  rank: Float64Array | null // left less right, where ordered by it
  leftTop: number
  rightTop: number
  leftMeasure: IsMeasure
  rightMeasure: HappenedMeasure
  marks: MarkColumns
}

/** Draws up the picture. span is what happened in the span that was asked for;
 * end is its end in Unix seconds. */
export function picture(
  c: Chart,
  s: State,
  span: SpanInfo | null,
  end: number,
  marked: Marked,
  columns: MarkColumns = markColumns(c, marked),
): Picture {
  const leftMeasure = isMeasures.find((m) => m.key === s.left)!
  const rightMeasure = happenedMeasures.find((m) => m.key === s.right)!
  const fits = kept(c, s, marked, s.by ? (span ?? undefined) : undefined)
  const dim = s.rest === 'dim' && isOn(s)
  const keep = dim ? null : fits
  const left = aggregate(c, isValues(c, leftMeasure), s.folders, leftMeasure.whole, keep)
  const told = span ?? c.info.happened
  const none = new Float64Array(c.size).fill(NaN)
  const rightFiles = told ? rightMeasure.values(told, end) : none
  const right = aggregate(c, rightFiles, s.folders, rightMeasure.whole, keep)
  const spanned = (s.from !== '' || s.to !== '' || s.by !== '') && span !== null && c.info.happened !== null
  const whole =
    spanned && rightMeasure.part ? aggregate(c, rightMeasure.values(c.info.happened!, end), s.folders, rightMeasure.whole, keep) : null
  const files = filesOf(c, keep)
  let lines: Line[]
  let rank: Float64Array | null = null
  if (s.order === 'tree') {
    lines = layout(c, worths(c, left, right), keep, { open: new Set(s.open), shut: new Set(s.shut) }, details[s.detail])
  } else {
    lines = Array.from(ordered(s.order, files, left, right), (row) => ({ kind: 'file' as const, row, depth: 0, open: false }))
    if (s.order === 'still' || s.order === 'restless') rank = mismatch(left, right, files)
  }
  const top = (v: Float64Array, m: Measure) => {
    let most = 0
    for (const l of lines) {
      const x = l.rows ? together(v, l.rows, s.folders, m.whole) : v[l.row]!
      if (x > most) most = x
    }
    return most
  }
  return {
    lines,
    files,
    keep: fits,
    dim,
    left,
    right,
    whole,
    rank,
    leftTop: top(left, leftMeasure),
    rightTop: top(whole ?? right, rightMeasure),
    leftMeasure,
    rightMeasure,
    marks: columns,
  }
}

/** The value of several siblings told together. People who changed several of
 * them cannot be told from here: the most of any one stands in. */
export function together(v: Float64Array, rows: number[], how: Aggregate, whole: Measure['whole']): number {
  const known = rows.map((r) => v[r]!).filter((x) => !Number.isNaN(x))
  if (!known.length) return NaN
  known.sort((a, b) => a - b)
  if (how === 'median') return known[known.length >> 1]!
  if (how === 'sum' && whole === 'sum') return known.reduce((a, b) => a + b, 0)
  return how === 'sum' && whole === 'min' ? known[0]! : known[known.length - 1]!
}

/** How long a bar is, 0 to 1. */
export function bars(name: ScaleName, top: number): (v: number) => number {
  const scale = name === 'root' ? scaleSqrt() : name === 'log' ? scaleSymlog() : scaleLinear()
  scale.domain([0, top || 1]).range([0, 1])
  return (v) => (v > 0 ? Math.max(0.004, scale(v)) : 0)
}
