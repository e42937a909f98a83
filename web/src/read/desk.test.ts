import { describe, expect, it } from 'vitest'
import type { Schemas } from '@/api/client'
import { assetOf, readTable, separatorOf } from './asset'
import { editorAddress, faultOf } from './editor'
import { asMarkdown, asText } from './extract'
import { hitFrom, hitsIn } from './find'
import { marksOf, notesOf, placed } from './notes'
import { aligned, changesIn, lineStarts } from './pair'
import { usesBy } from '@/told/uses'

describe('a table', () => {
  it('is read by its rules', () => {
    expect(readTable('a,b\n"x, ""y""",2\r\n"two\nlines",\n', ',').rows).toEqual([
      ['a', 'b'],
      ['x, "y"', '2'],
      ['two\nlines', ''],
    ])
    expect(readTable('', ',').rows).toEqual([])
    expect(readTable('"never closed,\n1', ',').rows).toEqual([['never closed,\n1']])
    const long = readTable('a\n'.repeat(2001), ',')
    expect([long.rows.length, long.more]).toEqual([2000, true])
  })
  it('knows its separator', () => {
    expect(separatorOf('a.tsv', 'a,b')).toBe('\t')
    expect(separatorOf('a.csv', 'a;b;c,d\n')).toBe(';')
    expect(separatorOf('a.csv', 'alone')).toBe(',')
  })
  it('is told from pictures, prose and code', () => {
    expect(['a.PNG', 'b/c.svg', 'README.md', 'x.csv', 'x.go', 'md'].map(assetOf)).toEqual([
      'picture',
      'picture',
      'prose',
      'table',
      null,
      null,
    ])
  })
})

describe('the editor', () => {
  it('is refused where its address would run something', () => {
    expect(faultOf('editor://open?f=/src/{path}:{line}')).toBe('')
    for (const bad of ['javascript:alert({path})', ' JavaScript:{path}', 'data:text/html,{path}', 'no scheme {path}', 'editor://open']) {
      expect(faultOf(bad), bad).not.toBe('')
    }
  })
  it('gets the place, escaped', () => {
    expect(editorAddress('ed://o?f=/s/{path}&l={line}-{end}', 'a b/ü&c.go', 3, 9)).toBe('ed://o?f=/s/a%20b/%C3%BC%26c.go&l=3-9')
  })
})

describe('finding in a file', () => {
  it('minds capitals only where some are typed', () => {
    expect(hitsIn('Gauge gauge', 'gauge').hits.map((h) => h.from)).toEqual([0, 6])
    expect(hitsIn('Gauge gauge', 'Gauge').hits.map((h) => h.from)).toEqual([0])
    expect(hitsIn('aaaa', 'aa').hits).toHaveLength(2)
    expect(hitsIn('x', '').hits).toEqual([])
    expect(hitsIn('a'.repeat(20_001), 'a').more).toBe(true)
  })
  it('begins at what is in sight', () => {
    const { hits } = hitsIn('a a a', 'a')
    expect([hitFrom(hits, 1), hitFrom(hits, 5), hitFrom([], 0)]).toEqual([1, 0, -1])
  })
})

describe('the margin', () => {
  it('sets notes at their lines, none over another', () => {
    expect(placed([0, 10, 300], [50, 40, 20], 8, 30)).toEqual([30, 88, 300])
    expect(placed([-200, -100], [50, 40], 8, -250)).toEqual([-200, -100])
  })
  it('orders what plans and the survey say', () => {
    const tagged = [
      {
        ...{
          word: 'FIXME',
          meaning: 'wrong',
          text: 'FIXME(kip): why?',
          line: 9,
          end_line: 9,
          who: 'kip',
          issue: '',
          said: 'FIXME(kip): why?',
        },
        ...{ symbol: '', lead: '', born_at: '2025-01-01T00:00:00Z', person: 'Kip', outlived: 0, state: 'open' as const, reason: '' },
      },
    ]
    const passage = {
      plan: 1,
      title: 'Plan',
      number: 4,
      places: [{ start: 3, end: 12 }],
      passage: { id: 'p1', title: 'T', purpose: '', minutes: 6, target: { kind: 'lines', path: 'a', start: 3, end: 12, commit: '' } },
    }
    const as = (id: string, kind: string, places: { start: number; end: number }[], more = {}) => ({
      ...passage,
      places,
      passage: { ...passage.passage, id, caution: 'careful', target: { kind, path: 'a', commit: 'abcdef0123'.repeat(4), ...more } },
    })
    const others = [
      as('p2', 'file', [{ start: 0, end: 0 }]),
      as('p3', 'symbol', [{ start: 5, end: 6 }], { symbol: 'take' }),
      as('p4', 'way', [
        { start: 7, end: 7 },
        { start: 8, end: 9 },
      ]),
      as('p5', 'pair', []),
    ]
    const all = notesOf([passage, ...others] as Schemas['PassageHere'][], [], [], null)
    expect(all.map((n) => n.head)).toEqual([
      'Passage 4 · the whole file · 6 min',
      'Passage 4 · read at commit abcdef0123 · two things side by side · 6 min',
      'Passage 4 · lines 3-12 · 6 min',
      'Passage 4 · take, lines 5-6 · a symbol · 6 min',
      'Passage 4 · line 7 · a way · 6 min',
      'Passage 4 · lines 8-9 · a way · 6 min',
    ])
    expect([all[0]!.caution, [...marksOf(all).keys()]]).toEqual(['careful', [1, 3, 5, 7, 8]])
    const notes = notesOf([passage] as Schemas['PassageHere'][], tagged, [], '2025-03-02T00:00:00Z')
    expect(notes[1]!.aside).toBe('“wrong” · Kip, 2 months earlier')
    expect(notes.map((n) => n.head)).toEqual(['Passage 4 · lines 3-12 · 6 min', '◇ FIXME'])
    expect([...marksOf(notes)].map(([line, m]) => line + m[0]!.glyph)).toEqual(['3▬', '9◇'])
  })
})

