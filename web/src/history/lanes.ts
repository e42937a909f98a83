/** The lanes of the log: the trunk stands at the right, beside the words, and
 * side lines to its left. */
export const laneWidth = 13
export const rowHeight = 30
/** Lanes further out than these are counted, not drawn. */
export const mostLanes = 12

export interface LaneRow {
  lane: number
  trunk: boolean
  above: readonly number[]
  below: readonly number[]
  past: readonly number[]
  cut_off: boolean
}

/** How many lanes some rows need, and the room they take in pixels. */
export function widthOf(rows: readonly LaneRow[]): number {
  let most = 0
  for (const r of rows) most = Math.max(most, r.lane, ...r.above, ...r.below, ...r.past)
  return (Math.min(most, mostLanes - 1) + 1) * laneWidth + 8
}

export interface Drawing {
  trunk: string // a path
  sides: string
  x: number
  hidden: number // lines that are too far out
}

/** The lines of one row, in a field as wide as given. */
export function draw(row: LaneRow, width: number): Drawing {
  const x = (lane: number) => width - 9 - Math.min(lane, mostLanes - 1) * laneWidth
  const mid = rowHeight / 2
  const at = x(row.lane)
  let trunk = ''
  let sides = ''
  let hidden = 0
  const add = (lane: number, path: string, isTrunk: boolean) => {
    if (lane >= mostLanes) hidden++
    else if (isTrunk) trunk += path
    else sides += path
  }
  for (const l of row.past) add(l, `M${x(l)} 0V${rowHeight}`, l === 0)
  for (const l of row.above)
    add(l, l === row.lane ? `M${at} 0V${mid}` : `M${x(l)} 0Q${x(l)} ${mid} ${at} ${mid}`, l === 0 && row.trunk && row.lane === 0)
  for (const l of row.below)
    add(l, l === row.lane ? `M${at} ${mid}V${rowHeight}` : `M${at} ${mid}Q${x(l)} ${mid} ${x(l)} ${rowHeight}`, l === 0 && row.trunk)
  return { trunk, sides, x: at, hidden }
}
