/** A range of lines, from 1, both ends included. */
export interface Range {
  start: number
  end: number
}

/** Reads "45", "45-49" or "49-45"; null for anything else. */
export function parseRange(text: unknown): Range | null {
  const m = typeof text === 'string' ? /^(\d{1,9})(?:-(\d{1,9}))?$/.exec(text) : null
  if (!m) return null
  const a = Number(m[1])
  const b = m[2] === undefined ? a : Number(m[2])
  if (a < 1 || b < 1) return null
  return { start: Math.min(a, b), end: Math.max(a, b) }
}

export function writeRange(r: Range): string {
  return r.start === r.end ? String(r.start) : `${r.start}-${r.end}`
}

/** Where the next click takes a selection: plain starts anew (or clears it when
 * it was just this line), extended stretches from the anchor. */
export function select(now: Range | null, anchor: number, line: number, extend: boolean): Range | null {
  if (extend && now) return { start: Math.min(anchor, line), end: Math.max(anchor, line) }
  if (now && now.start === line && now.end === line) return null
  return { start: line, end: line }
}
