/** A name's place: line from 1, column in bytes of UTF-8 from 0. */
export interface NamePlace {
  line: number
  column: number
}

/** "12.8" in the address; null: no place. */
export function parseName(value: unknown): NamePlace | null {
  const m = typeof value === 'string' ? /^(\d{1,9})\.(\d{1,9})$/.exec(value) : null
  return m && Number(m[1]) > 0 ? { line: Number(m[1]), column: Number(m[2]) } : null
}
export const writeName = (p: NamePlace) => `${p.line}.${p.column}`

const bytes = new TextEncoder()
/** The column in bytes of a position in a line's text. */
export const byteColumn = (text: string, at: number) => bytes.encode(text.slice(0, at)).length

/** The position in a line's text of a column in bytes. */
export function runeColumn(text: string, column: number): number {
  let seen = 0
  let at = 0
  for (const rune of text) {
    if (seen >= column) break
    seen += bytes.encode(rune).length
    at += rune.length
  }
  return at
}

const word = /[\p{L}_$@][\p{L}\p{N}_$]*/gu

/** The names on a line, by where they begin and end in its text. */
export function namesOn(text: string): { start: number; end: number }[] {
  return [...text.matchAll(word)].map((m) => ({ start: m.index, end: m.index + m[0].length }))
}

/** The name around a position in a line's text. */
export const nameAt = (text: string, at: number) => namesOn(text).find((w) => w.start <= at && at <= w.end)
