import type { Hit } from './pane/lines'

/** How many hits in one file are looked for. */
export const mostHits = 20_000

/** Where a text holds what was typed; letter case counts only where a capital
 * was typed. more: there are others. */
export function hitsIn(text: string, typed: string): { hits: Hit[]; more: boolean } {
  const hits: Hit[] = []
  if (!typed) return { hits, more: false }
  const exact = typed !== typed.toLowerCase()
  // lower case may be of another length: then only the text as it is can be told apart
  const lower = text.toLowerCase()
  const hay = exact || lower.length !== text.length ? text : lower
  for (let at = hay.indexOf(typed); at >= 0; at = hay.indexOf(typed, at + typed.length)) {
    if (hits.length === mostHits) return { hits, more: true }
    hits.push({ from: at, to: at + typed.length })
  }
  return { hits, more: false }
}

/** The first hit at or behind a position; the first of all where there is none. */
export function hitFrom(hits: readonly Hit[], at: number): number {
  const i = hits.findIndex((h) => h.from >= at)
  return i >= 0 ? i : hits.length ? 0 : -1
}
