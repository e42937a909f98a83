import { mount } from '@vue/test-utils'
import { describe, expect, test } from 'vitest'
import { estimate, keyAt, minutesDone, moveTo, numeral, resume, step, steps, where } from './model'
import { between } from './order'
import Prose from './Prose.vue'
import type { Plan } from './use'

function plan(...chapters: string[][]): Plan {
  return {
    done_ids: [],
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

describe('moving', () => {
  const apply = (p: Plan, op: ReturnType<typeof step>): string => {
    if (!op) return 'stays'
    const moved = p.in_order.flatMap((c) => c.passages).find((x) => x.id === op.id)!
    for (const c of p.in_order) c.passages = c.passages.filter((x) => x.id !== op.id)
    const to = p.in_order.find((c) => c.id === op.chapter)!
    to.passages.push({ ...moved, order: op.order! })
    to.passages.sort((a, b) => (a.order < b.order ? -1 : 1))
    return p.in_order.map((c) => c.passages.map((x) => x.id).join('')).join('|')
  }
  test.each([
    ['a', 1, 'ba|cd'],
    ['a', -1, 'stays'],
    ['b', 1, 'a|bcd'],
    ['c', -1, 'abc|d'],
    ['d', 1, 'stays'],
    ['d', -1, 'ab|dc'],
  ] as const)('%s by %s', (id, by, want) => {
    const p = plan(['a', 'b'], ['c', 'd'])
    expect(apply(p, step(p, id, by))).toBe(want)
  })
  test('dropped where it was, nothing changes', () => {
    const p = plan(['a', 'b', 'c'])
    expect(moveTo(p, 'b', 'c0', 1)).toBeNull()
    expect(apply(p, moveTo(p, 'a', 'c0', 2))).toBe('bca')
    expect(moveTo(p, 'a', 'nowhere', 0)).toBeNull()
  })
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
