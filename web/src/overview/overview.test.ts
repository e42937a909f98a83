import { describe, expect, test } from 'vitest'
import { narrowed, partOf, platformHere, root } from './part'

const parts = [{ path: '' }, { path: 'a' }, { path: 'a/b' }]

describe('parts', () => {
  test.each([
    ['a/b/x.go', 'a/b'],
    ['a/bc', 'a'],
    ['a', 'a'],
    ['x', ''],
  ])('%s belongs to %s', (p, want) => expect(partOf(parts, p)).toBe(want))
  test('without a root, the rest belongs to none', () => expect(partOf(parts.slice(1), 'x')).toBeNull())
  test('narrowing', () => {
    const list = ['a/b/x', 'a/y', 'z']
    const of = (part: string) => narrowed(list, parts, part, (p) => p)
    expect(of('')).toEqual(list)
    expect(of('a')).toEqual(['a/y'])
    expect(of(root)).toEqual(['z'])
  })
})

test.each([
  ['Mozilla/5.0 (X11; Linux x86_64)', 'Linux'],
  ['Mozilla/5.0 (Linux; Android 14)', 'Android'],
  ['Mozilla/5.0 (Windows NT 10.0; Win64)', 'Windows'],
  ['Mozilla/5.0 (Macintosh; Intel Mac OS X 10_15)', 'macOS'],
  ['Mozilla/5.0 (iPhone; CPU iPhone OS 17 like Mac OS X)', 'iOS'],
  ['', ''],
])('%s', (agent, want) => expect(platformHere(agent)).toBe(want))
