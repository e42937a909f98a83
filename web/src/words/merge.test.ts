import { describe, expect, it } from 'vitest'
import { merge } from './merge'

describe('merge', () => {
  const base = 'The gauge sleeps.\n\nIt wakes at noon and sends.\n'
  it.each([
    ['one alone', base, base.replace('noon', 'dawn'), base, 'dawn', 0],
    [
      'different lines',
      base,
      base.replace('sleeps', 'rests'),
      base.replace('noon', 'dawn'),
      'The gauge rests.\n\nIt wakes at dawn and sends.\n',
      0,
    ],
    [
      'different words of a line',
      base,
      base.replace('noon', 'dawn'),
      base.replace('sends', 'reports'),
      'It wakes at dawn and reports.\n',
      0,
    ],
    ['the same change', base, base.replace('noon', 'dawn'), base.replace('noon', 'dawn'), 'It wakes at dawn and sends.\n', 0],
    [
      'the same word',
      base,
      base.replace('noon', 'dawn'),
      base.replace('noon', 'dusk'),
      'It wakes at dawn and sends.\nIt wakes at dusk and sends.\n',
      1,
    ],
    ['taken away and changed', base, 'The gauge sleeps.\n', base.replace('noon', 'dusk'), 'It wakes at dusk and sends.\n', 1],
    ['without a line end', 'a', 'b', 'c', 'b\nc', 1],
    ['from nothing', '', 'b', '', 'b', 0],
  ])('%s', (_, from, mine, theirs, has, both) => {
    const m = merge(from, mine, theirs)
    expect(m.text).toContain(has)
    expect(m.both).toBe(both)
  })
})
