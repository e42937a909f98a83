import { describe, expect, it } from 'vitest'
import { foldedRegions, linesOf, note, openRegions, opening, parseBudget, revealing, shownLines, type Skim } from './skim'

// a file of 30 lines: imports 1-4, a function 6-20 with a run 8-12 and a block 13-19, a function 22-30
const skim: Skim = {
  commit: 'c',
  path: 'a.go',
  total: 30,
  reason: '',
  kinds: ['whole', 'imports', 'symbol', 'run', 'block', 'symbol'],
  starts: [1, 1, 6, 8, 13, 22],
  ends: [30, 4, 20, 12, 19, 30],
  tells: [0, 0, 7, 8, 13, 22],
  parents: [-1, 0, 0, 2, 2, 0],
  labels: ['', '3 imports: a, b, c', 'F does.', '', '', ''],
  worth: [1, 0.1, 0.9, 0.8, 0.7, 0.5],
  whys: [[], [], [], [], [], []],
  own: [2, 4, 3, 5, 7, 9],
  order: [2, 3, 4, 5, 1],
}
const at = (budget: number | null, byHand?: Map<number, boolean>) => openRegions(skim, budget, byHand)

describe('a budget', () => {
  it('opens the longest run of the order that fits', () => {
    // folded: 2 own lines and three regions; then 4, 4, 6, 8 and 3 more
    for (const [budget, lines] of [
      [1, 5],
      [8, 5],
      [9, 9],
      [13, 13],
      [18, 13],
      [19, 19],
      [27, 27],
      [29, 27],
      [30, 30],
    ]) {
      const folded = foldedRegions(skim, at(budget!))
      expect(shownLines(skim, folded), `budget ${budget}`).toBe(lines)
    }
    expect(shownLines(skim, foldedRegions(skim, at(null)))).toBe(30)
  })
  it('leaves what was opened and folded by hand', () => {
    expect(foldedRegions(skim, at(1, new Map([[5, true]])))).toEqual([1, 2])
    expect(foldedRegions(skim, at(null, new Map([[2, false]])))).toEqual([2])
    expect(foldedRegions(skim, at(13, new Map([[2, false]])))).toEqual([1, 2, 5])
    expect(at(5, new Map([[99, true]]))).toHaveLength(6)
  })
  it('is named or a number', () => {
    expect(['gist', 'whole', '40', '0', '-3', 'x', undefined, '9999999'].map(parseBudget)).toEqual([
      'gist',
      'whole',
      40,
      null,
      null,
      null,
      null,
      null,
    ])
    expect(linesOf('half', 31, 20)).toBe(16)
    expect(linesOf('screen', 29, 20)).toBeNull()
    expect(linesOf('screen', 31, 20)).toBe(20)
    expect(linesOf('whole', 31, 20)).toBeNull()
    expect(linesOf(40, 31, 20)).toBeNull()
    expect(linesOf(7, 31, 20)).toBe(7)
  })
})

describe('lines that are gone to', () => {
  it('are revealed, with all around them', () => {
    expect(revealing(skim, at(1), 10, 10)).toEqual([2, 3])
    expect(revealing(skim, at(1), 7, 20)).toEqual([2, 3, 4])
    expect(revealing(skim, at(1), 7, 7)).toEqual([]) // the fold shows that line
    expect(revealing(skim, at(1), 5, 5)).toEqual([])
    expect(revealing(skim, at(null), 10, 10)).toEqual([])
  })
})

it('a fold tells what it hides', () => {
  expect(note(skim, 1, [])).toBe('3 imports: a, b, c · 4 lines')
  expect(note(skim, 2, ['◇', '◇', '▬'])).toBe('15 lines: F does. · ◇ ▬')
  expect(note(skim, 3, [])).toBe('5 lines')
})

it('a click opens a region with all inside it', () => {
  expect(opening(skim, 2)).toEqual([2, 3, 4])
  expect(opening({ ...skim, kinds: ['whole', 'imports', 'group', 'run', 'block', 'symbol'] }, 2)).toEqual([2])
})
