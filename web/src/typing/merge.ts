import { diff3Merge, diffIndices } from 'node-diff3'

/** A place where two people wrote different words over the same ones. */
export interface Clash {
  /** Where `theirs` begins in the merged text, in UTF-16 units. */
  at: number
  mine: string
  theirs: string
}

/** A text with a clash decided. Where theirs was changed since, mine is put before it. */
export function answered(text: string, c: Clash, chosen: 'mine' | 'theirs' | 'both'): string {
  if (chosen === 'theirs') return text
  const [before, after] = [text.slice(0, c.at), text.slice(c.at)]
  const there = after.startsWith(c.theirs)
  const rest = there ? after.slice(c.theirs.length) : after
  if (chosen === 'mine' || !there) return before + c.mine + rest
  return before + c.theirs + (!c.theirs || /\s$/.test(c.theirs) ? '' : ' ') + c.mine + rest
}

/** Two changes of one text in one. Where both changed the same words it holds
 * theirs, and `clashes` holds mine. */
export interface Merged {
  text: string
  clashes: Clash[]
}

const linesOf = (s: string) => s.split(/(?<=\n)/).filter(Boolean)
const wordsOf = (s: string) => s.split(/(?<=\s)(?=\S)/).filter(Boolean)

/** A stretch of the base that one side replaced. */
interface Change {
  start: number
  end: number // after the last; equal to start where something is only put in
  to: string
}

function changes(base: string[], side: string[]): Change[] {
  return diffIndices(base, side).map((d) => ({
    start: d.buffer1[0],
    end: d.buffer1[0] + d.buffer1[1],
    to: d.buffer2Content.join(''),
  }))
}

/** Two insertions at one place: both stay, unless one is how the other began. */
function joined(theirs: string, mine: string): string {
  if (theirs.startsWith(mine.trimEnd())) return theirs
  if (mine.startsWith(theirs.trimEnd())) return mine
  return /\s$/.test(theirs) ? theirs + mine : `${theirs}\n${mine}`
}

/** Merges word by word. Changes that only touch each other are no clash. */
function mergeWords(base: string[], mine: Change[], theirs: Change[], into: Merged) {
  let at = 0
  const copy = (to: number) => {
    into.text += base.slice(at, to).join('')
    at = Math.max(at, to)
  }
  let [i, j] = [0, 0]
  while (i < mine.length || j < theirs.length) {
    const [a, b] = [mine[i], theirs[j]]
    const inserted = a && b && a.start === b.start && a.start === a.end && b.start === b.end
    if (inserted) {
      copy(a.start)
      into.text += joined(b.to, a.to)
      i++
      j++
    } else if (!b || (a && a.end <= b.start)) {
      copy(a!.start)
      into.text += a!.to
      at = a!.end
      i++
    } else if (!a || b.end <= a.start) {
      copy(b.start)
      into.text += b.to
      at = b.end
      j++
    } else {
      // all changes of either side that overlap, directly or through each other
      const start = Math.min(a.start, b.start)
      let end = Math.max(a.end, b.end)
      const [i0, j0] = [i, j]
      for (let grown = true; grown;) {
        grown = false
        for (; i < mine.length && (mine[i]!.start < end || i === i0); i++, grown = true) end = Math.max(end, mine[i]!.end)
        for (; j < theirs.length && (theirs[j]!.start < end || j === j0); j++, grown = true) end = Math.max(end, theirs[j]!.end)
      }
      copy(start)
      const side = (list: Change[]) => {
        let [text, from] = ['', start]
        for (const c of list) {
          text += base.slice(from, c.start).join('') + c.to
          from = c.end
        }
        return text + base.slice(from, end).join('')
      }
      const [m, t] = [side(mine.slice(i0, i)), side(theirs.slice(j0, j))]
      if (m !== t) into.clashes.push({ at: into.text.length, mine: m, theirs: t })
      into.text += t
      at = end
    }
  }
  copy(base.length)
}

/** Merges what two people made of one text: by lines, and by words where both
 * changed the same lines. */
export function merge(base: string, mine: string, theirs: string): Merged {
  const out: Merged = { text: '', clashes: [] }
  for (const part of diff3Merge(linesOf(mine), linesOf(base), linesOf(theirs))) {
    if (part.ok) {
      out.text += part.ok.join('')
      continue
    }
    const o = wordsOf(part.conflict!.o.join(''))
    const side = (lines: string[]) => changes(o, wordsOf(lines.join('')))
    mergeWords(o, side(part.conflict!.a), side(part.conflict!.b), out)
  }
  return out
}

/** Where an offset of a text is once the text was changed. Inside of what was
 * replaced it goes to the end of the replacement. */
export function carry(offset: number, before: string, after: string): number {
  if (before === after) return offset
  let head = 0
  while (head < before.length && before[head] === after[head]) head++
  let tail = 0
  while (tail < before.length - head && tail < after.length - head && before.at(-1 - tail) === after.at(-1 - tail)) tail++
  const [words, changed] = [before.slice(head, before.length - tail), after.slice(head, after.length - tail)]
  if (offset <= head) return offset
  if (offset >= before.length - tail) return offset + after.length - before.length
  const b = wordsOf(words)
  const list = changes(b, wordsOf(changed))
  let [at, k, to, moved] = [0, 0, 0, 0]
  for (const c of list) {
    for (; k < c.start; k++) at += b[k]!.length
    if (head + at >= offset) break
    const from = at
    for (; k < c.end; k++) at += b[k]!.length
    if (head + at > offset) {
      to = head + from + moved + c.to.length
      return to
    }
    moved += c.to.length - (at - from)
  }
  return offset + moved
}
