import { mount } from '@vue/test-utils'
import { describe, expect, test } from 'vitest'
import { fold, plain, readAddress, writeAddress, type State } from './address'
import { Chart, type MapInfo, type SpanInfo } from './chart'
import { drawing, table } from './export'
import { kept, markColumns, markedRows } from './filter'
import { layout, worths } from './layout'
import { aggregate, happenedMeasures, isMeasures, isValues } from './measures'
import { filesOf, mismatch, ordered, ranks } from './order'
import { bars, picture, together } from './picture'
import { figures } from './readout'
import Standing from './Standing.vue'
import { tiedFolders, tiesByRow } from './ties'

// src/ (big.go 900 lines 1 change, hot.go 20 lines 50 changes, deep/ (x_test.go 100, 4)), README 10 lines, 2 changes
const rows = [
  ['src', 4],
  ['deep', 1],
  ['x_test.go', 0],
  ['big.go', 0],
  ['hot.go', 0],
  ['README', 0],
] as const
const lines = [0, 0, 100, 900, 20, -1]
const changes = [0, 0, 4, 1, 50, 2]
const people = [3, 2, 2, 1, 3, 1]
const zero = rows.map(() => 0)
const span = (c: number[]): SpanInfo => ({
  commits: 50,
  changes: c,
  churn: c.map((n) => n * 2),
  people,
  recent: c.map((n) => n * 100),
  first: c.map((n) => (n ? 86_400 * 10 : 0)),
  last: c.map((n) => (n ? 86_400 * 20 : 0)),
})
const info = {
  commit: 'x',
  state: 'complete',
  names: rows.map((r) => r[0]),
  below: rows.map((r) => r[1]),
  roles: ['test', 'source', 'documentation'],
  role: [-1, -1, 0, 1, 1, 2],
  languages: ['Go'],
  language: [-1, -1, 0, 0, 0, -1],
  lines,
  code: lines,
  symbols: lines,
  dependents: zero,
  intricacy: lines,
  centrality: zero,
  tagged: [0, 0, 0, 2, 0, 0],
  starts: [0, 0, 0, 0, 1, 0],
  happened: span(changes),
  timeline: null,
  people: [],
  pin_at: null,
} as unknown as MapInfo
const chart = new Chart(info)
const nobody = () => new Int32Array(6)
const none = {
  planned: new Uint8Array(6),
  written: nobody(),
  read: Uint8Array.from([0, 0, 0, 1, 0, 0]),
  covers: { open: nobody(), here: nobody(), elsewhere: nobody(), aside: nobody() },
}
const at = (change: Partial<State>): State => ({ ...plain, ...change })
const names = (s: Partial<State>, told = info.happened) =>
  picture(chart, at(s), told, 86_400 * 30, none).lines.map((l) => (l.rows ? `${l.rows.length} more` : chart.path(l.row)))

describe('chart', () => {
  test('rows know where they are', () => {
    expect([0, 1, 2, 3, 4, 5].map((r) => chart.path(r))).toEqual([
      'src',
      'src/deep',
      'src/deep/x_test.go',
      'src/big.go',
      'src/hot.go',
      'README',
    ])
    expect([0, 1, 2, 3, 4, 5].map((r) => chart.row(chart.path(r)))).toEqual([0, 1, 2, 3, 4, 5])
    expect([...chart.children(-1)]).toEqual([0, 5])
    expect([...chart.children(0)]).toEqual([1, 3, 4])
    expect(chart.around('src/deep/none')).toBe(1)
    expect(chart.row('nowhere')).toBe(-1)
  })
})

describe('measures', () => {
  const left = isValues(chart, isMeasures[0]!)
  test('a folder sums its files up, or takes the largest or the middle one; what is not known does not count', () => {
    expect([...aggregate(chart, left, 'sum', 'sum', null)]).toEqual([1020, 100, 100, 900, 20, NaN])
    expect([...aggregate(chart, left, 'max', 'sum', null)]).toEqual([900, 100, 100, 900, 20, NaN])
    expect([...aggregate(chart, left, 'median', 'sum', null)]).toEqual([100, 100, 100, 900, 20, NaN])
    expect([...aggregate(chart, left, 'sum', 'sum', Uint8Array.from([1, 0, 0, 0, 1, 0]))].slice(0, 2)).toEqual([20, NaN])
  })
  test('people of a folder are not summed', () => {
    const m = happenedMeasures.find((x) => x.key === 'people')!
    expect(aggregate(chart, m.values(info.happened, 0), 'sum', m.whole, null)[0]).toBe(3)
    expect(aggregate(chart, m.values(info.happened, 0), 'sum', m.whole, Uint8Array.from([1, 0, 0, 1, 0, 0]))[0]).toBe(1)
  })
  test('ages count to the end of the span', () => {
    const values = (key: string) => happenedMeasures.find((x) => x.key === key)!.values(info.happened, 86_400 * 30)
    expect(values('age')[3]).toBe(20)
    expect(values('still')[3]).toBe(10)
    expect(aggregate(chart, values('still'), 'sum', 'min', null)[0]).toBe(10)
  })
})

