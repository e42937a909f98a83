import { lineSpan } from '@/words/format'
import type { Candidate } from './adding'
import { kindWords, setPassage, steps, where } from './model'
import type { Op, Plan, Target } from './use'

/** One way in which what is selected can be read. */
export interface Reading {
  says: string
  target: Target
  /** It becomes the next hop of a way that is there, instead of a passage. */
  hop?: Op
}

/** How what is selected can be read: as it is first, then more widely, beside
 * others, or as a part of a way. */
export function readings(c: Candidate, pin: string, plan: Plan | undefined): Reading[] {
  const commit = c.commit ?? pin
  const { path, start, end } = c
  const own: Target = { kind: c.kind, path, start, end, column: c.column, commit, beside: c.beside, base: c.base }
  const out: Reading[] = []
  if (c.kind === 'file' && c.skim) out.push({ says: `the file, its ${c.skim} most telling lines first`, target: { ...own, skim: c.skim } })
  out.push({ says: c.kind === 'file' ? 'the whole file' : start ? `${kindWords[c.kind]}: ${where(own)}` : where(own), target: own })
  if (c.kind === 'lines' && start && end) {
    for (const s of [...(c.symbols ?? [])].reverse())
      if (s.start <= start && end <= s.end)
        out.push({
          says: `the ${s.kind} ${s.qualified}, ${lineSpan(s.start, s.end)}`,
          target: { kind: 'symbol', path, symbol: s.qualified, start: s.start, end: s.end, commit },
        })
    out.push({ says: 'the whole file', target: { kind: 'file', path, commit } })
  }
  if (c.kind === 'lines' || c.kind === 'file') {
    const hop = { path, start, end }
    for (const { passage, number } of plan ? steps(plan) : [])
      if (passage.target.kind === 'way')
        out.push({
          says: `the next hop of the way in ${number}, “${passage.title}”`,
          target: own,
          hop: setPassage(passage, 'target', { ...passage.target, hops: [...(passage.target.hops ?? []), hop] }),
        })
    out.push({ says: 'the first hop of a new way', target: { kind: 'way', path: '', commit, hops: [hop] } })
    const planned = path.replace(/(\.[^./]*)?$/, '_new$1')
    out.push({ says: 'the pattern for a file that is not there yet', target: { kind: 'planned', path: planned, pattern: path, commit } })
  }
  return out
}
