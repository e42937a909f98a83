import { describe, expect, test } from 'vitest'
import type { Schemas } from '@/api/client'
import { pieces } from '@/told'
import { orders, Tree } from './tree'

const path = (p: string, folder = false, lines = 1) => ({ path: p, name: p.split('/').at(-1)!, folder, lines }) as Schemas['PathInfo']

const listing: Record<string, Schemas['PathInfo'][]> = {
  '': [path('b.c', false, 9), path('a', true, 5), path('z.c', false, 2)],
  a: [path('a/only', true)],
  'a/only': [path('a/only/x.c'), path('a/only/y.c')],
}

describe('tree', () => {
  test('unfolds folders that are alone, keeps order, folds again', async () => {
    const asked: string[] = []
    const t = new Tree(async (f) => {
      asked.push(f)
      return listing[f]!
    })
    await t.unfold('')
    await t.unfold('a')
    const shown = () => t.rows(orders.tree).map((r) => `${r.depth} ${r.path.path}`)
    expect(shown()).toEqual(['0 a', '1 a/only', '2 a/only/x.c', '2 a/only/y.c', '0 b.c', '0 z.c'])
    expect(t.rows(orders.lines).map((r) => r.path.path)[0]).toBe('b.c')
    t.fold('a')
    expect(shown()).toEqual(['0 a', '0 b.c', '0 z.c'])
    await t.unfold('a')
    expect(asked).toEqual(['', 'a', 'a/only'])
  })
  test('a folder that cannot be fetched can be tried again', async () => {
    let fail = true
    const t = new Tree(async (f) => {
      if (f && fail) throw new Error('away')
      return listing[f]!
    })
    await t.unfold('')
    await expect(t.unfold('a')).rejects.toThrow('away')
    fail = false
    await t.unfold('a')
    expect(t.rows(orders.tree)).toHaveLength(6)
  })
})

test('pieces cover the text, whatever the tokens say', () => {
  const classes = ['plain', 'keyword']
  expect(pieces('func f', [4, 1], classes)).toEqual([
    { text: 'func', class: 'c-keyword' },
    { text: ' f', class: 'c-plain' },
  ])
  expect(pieces('ab', [9, 1], classes).map((p) => p.text)).toEqual(['ab'])
  expect(pieces('ab', undefined, classes)).toEqual([{ text: 'ab', class: 'c-plain' }])
  expect(pieces('a', [1, 7], classes)[0]!.class).toBe('c-plain')
})
