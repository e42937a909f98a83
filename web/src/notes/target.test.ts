import { describe, expect, it } from 'vitest'
import { about, choices, why, type Place, type ThreadInfo } from './target'

const symbols = [
  { qualified: 'Gauge', kind: 'class', start: 3, end: 40 },
  { qualified: 'Gauge.read', kind: 'method', start: 10, end: 20 },
  { qualified: 'Gauge.write', kind: 'method', start: 22, end: 30 },
]
const says = (p: Place) => choices(p).map((c) => c.says)

describe('what a text may be attached to', () => {
  it('goes from the narrowest to the widest', () => {
    expect(says({ path: 'firmware/port/gauge.py', start: 12, end: 14, symbols })).toEqual([
      'lines 12-14 of firmware/port/gauge.py',
      'the method Gauge.read, wherever it goes',
      'the class Gauge, wherever it goes',
      'the file firmware/port/gauge.py',
      'the folder firmware/port/',
      'the folder firmware/',
      'the repository as a whole',
    ])
  })
  it('is no symbol that the lines reach beyond', () => {
    expect(says({ path: 'gauge.py', start: 18, end: 23, symbols })).toEqual([
      'lines 18-23 of gauge.py',
      'the class Gauge, wherever it goes',
      'the file gauge.py',
      'the repository as a whole',
    ])
    expect(says({ path: 'gauge.py', start: 50, symbols })[0]).toBe('line 50 of gauge.py')
  })
  it('is a folder with those above it, or the repository', () => {
    expect(says({ path: 'a/b', folder: true })).toEqual(['the folder a/b/', 'the folder a/', 'the repository as a whole'])
    expect(says({ path: '', folder: true })).toEqual(['the repository as a whole'])
    expect(says({})).toEqual(['the repository as a whole'])
  })
  it('is a commit alone, at which nothing else is chosen', () => {
    const id = '0123456789'.repeat(4)
    expect(choices({ commit: id, path: 'a', start: 1 })).toEqual([{ target: { kind: 'commit', at: id }, says: 'the commit 0123456789' }])
  })
  it('is at the commit that is read', () => {
    const all = choices({ at: 'old', path: 'a/b.c', start: 3, end: 5, symbols: [{ qualified: 'f', kind: 'function', start: 3, end: 9 }] })
    expect(all.map((c) => [c.target.kind, c.target.at])).toEqual(['lines', 'symbol', 'file', 'folder', 'repository'].map((k) => [k, 'old']))
    expect(choices({ path: 'a' }).every((c) => !('at' in c.target))).toBe(true)
  })
})

describe('what a thread is about', () => {
  const thread = (target: Partial<ThreadInfo['target']>, placed: Partial<ThreadInfo['placed']> = {}) =>
    about({ target, placed } as Pick<ThreadInfo, 'target' | 'placed'>)
  it('is told where it stands now', () => {
    expect(thread({ kind: 'lines', path: 'old.c', start: 3, end: 5 }, { path: 'new.c', start: 8, end: 10 })).toBe('new.c:8-10')
    expect(thread({ kind: 'lines', path: 'old.c', start: 3, end: 3, symbol: 'f' }, { path: 'new.c', start: 8, end: 8 })).toBe('f · new.c:8')
    expect(thread({ kind: 'symbol', path: 'old.c', symbol: 'f' }, { path: 'new.c' })).toBe('f · new.c')
    expect(thread({ kind: 'file', path: 'old.c' }, { path: 'new.c' })).toBe('new.c')
  })
  it('is told as it was where it has no place', () => {
    expect(thread({ kind: 'lines', path: 'old.c', start: 3, end: 5 })).toBe('old.c:3-5')
    expect(thread({ kind: 'file', path: 'old.c' })).toBe('old.c')
    expect(why({ reason: 'file-deleted' } as ThreadInfo['placed'])).toBe('its file was taken away')
    expect(why({ reason: '' } as ThreadInfo['placed'])).toBe('its place is not known')
  })
  it('may have no file', () => {
    expect(thread({ kind: 'folder', path: 'a/b' })).toBe('a/b/')
    expect(thread({ kind: 'folder', path: '' })).toBe('the root folder/')
    expect(thread({ kind: 'commit', commit: '0123456789'.repeat(4) })).toBe('commit 0123456789')
    expect(thread({ kind: 'repository' })).toBe('the repository')
  })
})
