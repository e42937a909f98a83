import { describe, expect, it } from 'vitest'
import { rowsOf } from './rows'
import { toggled } from '@/listing/address'
import { behindWord, queryOf, say } from './tagged'

describe('rows of groups', () => {
  const groups = [
    { value: 'a', count: 3 },
    { value: 'b', count: 2 },
    { value: 'c', count: 1 },
  ]
  const drawn = (closed: string[]) => {
    const rows = rowsOf(groups, new Set(closed))
    return Array.from({ length: rows.total }, (_, n) => {
      const r = rows.at(n)
      return r.kind === 'head' ? r.group.value + (r.open ? '' : '+') : r.n
    })
  }
  it('stand under their heads', () => {
    expect(drawn([])).toEqual(['a', 0, 1, 2, 'b', 3, 4, 'c', 5])
    expect(drawn(['a', 'c'])).toEqual(['a+', 'b', 3, 4, 'c+'])
    expect(rowsOf([], new Set()).total).toBe(0)
  })
  it('are found again by their items', () => {
    const rows = rowsOf(groups, new Set(['b']))
    expect([0, 2, 3, 4, 5].map((n) => rows.rowOf(n))).toEqual([1, 3, -1, -1, 6])
  })
  it('cost nothing for a million', () => {
    const rows = rowsOf([{ value: 'x', count: 1_000_000 }], new Set())
    expect([rows.total, rows.at(1_000_000)]).toEqual([1_000_001, { kind: 'item', n: 999_999 }])
  })
})

describe('the address', () => {
  it('is read and written', () => {
    expect(queryOf({ word: 'TODO', person: ['', 'Kip'], by: 'age', text: 'x', other: '1', all: null })).toEqual({
      ...{ word: ['TODO'], person: ['', 'Kip'], by: 'age', text: 'x', all: true },
    })
    expect(queryOf({ by: 'nonsense' })).toEqual({})
    expect(toggled({ by: 'age' }, 'word', 'TODO')).toEqual({ by: 'age', word: ['TODO'] })
    expect(toggled({ by: 'age', word: ['TODO', 'BUG'] }, 'word', 'TODO')).toEqual({ by: 'age', word: ['BUG'] })
    expect(toggled({ by: 'age', word: 'TODO' }, 'word', 'TODO')).toEqual({ by: 'age' })
  })
  it('is told in words', () => {
    expect([
      say('age', 'older'),
      say('state', 'aside'),
      say('folder', '.'),
      say('folder', 'a/b'),
      say('owner', '(none)'),
      say('word', 'TODO'),
    ]).toEqual([...['over four years', 'set aside', 'the root folder', 'a/b/', 'nobody named', 'TODO']])
  })
  it.each([
    ['TODO: mend', 'TODO', 'mend'],
    ['TODO(kip): mend', 'TODO', '(kip): mend'],
    ['Deprecated: use Open.', 'DEPRECATED', 'Deprecated: use Open.'],
    ['TODO', 'TODO', ''],
  ])('%s behind its word', (said, word, want) => expect(behindWord({ said, word })).toBe(want))
})
