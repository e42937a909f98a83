import { describe, expect, it, test } from 'vitest'
import { carry, merge } from './merge'

const base = 'The gauge sleeps.\n\nIt wakes at noon and sends.\n'

describe('merge', () => {
  it.each([
    ['one alone', base, base.replace('noon', 'dawn'), base, 'It wakes at dawn and sends.\n'],
    [
      'different lines',
      base,
      base.replace('sleeps', 'rests'),
      base.replace('noon', 'dawn'),
      'The gauge rests.\n\nIt wakes at dawn and sends.\n',
    ],
    ['different words of a line', base, base.replace('noon', 'dawn'), base.replace('sends', 'reports'), 'It wakes at dawn and reports.\n'],
    ['words that touch', 'a b c', 'A b c', 'a B c', 'A B c'],
    ['the same change', base, base.replace('noon', 'dawn'), base.replace('noon', 'dawn'), 'It wakes at dawn and sends.\n'],
    ['from nothing', '', 'b', '', 'b'],
    ['both put something in at the end', 'a.\n', 'a.\nmine\n', 'a.\ntheirs\n', 'a.\ntheirs\nmine\n'],
    ['both begin an empty text', '', 'mine', 'theirs', 'theirs\nmine'],
    ['one is how the other began', '', 'The gau', 'The gauge sleeps', 'The gauge sleeps'],
  ])('%s, without a question', (_, from, mine, theirs, has) => {
    const m = merge(from, mine, theirs)
    expect(m.text).toContain(has)
    expect(m.clashes).toEqual([])
  })

  it.each([
    ['the same word', base, base.replace('noon', 'dawn'), base.replace('noon', 'dusk'), 'dawn ', 'dusk '],
    ['a word alone', 'a', 'b', 'c', 'b', 'c'],
    ['taken away by them', base, base.replace('noon', 'dusk'), 'The gauge sleeps.\n', '\nIt wakes at dusk and sends.\n', ''],
    ['a stretch and a word in it', 'a b c d', 'a X d', 'a b Y d', 'X ', 'b Y '],
  ])('%s is asked about', (_, from, mine, theirs, mineSays, theirsSays) => {
    const m = merge(from, mine, theirs)
    expect(m.clashes.map((c) => [c.mine, c.theirs])).toEqual([[mineSays, theirsSays]])
    const [c] = m.clashes
    expect(m.text.slice(c!.at, c!.at + theirsSays.length)).toBe(theirsSays)
  })

  test('only the place that both changed is asked about', () => {
    const m = merge(
      base,
      base.replace('gauge', 'old gauge').replace('noon', 'dawn'),
      base.replace('noon', 'dusk').replace('sends', 'reports'),
    )
    expect(m.text).toBe('The old gauge sleeps.\n\nIt wakes at dusk and reports.\n')
    expect(m.clashes).toHaveLength(1)
  })

  // every word of either side is in the result or in a clash, at random
  test('no word is lost', () => {
    let seed = 7
    const random = (n: number) => (seed = (seed * 48271) % 2147483647) % n
    const word = () => 'abcdefgh'[random(8)]! + random(50)
    for (let round = 0; round < 500; round++) {
      const from = Array.from({ length: 12 }, word)
      const side = (mark: string) => {
        const out = [...from]
        for (let k = random(4); k >= 0; k--)
          out.splice(random(out.length + 1), random(3), ...Array.from({ length: random(3) }, () => mark + word()))
        return out.join(random(2) ? ' ' : ' \n')
      }
      const [mine, theirs] = [side('M'), side('T')]
      const m = merge(from.join(' '), mine, theirs)
      const all = m.text + ' ' + m.clashes.map((c) => c.mine).join(' ')
      for (const w of `${mine} ${theirs}`.split(/\s+/)) if (/^[MT]/.test(w)) expect(all.split(/\s+/), `round ${round}`).toContain(w)
    }
  })
})

test.each([
  ['before the change', 'one two three', 'one 2 three', 2, 2],
  ['after it', 'one two three', 'one 2 three', 10, 8],
  ['in what was replaced', 'one two three', 'one 2 three', 6, 5],
  ['between two changes', 'a b c d e', 'aa b c d ee', 4, 5],
  ['nothing changed', 'a', 'a', 1, 1],
])('an offset %s is carried', (_, before, after, offset, to) => expect(carry(offset, before, after)).toBe(to))