describe('order', () => {
  const left = isValues(chart, isMeasures[0]!)
  const right = Float64Array.from(changes)
  const files = filesOf(chart, null)
  test('equal values share their rank', () => {
    expect([...ranks(Float64Array.from([5, 1, 5, 9]), Int32Array.from([0, 1, 2, 3]))]).toEqual([0.5, 0, 0.5, 1])
  })
  test('the mismatch is the difference of ranks', () => {
    const m = mismatch(left, right, files)
    expect(m[3]).toBe(1) // largest, changed least
    expect(Number.isNaN(m[5]!)).toBe(true)
    expect([...ordered('still', files, left, right)]).toEqual([3])
    expect([...ordered('restless', files, left, right)].map((r) => chart.name(r))).toEqual(['hot.go', 'x_test.go'])
  })
  test('what is not known comes last', () => {
    expect(names({ order: 'left' })).toEqual(['src/big.go', 'src/deep/x_test.go', 'src/hot.go', 'README'])
    expect(names({ order: 'right' })[0]).toBe('src/hot.go')
  })
  test('the same as sorting by hand, on many files', () => {
    const n = 500
    let seed = 7
    const random = () => (seed = (seed * 16807) % 2147483647) % 40
    const l = Float64Array.from({ length: n }, random)
    const r = Float64Array.from({ length: n }, random)
    const all = Int32Array.from({ length: n }, (_, i) => i)
    const rank = (v: Float64Array, i: number) => {
      const below = v.filter((x) => x < v[i]!).length
      const same = v.filter((x) => x === v[i]!).length
      return (below + (same - 1) / 2) / (n - 1)
    }
    const m = mismatch(l, r, all)
    for (let i = 0; i < n; i++) expect(m[i]).toBeCloseTo(rank(l, i) - rank(r, i), 9)
  })
})

describe('layout', () => {
  const wide = new Chart({
    ...info,
    names: ['d', ...Array.from({ length: 30 }, (_, i) => `f${i}`)],
    below: [30, ...Array.from({ length: 30 }, () => 0)],
  } as MapInfo)
  const worth = Float64Array.from({ length: 31 }, (_, i) => (i ? i : 465))
  const lay = (open: string[], shut: string[], budget = 34) =>
    layout(wide, worth, null, { open: new Set(open), shut: new Set(shut) }, budget).map((l) =>
      l.rows ? `${l.rows.length} more` : wide.name(l.row),
    )
  test('small siblings are told together, and add up', () => {
    const got = lay([], [])
    expect(got[0]).toBe('d')
    expect(got.slice(1, -1)).toEqual(['f23', 'f24', 'f25', 'f26', 'f27', 'f28', 'f29'])
    expect(got.at(-1)).toBe('23 more')
  })
  test('they unfold, and folders fold, by hand', () => {
    expect(lay(['d/*'], [])).toHaveLength(31)
    expect(lay([], ['d'])).toEqual(['d'])
    expect(lay([], [], Infinity)).toHaveLength(31)
  })
  test('no row is told twice, none is lost', () => {
    const seen = layout(wide, worth, null, { open: new Set(), shut: new Set() }, 34).flatMap((l) => l.rows ?? [l.row])
    expect(new Set(seen).size).toBe(31)
    expect(seen).toHaveLength(31)
  })
  test('worth is the share of the largest on either side', () => {
    expect(worths(chart, Float64Array.from([10, 5, 5, NaN, 0, 0]), Float64Array.from([4, 0, 0, 4, 0, 0]))[3]).toBe(1)
  })
})

