import { diff3Merge } from 'node-diff3'

/** Two changes of one text put together. */
export interface Merged {
  text: string
  /** How many places both changed in different ways: there both are kept, mine first. */
  both: number
}

const lines = (s: string) => s.split(/(?<=\n)/)
const pieces = (s: string) => s.split(/(?<=\s)(?=\S)/)

/** Puts together what two people made of one text, by lines, and by words where
 * both changed the same lines. */
export function merge(base: string, mine: string, theirs: string): Merged {
  let both = 0
  let text = ''
  for (const part of diff3Merge(lines(mine), lines(base), lines(theirs))) {
    if (part.ok) {
      text += part.ok.join('')
      continue
    }
    const [a, o, b] = [part.conflict!.a.join(''), part.conflict!.o.join(''), part.conflict!.b.join('')]
    const finer = diff3Merge(pieces(a), pieces(o), pieces(b))
    if (finer.every((p) => p.ok)) {
      text += finer.map((p) => p.ok!.join('')).join('')
      continue
    }
    both++
    text += a && b && !a.endsWith('\n') ? `${a}\n${b}` : a + b
  }
  return { text, both }
}
