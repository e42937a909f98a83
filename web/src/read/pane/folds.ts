import { RangeSetBuilder, StateEffect, StateField, type EditorState, type Extension, type Text } from '@codemirror/state'
import { Decoration, EditorView, gutter, GutterMarker, WidgetType, ViewPlugin, type DecorationSet, type ViewUpdate } from '@codemirror/view'
import { foldedRegions, note, type Skim } from './skim'

/** What stands on a line beside its text. */
export interface LineMark {
  glyph: string
  title: string
  kind: 'starts' | 'tagged' | 'planned' | 'written'
}
export type Marks = ReadonlyMap<number, LineMark[]>

export interface Folding {
  skim: Skim | null
  open: Uint8Array
  marks: Marks
}
export const setFolding = StateEffect.define<Folding>()

class Note extends WidgetType {
  constructor(
    readonly region: number,
    readonly text: string,
    readonly indent: string,
  ) {
    super()
  }
  override eq(other: Note) {
    return other.region === this.region && other.text === this.text && other.indent === this.indent
  }
  override toDOM() {
    const span = document.createElement('span')
    span.textContent = this.indent
    const button = document.createElement('button')
    button.className = 'cm-fold'
    button.tabIndex = -1
    button.dataset.region = String(this.region)
    button.textContent = this.text
    button.title = 'Open this (Enter on its line, or a click)'
    span.append(button)
    return span
  }
  override ignoreEvent() {
    return false
  }
}

interface Folded extends Folding {
  decorations: DecorationSet
  folded: number[]
  at: Map<number, number> // start of a visual line in the text → folded region
}

/** The marks on the lines that a fold hides. */
function hidden(f: Folding, region: number): string[] {
  const out: string[] = []
  const { starts, ends, tells } = f.skim!
  for (let n = starts[region]!; n <= ends[region]!; n++) if (n !== tells[region]) out.push(...(f.marks.get(n) ?? []).map((m) => m.glyph))
  return out
}

function build(f: Folding, doc: Text): Folded {
  const b = new RangeSetBuilder<Decoration>()
  const at = new Map<number, number>()
  const s = f.skim
  const folded = s && s.total === doc.lines && doc.length ? foldedRegions(s, f.open) : []
  for (const r of folded) {
    const first = doc.line(s!.starts[r]!)
    const last = doc.line(s!.ends[r]!)
    const text = `… ${note(s!, r, hidden(f, r))}`
    at.set(first.from, r)
    if (s!.tells[r]) {
      const tell = doc.line(s!.tells[r]!)
      if (tell.from > first.from) b.add(first.from, tell.from, Decoration.replace({}))
      if (last.to > tell.to) b.add(tell.to, last.to, Decoration.replace({ widget: new Note(r, text, ' ') }))
      else b.add(tell.to, tell.to, Decoration.widget({ widget: new Note(r, text, ' '), side: 1 }))
    } else if (last.to > first.from) {
      const indent = /^\s*/.exec(first.text)![0]
      b.add(first.from, last.to, Decoration.replace({ widget: new Note(r, text, indent) }))
    }
  }
  return { ...f, decorations: b.finish(), folded, at }
}

/** Each visual line carries the number of the line that it shows. */
const numbered = ViewPlugin.fromClass(
  class {
    decorations: DecorationSet
    constructor(view: EditorView) {
      this.decorations = this.draw(view)
    }
    update(u: ViewUpdate) {
      if (u.docChanged || u.viewportChanged || u.transactions.some((t) => t.effects.some((e) => e.is(setFolding))))
        this.decorations = this.draw(u.view)
    }
    draw(view: EditorView) {
      const b = new RangeSetBuilder<Decoration>()
      for (const block of view.viewportLineBlocks) {
        const folded = foldAt(view.state, block.from)
        const attributes: Record<string, string> = { 'data-line': String(lineShown(view.state, block.from)) }
        if (folded) attributes['data-folded'] = String(folded)
        b.add(block.from, block.from, Decoration.line({ attributes }))
      }
      return b.finish()
    }
  },
  { decorations: (p) => p.decorations },
)

