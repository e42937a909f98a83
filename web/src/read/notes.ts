import type { Schemas } from '@/api/client'
import type { ThreadInfo } from '@/notes'
import { age, lineSpan, short } from '@/words/format'
import { withoutWord } from '@/words/tagged'
import { kindWords } from '@/plans/model'
import type { LineMark } from './pane/folds'

/** Something that stands in the margin beside a line. */
export interface MarginNote {
  key: string
  line: number
  end: number
  kind: 'planned' | 'tagged' | 'starts' | 'written'
  head: string
  text: string
  caution?: string // a writer's warning
  aside: string // in a quieter voice
  plan?: { id: number; passage: string }
  thread?: ThreadInfo
  lead?: { id: string; state: Schemas['TaggedInfo']['state']; reason: string }
}

/** How many notes of one file the margin shows. */
export const mostNotes = 400

/** What a passage says beside a file: a note at each stretch of it that is read. */
function notesOfPassage(p: Schemas['PassageHere']): MarginNote[] {
  const { passage } = p
  const { kind, commit, symbol } = passage.target
  const note = (i: number, line: number, end: number, what: string): MarginNote => ({
    key: `p${p.plan}.${passage.id}.${i}`,
    line,
    end,
    kind: 'planned',
    head: [`Passage ${p.number}`, what, kind === 'lines' || kind === 'file' ? '' : kindWords[kind], `${passage.minutes} min`]
      .filter(Boolean)
      .join(' · '),
    text: passage.purpose || passage.title,
    caution: passage.caution,
    aside: p.title,
    plan: { id: p.plan, passage: passage.id },
  })
  if (!p.places.length) return [note(0, 1, 1, `read at commit ${short(commit)}`)]
  return p.places.map(({ start, end }, i) => {
    if (!start) return note(i, 1, 1, 'the whole file')
    const lines = `${start === end ? 'line' : 'lines'} ${lineSpan(start, end)}`
    return note(i, start, end, kind === 'symbol' ? `${symbol}, ${lines}` : lines)
  })
}

/** What plans and the survey say of lines of a file, in the order of lines. */
export function notesOf(
  passages: readonly Schemas['PassageHere'][],
  tagged: readonly Schemas['TaggedInfo'][],
  starts: readonly Schemas['LeadInfo'][],
  pinnedAt?: string | null,
  threads: readonly ThreadInfo[] = [],
): MarginNote[] {
  const out: MarginNote[] = passages.flatMap(notesOfPassage)
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
      aside: 'starts here',
    })
  }
  return out.sort((a, b) => a.line - b.line || a.key.localeCompare(b.key))
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
