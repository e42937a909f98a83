import type { Chart, SpanInfo } from './chart'
import type { Line } from './layout'
import { happenedMeasures, isMeasures } from './measures'
import type { Picture } from './picture'

/** The exact figures of one line, in words. */
export function figures(c: Chart, p: Picture, line: Line, told: SpanInfo | null, end: number): string {
  const r = line.row
  if (line.rows) {
    const parent = c.parent[r]!
    return `${line.rows.length} more in ${parent < 0 ? 'the root' : `${c.path(parent)}/`}: Enter or a click shows them`
  }
  const parts = [c.path(r) + (c.isFolder(r) ? '/' : '')]
  const add = (title: string, write: (v: number) => string, v: number) => {
    if (!Number.isNaN(v)) parts.push(write(v).endsWith(title) ? write(v) : `${title} ${write(v)}`)
  }
  if (c.isFolder(r)) {
    add(p.leftMeasure.title, p.leftMeasure.write, p.left[r]!)
    add(p.rightMeasure.title, p.rightMeasure.write, p.right[r]!)
  } else {
    for (const m of isMeasures) {
      const v = m.column(c)[r]!
      add(m.title, m.write, v < 0 ? NaN : v * m.unit)
    }
    const one = told && alone(told, r)
    if (one) for (const m of happenedMeasures) add(m.title, m.write, m.values(one, end)[0]!)
  }
  if (p.rank && !Number.isNaN(p.rank[r]!))
    parts.push(`ranks ${Math.abs(Math.round(p.rank[r]! * 100))} % ${p.rank[r]! > 0 ? 'higher' : 'lower'} on the left`)
  return parts.join(' · ')
}

/** What happened to one row, as columns of one item. */
function alone(s: SpanInfo, r: number): SpanInfo {
  const { changes, churn, people, recent, first, last } = s
  return {
    ...s,
    changes: [changes[r]!],
    churn: [churn[r]!],
    people: [people[r]!],
    recent: [recent[r]!],
    first: [first[r]!],
    last: [last[r]!],
  }
}