describe('a pair', () => {
  const a = 'one\ntwo\nthree\n'
  const b = 'one\ntwo and more\nthree\nfour\n'
  const hunks = [
    { old_start: 2, old_count: 1, new_start: 2, new_count: 1 },
    { old_start: 3, old_count: 0, new_start: 4, new_count: 1 },
  ]
  it('marks what differs within lines, and lines that one side lacks', () => {
    expect(lineStarts(a)).toEqual([0, 4, 8, 14, 14])
    const changes = changesIn(hunks, a, b)
    // what is put together from the changes is the other text
    let out = ''
    let last = 0
    for (const c of changes) {
      out += a.slice(last, c.fromA) + b.slice(c.fromB, c.toB)
      last = c.toA
    }
    expect(out + a.slice(last)).toBe(b)
    expect(b.slice(changes[0]!.fromB, changes[0]!.toB)).toBe(' and more')
  })
  it('aligns symbols by name', () => {
    const symbol = (qualified: string, start: number, end: number) =>
      ({ qualified, kind: 'function', name_line: start, start, end }) as Schemas['Symbol']
    const rows = aligned(
      [symbol('x', 1, 1), symbol('y', 2, 2), symbol('z', 3, 3)],
      [symbol('y', 2, 2), symbol('x', 1, 1), symbol('w', 4, 4)],
      hunks,
    )
    expect(rows.map((r) => `${r.name} ${r.a?.lines ?? '-'}:${r.b?.lines ?? '-'} ${r.differs}`)).toEqual([
      'x 1:1 false',
      'y 1:1 true',
      'z 1:- true',
      'w -:1 true',
    ])
  })
})

it('an extract is copied with its places, whatever its text holds', () => {
  const x = {
    commit: 'c0ffee',
    name: 'F',
    lines: 2,
    pieces: [
      {
        path: 'a.md',
        language: 'C++',
        qualified: 'F',
        kind: 'function',
        from: 3,
        to: 4,
        text: '```\nx',
        depth: 0,
        by: -1,
        line: 0,
        certainty: 'scope',
      },
    ],
    elsewhere: [{ origin: { to: 'standard-library', name: 'fmt', version: '' }, through: 'fmt', names: ['Println'] }],
    unresolved: ['y'],
    left: [],
    left_total: 2,
  } as unknown as Schemas['ExtractInfo']
  expect(asMarkdown(x)).toContain('````c\n```\nx\n````')
  expect(asMarkdown(x)).toContain('- left out by the limits: 2 symbols')
  expect(asText(x)).toContain('a.md:3-4\n\n```\nx\n')
  expect(asText(x)).toContain('from the standard library: fmt: Println')
})

it('uses stand apart by how sure they are and what they do', () => {
  const site = (line: number, role: string, certainty = 'scope') => ({ line, column: 0, role, certainty, in: '', text: '' })
  const file = (path: string, role: string, sites: ReturnType<typeof site>[]) => ({ path, role, certainty: 'scope', sites, more: 1 })
  const groups = usesBy([
    file('a.go', 'source', [site(1, 'call'), site(2, 'type'), site(3, 'call', 'name')]),
    file('a_test.go', 'test', [site(4, 'call')]),
  ] as unknown as Schemas['UsesInfo'][])
  expect(groups.map((g) => `${g.certainty} ${g.role} ${g.places}`)).toEqual([
    'scope calls 1',
    'scope types 1',
    'scope in tests 1',
    'name calls 1',
  ])
  expect(groups.flatMap((g) => g.files).reduce((n, f) => n + f.more, 0)).toBe(2)
})
