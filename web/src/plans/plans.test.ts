import { mount } from '@vue/test-utils'
import { describe, expect, test } from 'vitest'
import {
  arcs,
  estimate,
  joinChapter,
  joinPassages,
  keyAt,
  minutesDone,
  moveAll,
  numeral,
  resume,
  splitChapter,
  splitPassage,
  stepAll,
  steps,
  where,
} from './model'
import { between } from './order'
import { placesNow } from './reading'
import Prose from './Prose.vue'
import { asPlan, flat, fold } from './fold'
import type { Op, Plan } from './use'
import vectors from '../../../core/plan/testdata/folded.json'

function plan(...chapters: string[][]): Plan {
  return {
    done_ids: [],
    skipped: [],
    ideas: [],
    seq: 0,
    place: '',
    in_order: chapters.map((ids, i) => ({
      id: `c${i}`,
      order: String(i + 1),
      title: `C${i}`,
      passages: ids.map((id, k) => ({
        id,
        chapter: `c${i}`,
        order: 'BDFHJLNP'[k]!,
        title: id,
        purpose: '',
        minutes: 5,
        target: { kind: 'file', path: id, commit: 'x' },
      })),
    })),
  } as unknown as Plan
}

describe('order keys', () => {
  test('there is always room', () => {
    const keys: string[] = []
    let seed = 7
    for (let n = 0; n < 1500; n++) {
      seed = (seed * 1103515245 + 12345) % 2147483648
      const i = n % 3 ? seed % (keys.length + 1) : keys.length >> 1
      const k = between(keys[i - 1] ?? '', keys[i] ?? '')
      expect(k > (keys[i - 1] ?? '')).toBe(true)
      if (keys[i]) expect(k < keys[i]!).toBe(true)
      keys.splice(i, 0, k)
    }
    expect([...keys].sort()).toEqual(keys)
  })
  test('nothing lies between b and a', () => expect(() => between('b', 'a')).toThrow())
  test('keyAt', () => {
    expect(keyAt([], 0) > '').toBe(true)
    expect(keyAt([{ order: 'B' }, { order: 'D' }], 1)).toBe('C')
  })
})

const shape = (p: Plan) => p.in_order.map((c) => c.passages.map((x) => x.id).join('')).join('|')
const after = (p: Plan, ops: Op[]) => asPlan(fold(flat(p), ops), p)

describe('moving', () => {
  test.each([
    ['a', 1, 'ba|cd'],
    ['a', -1, 'ab|cd'],
    ['b', 1, 'a|bcd'],
    ['c', -1, 'abc|d'],
    ['d', 1, 'ab|cd'],
    ['d', -1, 'ab|dc'],
    ['ab', 1, '|abcd'],
    ['bc', 1, 'a|dbc'],
    ['bd', -1, 'bda|c'],
    ['ad', -1, 'ab|cd'],
  ] as const)('%s by %s', (ids, by, want) => {
    const p = plan(['a', 'b'], ['c', 'd'])
    expect(shape(after(p, stepAll(p, new Set(ids), by)))).toBe(want)
  })
  test('dropped where they were, nothing changes', () => {
    const p = plan(['a', 'b', 'c'])
    expect(moveAll(p, new Set('b'), 'c0', 1)).toEqual([])
    expect(moveAll(p, new Set('bc'), 'c0', 1)).toEqual([])
    expect(shape(after(p, moveAll(p, new Set('a'), 'c0', 2)))).toBe('bca')
    expect(shape(after(p, moveAll(p, new Set('ac'), 'c0', 1)))).toBe('bac')
    expect(moveAll(p, new Set('a'), 'nowhere', 0)).toEqual([])
  })
  test('chapters are taken apart and put together', () => {
    const p = plan(['a', 'b', 'c'], ['d'])
    const apart = after(p, splitChapter(p, 'b'))
    expect(shape(apart)).toBe('a|bc|d')
    expect(splitChapter(p, 'a')).toEqual([])
    expect(shape(after(apart, joinChapter(apart, apart.in_order[1]!.id)))).toBe('abc|d')
    expect(joinChapter(p, 'c0')).toEqual([])
  })
  test('passages are taken apart and put together', () => {
    const p = plan(['a', 'b'])
    const a = p.in_order[0]!.passages[0]!
    a.target = { kind: 'lines', path: 'x.c', start: 10, end: 29, commit: 'z' }
    a.minutes = 10
    const apart = after(p, splitPassage(p, a, 20))
    const [first, second] = apart.in_order[0]!.passages
    expect([first!.target.end, second!.target.start, second!.target.end, first!.minutes, second!.minutes]).toEqual([19, 20, 29, 5, 5])
    expect(splitPassage(p, a, 10)).toEqual([])
    const joined = after(apart, joinPassages(first!, second!))
    expect(joined.in_order[0]!.passages.map((x) => [x.id, x.target.start, x.target.end, x.minutes])[0]).toEqual(['a', 10, 29, 10])
    expect(joinPassages(a, p.in_order[0]!.passages[1]!)).toEqual([])
  })
  test('arcs lead from what introduces an idea', () => {
    const p = plan(['a', 'b', 'c'])
    const [, b, c] = p.in_order[0]!.passages
    b!.needs = ['a']
    c!.needs = ['idea', 'gone']
    p.ideas = [{ id: 'idea', name: 'frame', by: 'b' }]
    expect(arcs(p)).toEqual([
      { from: 'a', to: 'b' },
      { from: 'b', to: 'c' },
    ])
  })
})

