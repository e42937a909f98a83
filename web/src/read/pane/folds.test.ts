import { EditorState } from '@codemirror/state'
import { EditorView } from '@codemirror/view'
import { afterEach, describe, expect, it } from 'vitest'
import { foldAt, folds, lineShown, setFolding, type Marks } from './folds'
import { openRegions, type Skim } from './skim'

// 12 lines: imports 1-3, a function 5-10 that tells by its second line, a block 7-9 in it
const text = ['import a', 'import b', 'import c', '', '// old', 'func f() {', '  if x {', '    y()', '  }', '}', '', 'end'].join('\n')
const skim: Skim = {
  commit: 'c',
  path: 'a.go',
  total: 12,
  reason: '',
  kinds: ['whole', 'imports', 'symbol', 'block'],
  starts: [1, 1, 5, 7],
  ends: [12, 3, 10, 9],
  tells: [0, 0, 6, 7],
  parents: [-1, 0, 0, 2],
  labels: ['', '3 imports: a, b, c', 'F does.', ''],
  worth: [1, 0.1, 0.9, 0.5],
  whys: [[], [], [], []],
  own: [3, 3, 3, 3],
  order: [2, 3, 1],
}

describe('folds in the text', () => {
  let view: EditorView | undefined
  afterEach(() => view?.destroy())
  function shown(budget: number | null, marks: Marks = new Map(), of = skim, doc = text) {
    view = new EditorView({ parent: document.body, state: EditorState.create({ doc, extensions: folds() }) })
    view.dispatch({ effects: setFolding.of({ skim: of, open: openRegions(of, budget), marks }) })
    return view
  }
  const lines = (v: EditorView) => [...v.contentDOM.querySelectorAll('.cm-line')].map((l) => l.textContent)
  const from = (v: EditorView, line: number) => v.state.doc.line(line).from

  it('shows everything within a wide budget', () => {
    const v = shown(null)
    expect(lines(v)).toEqual(text.split('\n'))
    expect([foldAt(v.state, 0), lineShown(v.state, from(v, 8))]).toEqual([0, 8])
  })
  it('shows one line of each fold, the telling one, with what it hides', () => {
    const v = shown(1)
    const got = lines(v)
    expect(got.length).toBe(5)
    expect(got[0]).toMatch(/^… .*3 imports: a, b, c/)
    expect(got[2]).toMatch(/^func f\(\) \{ … /)
    expect([got[1], got[3], got[4]]).toEqual(['', '', 'end'])
    expect([foldAt(v.state, 0), foldAt(v.state, from(v, 5)), foldAt(v.state, from(v, 12))]).toEqual([1, 2, 0])
    expect([lineShown(v.state, 0), lineShown(v.state, from(v, 5)), lineShown(v.state, from(v, 12))]).toEqual([1, 6, 12])
  })
  it('keeps the indent of a fold inside of something open', () => {
    const open = openRegions(skim, 1, new Map([[2, true]]))
    const v = shown(1)
    v.dispatch({ effects: setFolding.of({ skim, open, marks: new Map() }) })
    expect(lines(v)[4]).toMatch(/^ {2}if x \{ … /)
  })
  it('tells the numbers of the lines that it shows', () => {
    const v = shown(1)
    expect([...v.contentDOM.querySelectorAll<HTMLElement>('.cm-line')].map((l) => [l.dataset.line, l.dataset.folded])).toEqual([
      ['1', '1'],
      ['4', undefined],
      ['6', '2'],
      ['11', undefined],
      ['12', undefined],
    ])
    expect([...v.dom.querySelectorAll('.cm-numbers .cm-number')].map((n) => n.getAttribute('aria-label'))).toContain('Line 6')
  })
  it('tells the marks that a fold hides, and shows those of its telling line beside it', () => {
    const mark = (glyph: string) => [{ glyph, title: `about ${glyph}`, kind: 'tagged' as const }]
    const v = shown(
      1,
      new Map([
        [6, mark('◇')],
        [8, mark('✎')],
      ]),
    )
    expect(lines(v)[2]).toContain('✎')
    expect(lines(v)[2]).not.toContain('◇')
    expect([...v.dom.querySelectorAll<HTMLElement>('.cm-mark-tagged')].map((m) => m.title)).toEqual(['about ◇'])
  })
  it('has signs that open and fold', () => {
    const v = shown(1)
    expect([...v.dom.querySelectorAll<HTMLElement>('button.cm-sign')].map((s) => [s.textContent, s.dataset.region])).toEqual([
      ['+', '1'],
      ['+', '2'],
    ])
    v.dispatch({ effects: setFolding.of({ skim, open: openRegions(skim, 1, new Map([[2, true]])), marks: new Map() }) })
    expect([...v.dom.querySelectorAll<HTMLElement>('button.cm-sign')].map((s) => [s.textContent, s.dataset.region])).toEqual([
      ['+', '1'],
      ['−', '2'],
      ['+', '3'],
    ])
  })
  it('folds nothing where the skim is of another text', () => {
    expect(lines(shown(1, new Map(), { ...skim, total: 13 }))).toEqual(text.split('\n'))
    expect(lines(shown(1, new Map(), { ...skim, total: 1 }, ''))).toEqual([''])
  })
})
