import { describe, expect, it } from 'vitest'
import type { Candidate } from './adding'
import { readings } from './readings'
import type { Plan } from './use'

const way = {
  id: 'w',
  title: 'From the pin to the page',
  target: { kind: 'way', path: '', commit: 'pin', hops: [{ path: 'a.go', start: 1, end: 2 }] },
}
const plan = {
  in_order: [{ id: 'c', passages: [{ id: 'p', title: 'Begin', target: { kind: 'file', path: 'a.go', commit: 'pin' } }, way] }],
} as unknown as Plan
const says = (c: Candidate, p?: Plan) => readings(c, 'pin', p).map((r) => r.says)

describe('how what is selected can be read', () => {
  const lines: Candidate = {
    kind: 'lines',
    path: 'core/gauge.go',
    start: 12,
    end: 14,
    title: '',
    lines: 3,
    symbols: [
      { qualified: 'Gauge', kind: 'class', start: 3, end: 40 },
      { qualified: 'Gauge.read', kind: 'method', start: 10, end: 20 },
      { qualified: 'late', kind: 'function', start: 50, end: 60 },
    ],
  }
  it('goes from the lines to what is around them', () => {
    expect(says(lines)).toEqual([
      'lines: core/gauge.go:12-14',
      'the method Gauge.read, 10-20',
      'the class Gauge, 3-40',
      'the whole file',
      'the first hop of a new way',
      'the pattern for a file that is not there yet',
    ])
  })
  it('makes a file a skim of it first, where one was asked for', () => {
    const [skimmed, whole] = readings({ kind: 'file', path: 'a.go', skim: 40, title: '', lines: 300 }, 'pin', undefined)
    expect([skimmed!.target.skim, whole!.says, whole!.target.skim]).toEqual([40, 'the whole file', undefined])
  })
  it('goes on with a way that is there, told by its number', () => {
    const next = readings(lines, 'pin', plan).find((r) => r.hop)!
    expect(next.says).toBe('the next hop of the way in 2, “From the pin to the page”')
    const to = JSON.parse(next.hop!.to!) as { hops: unknown[] }
    expect([next.hop!.kind, next.hop!.id, to.hops]).toEqual([
      'set-passage',
      'w',
      [
        { path: 'a.go', start: 1, end: 2 },
        { path: 'core/gauge.go', start: 12, end: 14 },
      ],
    ])
    expect(way.target.hops.length, 'the plan at hand is as it was').toBe(1)
  })
  it('names a file that is not there yet after its pattern', () => {
    const planned = (path: string) => readings({ kind: 'file', path, title: '', lines: 1 }, 'pin', undefined).at(-1)!.target
    expect([planned('a/b.test.go'), planned('Makefile')].map((t) => [t.path, t.pattern])).toEqual([
      ['a/b.test_new.go', 'a/b.test.go'],
      ['Makefile_new', 'Makefile'],
    ])
  })
  it('stays at the commit that is read', () => {
    const all = readings({ ...lines, commit: 'old' }, 'pin', undefined)
    expect(new Set(all.map((r) => r.target.commit))).toEqual(new Set(['old']))
    expect(says({ kind: 'commit', path: '', commit: '0123456789'.repeat(4), title: '', lines: 9 }, plan)).toEqual(['commit 0123456789'])
  })
})