// what the server's own fold made of the same operations
test.each(vectors.map((v, i) => [i, v] as const))('folds as the server does: %i', (_, v) => {
  const empty = {
    seq: 0,
    title: '',
    purpose: '',
    budget: 0,
    goal: undefined,
    aside: {},
    chapters: new Map(),
    passages: new Map(),
    ideas: new Map(),
  }
  const got = asPlan(fold(empty, v.ops as Op[]), plan())
  const bare = (x: unknown) =>
    JSON.parse(JSON.stringify(x, (k, val) => (k === 'removed' || (Array.isArray(val) && !val.length && k === 'needs') ? undefined : val)))
  expect(bare([got.title, got.purpose, got.budget, got.goal ?? null, got.aside, got.in_order, got.ideas])).toEqual(
    bare([v.title, v.purpose, v.budget, v.goal ?? null, v.aside ?? {}, v.in_order, v.ideas]),
  )
})

describe('following', () => {
  test('steps are numbered through', () => expect(steps(plan(['a'], [], ['b', 'c'])).map((s) => [s.passage.id, s.chapter, s.number])).toEqual([['a', 0, 1], ['b', 2, 2], ['c', 2, 3]])) // prettier-ignore
  test('resume at the place, else at the first not done, else at the start', () => {
    const p = plan(['a', 'b'], ['c'])
    expect(resume(p)?.passage.id).toBe('a')
    p.done_ids = ['a']
    expect(resume(p)?.passage.id).toBe('b')
    expect(minutesDone(p)).toBe(5)
    p.place = 'c'
    expect(resume(p)?.passage.id).toBe('c')
    p.place = 'removed'
    p.done_ids = ['a', 'b', 'c']
    expect(resume(p)?.passage.id).toBe('a')
    expect(resume(plan([]))).toBeUndefined()
  })
  test.each([[0, 2], [50, 2], [51, 3], [250, 10], [99999, 30]])('estimate(%i) minutes', (lines, want) => expect(estimate(lines)).toBe(want)) // prettier-ignore
  test('where', () => {
    expect(where({ kind: 'lines', path: 'a.c', start: 4, end: 9, commit: '' })).toBe('a.c:4-9')
    expect(where({ kind: 'folder', path: 'lib', commit: '' })).toBe('lib/')
    expect(where({ kind: 'folder', path: '', commit: '' })).toBe('the whole repository')
  })
  test('numerals', () => expect([1, 4, 9, 14, 40, 49].map(numeral)).toEqual(['I', 'IV', 'IX', 'XIV', 'XL', 'XLIX']))
})

test('prose is text, with code between backticks and nothing that acts', () => {
  const w = mount(Prose, { props: { text: 'Watch `i--` <b>now</b>\n\n<script>x</script>' } })
  expect(w.findAll('p')).toHaveLength(2)
  expect(w.find('code').text()).toBe('i--')
  expect(w.find('b').exists()).toBe(false)
  expect(w.text()).toContain('<script>x</script>')
})

test('whoever moves while places are asked for is where they moved to', () => {
  const is = (person: number, passage: string) => ({ person, name: `reader ${person}`, passage, at: '2026-01-01T00:00:00Z' })
  const asked = { at: 100, places: [is(1, 'a'), is(2, 'a'), is(3, 'a')] }
  const heard = new Map([
    [1, { place: is(1, 'b'), at: 120 }], // after the question: it may not be in the answer
    [2, { place: is(2, 'z'), at: 80 }], // before it: the answer knows better
    [3, { place: null, at: 130 }],
    [4, { place: is(4, 'c'), at: 110 }],
  ])
  expect(placesNow(asked, heard).map((p) => [p.person, p.passage])).toEqual([
    [1, 'b'],
    [2, 'a'],
    [4, 'c'],
  ])
})