describe('filter', () => {
  test.each([
    [{ name: 'DEEP' }, ['src', 'src/deep', 'src/deep/x_test.go']],
    [{ name: 'src/big' }, ['src', 'src/big.go']],
    [{ role: 'documentation' }, ['README']],
    [{ language: 'Go', mark: 'start' as const }, ['src', 'src/hot.go']],
    [{ mark: 'tagged' as const }, ['src', 'src/big.go']],
    [{ mark: 'test' as const }, ['src', 'src/deep', 'src/deep/x_test.go']],
    [{ mark: 'read' as const }, ['src', 'src/big.go']],
    [{ mark: 'unread' as const, role: 'source' }, ['src', 'src/hot.go']],
    [{ role: 'nothing' }, []],
  ])('%j', (f, want) => expect(names({ detail: 'all', ...f })).toEqual(want))
  test('a person leaves what they changed', () => {
    expect(names({ detail: 'all', by: 'Somebody' }, span([0, 0, 0, 0, 3, 0]))).toEqual(['src', 'src/hot.go'])
  })
  test('dimmed rows stay and count', () => {
    const p = picture(chart, at({ detail: 'all', role: 'documentation', rest: 'dim' }), info.happened, 0, none)
    expect(p.lines).toHaveLength(6)
    expect(p.left[0]).toBe(1020)
    expect([...p.keep!]).toEqual([0, 0, 0, 0, 0, 1])
  })
  test('nothing asked, nothing left out', () => expect(kept(chart, plain, none, undefined)).toBeNull())
  test('what a plan covers narrows the rows, and adds up in folders', () => {
    const paths = [chart.path(3), chart.path(4), chart.path(0), 'nowhere.go']
    const covered = { paths, here: [1, 0, 0, 9], elsewhere: [0, 1, 0, 9], aside: [0, 0, 1, 9], open: [2, 0, 0, 9] }
    const marked = markedRows(chart, undefined, covered)
    const rows = (covers: State['covers']) =>
      [...kept(chart, at({ covers }), marked, undefined)!].flatMap((n, i) => (n && !chart.isFolder(i) ? i : []))
    expect(rows('open')).toEqual([3])
    expect(rows('here')).toEqual([3])
    expect(rows('elsewhere')).toEqual([4])
    expect(rows('aside')).toEqual([])
    const m = markColumns(chart, marked)
    expect([m.open[3], m.open[0], m.open[4], m.aside[0]]).toEqual([2, 2, 0, 1])
  })
  test('marks of folders count all below', () => {
    const m = markColumns(chart, none)
    expect([m.starts[0], m.tagged[0], m.tests[0], m.read[0], m.tests[5]]).toEqual([1, 2, 1, 1, 0])
  })
})

describe('picture', () => {
  test('a span is a part of the whole', () => {
    const p = picture(chart, at({ from: '2026-01-01', detail: 'all' }), span([0, 0, 1, 0, 5, 0]), 0, none)
    expect(p.right[4]).toBe(5)
    expect(p.whole![4]).toBe(50)
    expect(picture(chart, at({ from: '2026-01-01', right: 'age' }), span(zero), 0, none).whole).toBeNull()
  })
  test('siblings told together', () => {
    const v = Float64Array.from([1, 2, NaN, 9])
    expect(together(v, [0, 1, 2, 3], 'sum', 'sum')).toBe(12)
    expect(together(v, [0, 1, 3], 'sum', 'people')).toBe(9)
    expect(together(v, [0, 1, 3], 'sum', 'min')).toBe(1)
    expect(together(v, [0, 1, 3], 'median', 'sum')).toBe(2)
    expect(together(v, [2], 'sum', 'sum')).toBeNaN()
  })
  test.each(['linear', 'root', 'log'] as const)('bars on a %s scale end at 1', (s) => {
    const bar = bars(s, 80)
    expect(bar(80)).toBeCloseTo(1)
    expect(bar(0)).toBe(0)
    expect(bar(NaN)).toBe(0)
    expect(bar(20)).toBeGreaterThan(0.2)
    expect(bar(20)).toBeLessThan(1)
  })
})

describe('ties', () => {
  const t = tiesByRow(chart, { row: 4, rows: [2, 3], leans_on: [1, 0], used_by: [0, 2], cycle: [3] })
  const line = (row: number, open = false) => ({ kind: 'folder' as const, row, depth: 0, open })
  test('fold to folders', () => {
    expect(t.of(line(0))).toEqual({ leans: 1, used: 1, circle: 1 })
    expect(t.of(line(1))).toEqual({ leans: 1, used: 0, circle: 0 })
    expect(t.of(line(0, true))).toBeNull()
    expect(t.of(line(5))).toBeNull()
    expect([t.leans, t.used, t.circle]).toEqual([1, 1, 1])
  })
})

test('the folders around tied files', () => {
  const i = { row: 5, rows: [2, 3, 4, 5], leans_on: [1, 1, 2, 0], used_by: [0, 0, 0, 1], cycle: [] }
  expect(tiedFolders(chart, i, 'leans_on')).toEqual([
    { path: 'src', files: 2 },
    { path: 'src/deep', files: 1 },
  ])
  expect(tiedFolders(chart, i, 'used_by')).toEqual([{ path: '', files: 1 }])
})

