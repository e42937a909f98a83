import { describe, expect, test } from 'vitest'
import { age, count, lineSpan, many, short, size } from './format'
import { parseRange, select, writeRange } from './range'

describe('format', () => {
  test.each([
    [0, '0'],
    [12345, '12,345'],
    [null, '–'],
    [undefined, '–'],
  ])('count(%s)', (n, want) => expect(count(n)).toBe(want))
  test('many', () => {
    expect(many(1, 'file')).toBe('1 file')
    expect(many(12345, 'file')).toBe('12,345 files')
    expect(many(2, 'repository', 'repositories')).toBe('2 repositories')
  })
  test.each([
    [0, '0 B'],
    [999, '999 B'],
    [1000, '1.0 kB'],
    [999_499, '999 kB'],
    [999_600, '1.0 MB'],
    [200 << 20, '210 MB'],
    [null, '–'],
  ])('size(%s)', (n, want) => expect(size(n)).toBe(want))
  // Read, /r/1/read?path=README.md&at=release-1.2, said "at release-1., not at the pin"
  test.each([
    ['0123456789abcdef0123456789abcdef01234567', '0123456789'],
    ['0123456789abcdef0123456789abcdef0123456789abcdef0123456789abcdef', '0123456789'],
    ['release-1.2', 'release-1.2'],
    ['v10.11.12-rc.1', 'v10.11.12-rc.1'],
    ['', ''],
  ])('short(%s)', (name, want) => expect(short(name)).toBe(want))
  test('age counts from the pin', () => {
    expect(age('2026-01-01T00:00:00Z', '2026-01-01T10:00:00Z')).toBe('the same day')
    expect(age('2026-01-01T00:00:00Z', '2026-01-31T00:00:00Z')).toBe('30 days earlier')
    expect(age('2025-01-01T00:00:00Z', '2026-01-01T00:00:00Z')).toBe('12 months earlier')
    expect(age('2020-01-01T00:00:00Z', '2026-01-01T00:00:00Z')).toBe('6 years earlier')
  })
  test('lineSpan', () => expect([lineSpan(4, 4), lineSpan(4, 9)]).toEqual(['4', '4-9']))
})

describe('range', () => {
  test.each([
    ['45', { start: 45, end: 45 }],
    ['45-49', { start: 45, end: 49 }],
    ['49-45', { start: 45, end: 49 }],
    ['0', null],
    ['a', null],
    ['1-', null],
    ['1-2-3', null],
    [undefined, null],
    ['9999999999', null],
  ])('parseRange(%s)', (text, want) => expect(parseRange(text)).toEqual(want))
  test('what is written is read back', () => {
    for (const r of [
      { start: 1, end: 1 },
      { start: 3, end: 99 },
    ])
      expect(parseRange(writeRange(r))).toEqual(r)
  })
  test('select', () => {
    const one = select(null, 1, 5, false)
    expect(one).toEqual({ start: 5, end: 5 })
    expect(select(one, 5, 9, true)).toEqual({ start: 5, end: 9 })
    expect(select(one, 5, 2, true)).toEqual({ start: 2, end: 5 })
    expect(select(one, 5, 5, false)).toBeNull()
    expect(select(null, 1, 7, true)).toEqual({ start: 7, end: 7 })
  })
})
