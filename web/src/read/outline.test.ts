import { describe, expect, it } from 'vitest'
import { matches, present, rowAt, rows, symbolMarks, type Group, type Reach, type Symbol } from './outline'

function symbol(name: string, kind: string, start: number, end: number, parent = -1, visibility: Symbol['visibility'] = 'public'): Symbol {
  return {
    name,
    kind,
    start,
    end,
    parent,
    visibility,
    qualified: name,
    static: false,
    signature: name,
    type: '',
    doc: '',
    name_line: start,
    intricacy: 0,
  }
}
const outline = [
  symbol('Gauge', 'class', 1, 20),
  symbol('level', 'field', 2, 2, 0, 'private'),
  symbol('readBlock', 'method', 4, 9, 0),
  symbol('settle', 'method', 11, 15, 0, 'private'),
  symbol('MAX_LEVEL', 'constant', 22, 22),
  symbol('main', 'function', 24, 30),
]
const all = { typed: '', kinds: [], reach: [], byName: false }
const names = (typed: string, kinds: Group[] = [], reach: Reach[] = []) =>
  rows(outline, { ...all, typed, kinds, reach }).map((r) => (r.context ? `(${r.label})` : r.label))

describe('what is typed', () => {
  it.each([
    ['readBlock', 'rB', true],
    ['readBlock', 'block', true],
    ['read_block', 'rB', true],
    ['readBlock', 'reBl', true],
    ['readBlock', 'bR', false],
    ['HTTPServer', 'HS', true],
    ['parse', 'px', false],
    ['anything', '', true],
    ['a.b', '.', true],
  ])('%s by %s: %s', (name, typed, want) => expect(matches(name, typed)).toBe(want))
})

describe('the rows', () => {
  it('show all, nested', () => {
    expect(names('')).toEqual(['Gauge', 'level', 'readBlock', 'settle', 'MAX_LEVEL', 'main'])
    expect(rows(outline, all).map((r) => r.depth)).toEqual([0, 1, 1, 1, 0, 0])
  })
  it('keep what a match stands in', () => {
    expect(names('rB')).toEqual(['(Gauge)', 'readBlock'])
    expect(names('nothing')).toEqual([])
  })
  it('narrow by several kinds and by who may name them', () => {
    expect(names('', ['values'])).toEqual(['(Gauge)', 'level', 'MAX_LEVEL'])
    expect(names('', ['values', 'functions'], ['public'])).toEqual(['(Gauge)', 'readBlock', 'MAX_LEVEL', 'main'])
  })
  it('name what is declared outside of its owner in full', () => {
    const method = { ...symbol('Read', 'method', 3, 5), qualified: 'Link.Read' }
    expect(rows([method], all)[0]!.label).toBe('Link.Read')
  })
  it('tell where a line is', () => {
    const list = rows(outline, all)
    expect(list[rowAt(list, 5)]!.label).toBe('readBlock')
    expect(list[rowAt(list, 18)]!.label).toBe('Gauge')
    expect(rowAt(list, 21)).toBe(-1)
  })
  it('stand flat with their owners in the order of names', () => {
    const list = rows(outline, { ...all, byName: true, typed: 'e' })
    expect(list.map((r) => r.symbol.name)).toEqual(['Gauge', 'level', 'MAX_LEVEL', 'readBlock', 'settle'])
    expect(list[rowAt(list, 5)]!.symbol.name).toBe('readBlock')
  })
  it('carry the marks of their own lines', () => {
    const marks = symbolMarks(
      outline,
      new Map([
        [5, ['◇']],
        [12, ['▬']],
        [19, ['◗']],
        [40, ['◇']],
      ]),
    )
    expect([...marks].map(([s, m]) => `${s.name} ${m.join('')}`)).toEqual(['readBlock ◇', 'settle ▬', 'Gauge ◗'])
  })
})

it('counts the groups that there are', () => {
  expect(present(outline)).toEqual([
    ['functions', 3],
    ['types', 1],
    ['values', 2],
  ])
})
