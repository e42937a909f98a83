import { describe, expect, it } from 'vitest'
import type { Schemas } from '@/api/client'
import { marksOf, rowsOf, runsOf, unified, type DiffInfo } from './diff'
import { foldersOf, rowsOfFolds } from './folded'
import { intricate } from './hotspots'
import { draw, laneWidth, mostLanes, rowHeight, widthOf, type LaneRow } from './lanes'
import { around, queryOf, termsOf } from './terms'
import { bar, momentWords, type ChangeInfo } from './useCommit'

// History, Hotspots, of files that were neither parsed nor counted: 26 rows said "-1 lines"
it.each([
  [{ intricacy: 12, code: 90 }, '12', 'intricacy 12'],
  [{ intricacy: 0, code: 90 }, '0', 'intricacy 0'],
  [{ intricacy: -1, code: 90 }, '90 lines', 'not parsed, so its code counts: 90 lines'],
  [{ intricacy: -1, code: 1 }, '1 line', 'not parsed, so its code counts: 1 line'],
  [{ intricacy: -1, code: -1 }, 'not read', 'not parsed, nor were its lines counted'],
])('%o reads %s', (row, bar, sentence) => expect(intricate(row)).toEqual({ bar, sentence }))

describe('terms', () => {
  it('are read from an address and written back', () => {
    const terms = termsOf({ keep: ['by:Oona Fell', 'path:a:b/'], drop: 'is:merge', row: '3' })
    expect(terms).toEqual([
      { key: 'by', value: 'Oona Fell', not: false },
      { key: 'path', value: 'a:b/', not: false },
      { key: 'is', value: 'merge', not: true },
    ])
    expect(queryOf(terms)).toEqual({ keep: ['by:Oona Fell', 'path:a:b/'], drop: ['is:merge'] })
    expect(queryOf([])).toEqual({ keep: undefined, drop: undefined })
    expect(termsOf({ keep: null })).toEqual([])
  })
  it('have words before and after their value', () => {
    expect(around('from %s on')).toEqual(['from', 'on'])
    expect(around('by %s')).toEqual(['by', ''])
    expect(around('odd')).toEqual(['odd', ''])
  })
})

const row = (r: Partial<LaneRow>): LaneRow => ({ lane: 0, trunk: false, above: [], below: [], past: [], cut_off: false, ...r })

describe('lanes', () => {
  it('stand to the left of the trunk', () => {
    const rows = [row({ trunk: true, below: [0, 2], past: [1] })]
    const width = widthOf(rows)
    expect(width).toBe(3 * laneWidth + 8)
    const d = draw(rows[0]!, width)
    expect(d.x).toBe(width - 9)
    expect(d.trunk).toBe(`M${d.x} ${rowHeight / 2}V${rowHeight}`)
    expect(d.sides).toContain(`M${d.x - laneWidth} 0V${rowHeight}`)
    expect(d.sides).toContain(`${d.x - 2 * laneWidth} ${rowHeight}`)
    expect(d.hidden).toBe(0)
  })
  it('that are too far out are counted', () => {
    const d = draw(row({ lane: 1, past: [0, mostLanes, mostLanes + 3] }), widthOf([row({ past: [40] })]))
    expect(d.hidden).toBe(2)
    expect(d.trunk).not.toBe('')
  })
})

const line = (text: string, tokens?: number[]): Schemas['DiffLine'] => ({ text, tokens })

describe('a diff', () => {
  const info = {
    classes: ['plain', 'name'],
    pieces: [
      { kind: 'hidden', old_start: 1, new_start: 1, count: 4 },
      { kind: 'same', old_start: 5, new_start: 5, count: 1, same: [line('same')] },
      { kind: 'changed', old_start: 6, new_start: 6, count: 0, removed: [line('int a = 46;'), line('gone')], added: [line('int a = 16;')] },
      { kind: 'same', old_start: 8, new_start: 7, count: 1, same: [line('end')] },
    ],
  } as unknown as DiffInfo
  it('stands side by side, line beside line', () => {
    const rows = rowsOf(info)
    expect(rows.map((r) => (r.kind === 'hidden' ? 'hidden' : `${r.old?.number ?? '-'}:${r.new?.number ?? '-'}`))).toEqual([
      'hidden',
      '5:5',
      '6:6',
      '7:-',
      '8:7',
    ])
    const changed = rows[2]!
    if (changed.kind !== 'line') throw new Error('no line')
    expect(changed.old!.marks).toEqual([[8, 9]])
    expect(changed.new!.marks).toEqual([[8, 9]])
  })
  it('stands one below the other, what went first', () => {
    expect(unified(rowsOf(info)).map((r) => (r.kind === 'hidden' ? 'hidden' : `${r.old?.number ?? '-'}:${r.new?.number ?? '-'}`))).toEqual([
      'hidden',
      '5:5',
      '6:-',
      '7:-',
      '-:6',
      '8:7',
    ])
  })
  it('marks nothing where hardly anything is alike', () => {
    expect(marksOf('return nil', 'for i := range 10 {')).toEqual({ a: [], b: [] })
    expect(marksOf('', 'x')).toEqual({ a: [], b: [] })
  })
  it('cuts a line by colours and changes, and loses nothing', () => {
    const runs = runsOf({ number: 1, line: line('int a = 46;', [3, 0, 2, 1]), marks: [[4, 9]] }, info.classes)
    expect(runs.map((r) => r.text).join('')).toBe('int a = 46;')
    expect(runs.filter((r) => r.changed).map((r) => r.text)).toEqual(['a', ' = 4'])
    expect(runs.find((r) => r.text === 'a')!.class).toBe('c-name')
  })
})

const change = (path: string, added: number, deleted = 0): ChangeInfo => ({
  path,
  old_path: '',
  status: 'changed',
  added,
  deleted,
  binary: false,
  link: false,
  mode: '',
  role: '',
  lines: 10,
})

describe('folders of a comparison', () => {
  const root = foldersOf([change('a/b/c/one.ts', 3), change('a/b/c/two.ts', 1, 2), change('z.md', 5)])
  it('sum what lies below, and one that holds but another is one with it', () => {
    expect(root.files).toBe(3)
    expect(root.children.map((c) => [c.name, c.files, c.added, c.deleted, c.lines])).toEqual([
      ['a/b/c', 2, 4, 2, 20],
      ['z.md', 1, 5, 0, 10],
    ])
  })
  it('show their files when open', () => {
    expect(rowsOfFolds(root, new Set()).map((r) => r.path)).toEqual(['a/b/c', 'z.md'])
    expect(rowsOfFolds(root, new Set(['a/b/c'])).map((r) => `${r.depth} ${r.path} ${r.index}`)).toEqual([
      '0 a/b/c -1',
      '1 a/b/c/one.ts 0',
      '1 a/b/c/two.ts 1',
      '0 z.md 2',
    ])
  })
})

describe('moments', () => {
  it('are told in the zone they were written in', () => {
    expect(momentWords('2026-09-12T13:03:00Z')).toMatch(/^12 Sept? 2026, 13:03 UTC$/)
    expect(momentWords('2026-09-12T13:03:00+05:45')).toMatch(/^12 Sept? 2026, 13:03 \+05:45$/)
    expect(momentWords('2026-09-12T13:03:00-09:30')).toContain('13:03 -09:30')
  })
})

it('a bar grows with the logarithm of its lines', () => {
  expect(bar({ added: 0, deleted: 100 }, 100)).toEqual({ added: '0.0%', deleted: '100.0%' })
})
