import type { Schemas } from '@/api/client'
import type { ThreadInfo } from '@/notes'
import { age, lineSpan } from '@/words/format'
import { withoutWord } from '@/words/tagged'
import type { LineMark } from './pane/folds'

/** Something that stands in the margin beside a line. */
export interface MarginNote {
  key: string
  line: number
  end: number
  kind: 'planned' | 'tagged' | 'starts' | 'written'
  head: string
  text: string
  aside: string // in a quieter voice
  plan?: { id: number; passage: string }
  thread?: ThreadInfo
  lead?: { id: string; state: Schemas['TaggedInfo']['state']; reason: string }
}

/** How many notes of one file the margin shows. */
export const mostNotes = 400

/** What plans and the survey say of lines of a file, in the order of lines. */
export function notesOf(
  passages: readonly Schemas['PassageHere'][],
  tagged: readonly Schemas['TaggedInfo'][],
  starts: readonly Schemas['LeadInfo'][],
  pinnedAt?: string | null,
  threads: readonly ThreadInfo[] = [],
): MarginNote[] {
  const out: MarginNote[] = passages
    .filter((p) => p.passage.target.kind === 'lines')
    .map((p) => {
      const { start = 1, end = start } = p.passage.target
      return {
        key: `p${p.plan}.${p.passage.id}`,
        line: start,
        end,
        kind: 'planned',
        head: `Passage ${p.number} · ${start === end ? 'line' : 'lines'} ${start === end ? start : `${start}-${end}`} · ${p.passage.minutes} min`,
        text: p.passage.purpose || p.passage.title,
        aside: p.title,
        plan: { id: p.plan, passage: p.passage.id },
      }
    })
  for (const [i, t] of tagged.entries()) {
    const wrote = [t.person, t.born_at && pinnedAt ? age(t.born_at, pinnedAt) : ''].filter(Boolean).join(', ')
    out.push({
      key: `t${t.line}.${i}`,
      line: t.line,
      end: t.line,
      kind: 'tagged',
      head: `◇ ${t.word}`,
      text: withoutWord(t),
      aside: [t.meaning && `“${t.meaning}”`, wrote].filter(Boolean).join(' · '),
      lead: t.lead ? { id: t.lead, state: t.state, reason: t.reason } : undefined,
    })
  }
  for (const t of threads) {
    const line = t.placed.start || 1
    const whole =
      t.target.kind === 'symbol'
        ? `on ${t.target.symbol}`
        : t.placed.start
          ? `${line === t.placed.end ? 'line' : 'lines'} ${lineSpan(line, t.placed.end)}`
          : 'on the file'
    const changed = t.placed.what === 'changed' ? 'the code has been changed since' : ''
    out.push({
      key: `n${t.id}`,
      line,
      end: t.placed.end || line,
      kind: 'written',
      head: `✱ ${whole}`,
      text: t.text,
      aside: changed,
      thread: t,
    })
  }
  for (const l of starts) {
    if (!l.line) continue
    out.push({
      key: `s${l.id}`,
      line: l.line,
      end: l.line,
      kind: 'starts',
      head: `◗ ${l.title}`,
      text: l.why,
      aside: 'control comes in here',
    })
  }
  return out.sort((a, b) => a.line - b.line || a.key.localeCompare(b.key)).slice(0, mostNotes)
}

/** The marks beside the lines of a file. */
export function marksOf(notes: readonly MarginNote[]): Map<number, LineMark[]> {
  const glyphs = { planned: '▬', tagged: '◇', starts: '◗', written: '✱' }
  const out = new Map<number, LineMark[]>()
  for (const n of notes) {
    const mark = { glyph: glyphs[n.kind], title: `${n.head}\n${n.text.slice(0, 200)}`, kind: n.kind }
    out.set(n.line, [...(out.get(n.line) ?? []), mark])
  }
  return out
}

/** Where notes stand that would stand at their lines, if they had room there:
 * in their order, none over another. */
export function placed(wanted: readonly number[], heights: readonly number[], gap: number, from: number): number[] {
  let free = from
  return wanted.map((top, i) => {
    const at = Math.max(top, free)
    free = at + (heights[i] ?? 0) + gap
    return at
  })
}
