import type { Schemas } from '@/api/client'
import type { Chart } from './chart'
import type { Line } from './layout'

/** What ties a line to the selection, in numbers of files. */
export interface Tie {
  leans: number // files on this line that the selection leans on
  used: number // files on this line that lean on the selection
  circle: number // files on this line that stand in a circle with it
}

export interface TiesByRow {
  of: (line: Line) => Tie | null
  leans: number
  used: number
  circle: number
}

/** Sums the ties up for folders. A folder that is open shows none: the lines
 * below it do. */
export function tiesByRow(c: Chart, info: Schemas['TiesInfo']): TiesByRow {
  const leans = new Int32Array(c.size)
  const used = new Int32Array(c.size)
  const circle = new Int32Array(c.size)
  const add = (list: Int32Array, row: number) => {
    for (let r = row; r >= 0; r = c.parent[r]!) list[r]!++
  }
  info.rows.forEach((row, i) => {
    if (info.leans_on[i]) add(leans, row)
    if (info.used_by[i]) add(used, row)
  })
  for (const row of info.cycle) add(circle, row)
  const sum = (list: Int32Array, l: Line) => (l.rows ?? [l.row]).reduce((n, r) => n + list[r]!, 0)
  return {
    of: (l) => {
      if (l.open) return null
      const t = { leans: sum(leans, l), used: sum(used, l), circle: sum(circle, l) }
      return t.leans || t.used || t.circle ? t : null
    },
    leans: info.leans_on.filter(Boolean).length,
    used: info.used_by.filter(Boolean).length,
    circle: info.cycle.length,
  }
}

/** The folders around tied files, those with most of them first. */
export function tiedFolders(c: Chart, info: Schemas['TiesInfo'], which: 'leans_on' | 'used_by'): { path: string; files: number }[] {
  const counts = new Map<number, number>()
  info.rows.forEach((row, i) => {
    if (info[which][i]) counts.set(c.parent[row]!, (counts.get(c.parent[row]!) ?? 0) + 1)
  })
  return [...counts].sort((a, b) => b[1] - a[1] || a[0] - b[0]).map(([row, files]) => ({ path: row < 0 ? '' : c.path(row), files }))
}