describe('address', () => {
  test('what is written is read back', () => {
    const s = at({
      left: 'intricacy',
      order: 'still',
      from: '2026-01-01',
      ties: false,
      open: ['a', 'b/*'],
      shut: ['c'],
      name: 'x y',
      at: 'src/a b',
    })
    expect(readAddress(writeAddress(s) as never)).toEqual(s)
    expect(writeAddress(plain)).toEqual({})
  })
  test('what is not known is as usual', () => {
    expect(readAddress({ left: 'nonsense', order: ['tree', 'left'], from: '2026-99-99', scale: null })).toEqual(plain)
  })
  test('the last fold by hand counts', () => {
    const s = at({ open: ['a'], shut: ['b'] })
    expect(fold(s, 'a', false)).toEqual({ open: [], shut: ['b', 'a'] })
    expect(fold(s, 'b', true)).toEqual({ open: ['a', 'b'], shut: [] })
  })
})

describe('drawing', () => {
  test('is well formed whatever files are called, and says what it leaves out', () => {
    const hostile = new Chart({ ...info, names: ['<src>&', 'deep"', '\u0001x', "]]>'", 'hot.go', 'README'] } as unknown as MapInfo)
    const s = at({ detail: 'all', from: '2026-01-01' })
    const d = drawing(hostile, picture(hostile, s, span(changes), 0, none), s, 'a < b & c')
    const parsed = new DOMParser().parseFromString(d.svg, 'image/svg+xml')
    expect(parsed.querySelector('parsererror')).toBeNull()
    expect(parsed.documentElement.textContent).toContain('<src>&/')
    expect(parsed.documentElement.textContent).toContain('square-root scale, both sides')
    expect(d.drawn).toBe(6)
    expect(d.left).toBe(0)
    const n = 2500
    const many = new Chart({
      ...info,
      names: Array.from({ length: n }, (_, i) => `f${i}`),
      below: Array(n).fill(0),
      lines: Array(n).fill(1),
      role: Array(n).fill(1),
      tagged: Array(n).fill(0),
      starts: Array(n).fill(0),
      happened: null,
    } as unknown as MapInfo)
    const all = at({ detail: 'all' })
    const marked = markedRows(many, undefined)
    expect(drawing(many, picture(many, all, null, 0, marked), all, 'x')).toMatchObject({ drawn: 2000, left: 500 })
  })
})

describe('readout', () => {
  const p = picture(chart, at({ detail: 'all' }), info.happened, 86_400 * 30, none)
  const told = (row: number) =>
    figures(
      chart,
      p,
      p.lines.find((l) => l.row === row)!,
      info.happened,
      86_400 * 30,
    )
  test('tells every figure of a file, and what a folder shows', () => {
    expect(told(4)).toBe(
      'src/hot.go · lines 20 · code 20 · symbols 20 · dependents 0 · centrality 0.0‰ · intricacy 20 · changes 50 · recent 50 · 3 people · churn 100 · age 20 days · still for 10 days',
    )
    expect(told(0)).toBe('src/ · lines 1,020 · changes 55')
    expect(told(5)).toContain('README · dependents 0')
  })
})

describe('table', () => {
  test('holds every row, and no formula', () => {
    const hostile = new Chart({ ...info, names: ['src', 'deep', '=1+1', 'a,"b".go', 'hot.go', 'README'] } as MapInfo)
    const csv = table(hostile, picture(hostile, plain, info.happened, 0, none), info.happened, 0)
      .trimEnd()
      .split('\r\n')
    expect(csv).toHaveLength(7)
    expect(csv[0]!.startsWith('path,kind,role,language,lines,code')).toBe(true)
    expect(csv[1]!.startsWith('src,folder,,,1020,')).toBe(true)
    expect(csv[4]!.startsWith('"src/a,""b"".go",file,source,Go,900,')).toBe(true)
    const top = new Chart({ ...info, names: ['=src', 'deep', 'x', 'y', 'z', '@R'] } as MapInfo)
    expect(table(top, picture(top, plain, info.happened, 0, none), info.happened, 0)).toContain("\r\n'@R,file")
  })
})

// Map, nothing selected, a history of one commit and a picture without lines.
describe('what stands out', () => {
  const shown = (happened: number[], counted = lines) => {
    const one = { ...info, role: [-1, -1, 1, 1, 1, 1], lines: counted, happened: span(happened) } as unknown as MapInfo
    const w = mount(Standing, { props: { chart: new Chart(one), span: one.happened, end: 86_400 * 30 } })
    return w.text()
  }
  test('of one commit, neither stillness nor restlessness is claimed', () => {
    const text = shown([1, 1, 1, 1, 1, 1])
    expect(text).toContain('No file has changed more than once')
    expect(text).not.toContain('Big but still')
    expect(text).not.toContain('Small but restless')
  })
  test('files whose lines are not counted are left out', () => {
    const text = shown(changes, [-1, -1, 100, -1, 20, -1])
    expect(text).toContain('hot.go')
    expect(text).not.toContain('big.go')
    expect(text).not.toMatch(/-1 lines|NaN/)
  })
})