const field = StateField.define<Folded>({
  create: (state) => build({ skim: null, open: new Uint8Array(), marks: new Map() }, state.doc),
  update(value, tr) {
    for (const e of tr.effects) if (e.is(setFolding)) return build(e.value, tr.state.doc)
    return tr.docChanged ? build(value, tr.state.doc) : value
  },
  provide: (f) => EditorView.decorations.from(f, (v) => v.decorations),
})

/** The folded region that the visual line at a position shows; 0: none. */
export const foldAt = (state: EditorState, from: number) => state.field(field).at.get(from) ?? 0

/** The line whose text the visual line at a position shows. */
export function lineShown(state: EditorState, from: number): number {
  const f = state.field(field)
  const r = f.at.get(from)
  return r ? f.skim!.tells[r] || f.skim!.starts[r]! : state.doc.lineAt(from).number
}

/** The open region that a line is the telling one of, the outermost; 0: none. */
function openOn(f: Folded, line: number): number {
  const s = f.skim!
  for (let r = 1; r < s.starts.length && s.starts[r]! <= line; r++) {
    if (s.ends[r]! >= line && f.open[r] && s.kinds[r] !== 'group' && (s.tells[r] || s.starts[r]) === line) return r
  }
  return 0
}

class Sign extends GutterMarker {
  constructor(
    readonly text: string,
    readonly region: number,
    readonly title: string,
    readonly of: string,
  ) {
    super()
  }
  override eq(other: Sign) {
    return other.text === this.text && other.region === this.region && other.title === this.title
  }
  override toDOM() {
    const el = document.createElement(this.region ? 'button' : 'span')
    el.className = this.of
    el.textContent = this.text
    el.title = this.title
    if (this.region) {
      el.dataset.region = String(this.region)
      ;(el as HTMLButtonElement).tabIndex = -1
    }
    return el
  }
}

class LineNumber extends GutterMarker {
  constructor(readonly line: number) {
    super()
  }
  override eq(other: LineNumber) {
    return other.line === this.line
  }
  override toDOM() {
    const el = document.createElement('button')
    el.className = 'cm-number'
    el.tabIndex = -1
    el.textContent = String(this.line)
    el.setAttribute('aria-label', `Line ${this.line}`)
    return el
  }
}

/** Folds from data: numbers, fold signs and marks at the left, notes in the text. */
export function folds(): Extension {
  return [
    field,
    numbered,
    gutter({
      class: 'cm-numbers',
      lineMarker: (view, line) => new LineNumber(lineShown(view.state, line.from)),
      lineMarkerChange: (u) => u.transactions.some((t) => t.effects.some((e) => e.is(setFolding))),
      initialSpacer: (view) => new LineNumber(view.state.doc.lines),
      updateSpacer: (spacer, u) => (u.docChanged ? new LineNumber(u.state.doc.lines) : spacer),
    }),
    gutter({
      class: 'cm-signs',
      lineMarker(view, line) {
        const f = view.state.field(field)
        if (!f.skim) return null
        const folded = f.at.get(line.from)
        if (folded) return new Sign('+', folded, 'Open this', 'cm-sign')
        const open = openOn(f, view.state.doc.lineAt(line.from).number)
        return open ? new Sign('−', open, 'Fold this', 'cm-sign cm-sign-open') : null
      },
      lineMarkerChange: (u) => u.transactions.some((t) => t.effects.some((e) => e.is(setFolding))),
      initialSpacer: () => new Sign('+', 0, '', 'cm-sign'),
    }),
    gutter({
      class: 'cm-marks',
      lineMarker(view, line) {
        const f = view.state.field(field)
        const marks = f.marks.get(lineShown(view.state, line.from))
        if (!marks?.length) return null
        return new Sign(marks[0]!.glyph, 0, marks.map((m) => m.title).join('\n'), `cm-mark cm-mark-${marks[0]!.kind}`)
      },
      lineMarkerChange: (u) => u.transactions.some((t) => t.effects.some((e) => e.is(setFolding))),
      initialSpacer: () => new Sign('◇', 0, '', 'cm-mark'),
    }),
  ]
}
