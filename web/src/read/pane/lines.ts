import { RangeSetBuilder, StateEffect, StateField, type Extension } from '@codemirror/state'
import { Decoration, EditorView, ViewPlugin, WidgetType, type DecorationSet, type ViewUpdate } from '@codemirror/view'
import type { Range } from '@/words/range'

/** What is marked in the text: lines, names, hits of a search. */
export interface Marked {
  range: Range | null
  word: { line: number; start: number; end: number } | null // in UTF-16 units
  hits: readonly Hit[]
  hit: number // index of the one at hand; -1: none
}
export interface Hit {
  from: number // positions in the text
  to: number
}
export const setMarked = StateEffect.define<Marked>()

const state = StateField.define<Marked>({
  create: () => ({ range: null, word: null, hits: [], hit: -1 }),
  update(value, tr) {
    for (const e of tr.effects) if (e.is(setMarked)) return e.value
    return value
  },
})

const inRange = Decoration.line({ class: 'cm-in' })
const asked = Decoration.mark({ class: 'cm-asked' })
const found = Decoration.mark({ class: 'cm-hit' })
const foundHere = Decoration.mark({ class: 'cm-hit cm-hit-here' })

/** The first hit that ends behind a position. */
function firstHit(hits: readonly Hit[], at: number): number {
  let lo = 0
  let hi = hits.length
  while (lo < hi) {
    const mid = (lo + hi) >> 1
    if (hits[mid]!.to <= at) lo = mid + 1
    else hi = mid
  }
  return lo
}

const marking = ViewPlugin.fromClass(
  class {
    decorations: DecorationSet
    constructor(view: EditorView) {
      this.decorations = this.draw(view)
    }
    update(u: ViewUpdate) {
      if (u.docChanged || u.viewportChanged || u.transactions.some((t) => t.effects.some((e) => e.is(setMarked)))) {
        this.decorations = this.draw(u.view)
      }
    }
    draw(view: EditorView) {
      const { range, word, hits, hit } = view.state.field(state)
      const doc = view.state.doc
      const all: { from: number; to: number; value: Decoration }[] = []
      for (const { from, to } of view.visibleRanges) {
        const first = doc.lineAt(from).number
        const last = doc.lineAt(to).number
        if (range) {
          for (let n = Math.max(range.start, first); n <= Math.min(range.end, last); n++) {
            all.push({ from: doc.line(n).from, to: doc.line(n).from, value: inRange })
          }
        }
        if (word && word.line >= first && word.line <= last && word.line <= doc.lines) {
          const line = doc.line(word.line)
          const end = Math.min(line.to, line.from + word.end)
          if (end > line.from + word.start) all.push({ from: line.from + word.start, to: end, value: asked })
        }
        for (let i = firstHit(hits, from); i < hits.length && hits[i]!.from < to; i++) {
          if (hits[i]!.to <= doc.length) all.push({ ...hits[i]!, value: i === hit ? foundHere : found })
        }
      }
      all.sort((a, b) => a.from - b.from || a.value.startSide - b.value.startSide)
      const b = new RangeSetBuilder<Decoration>()
      for (const d of all) b.add(d.from, d.to, d.value)
      return b.finish()
    }
  },
  { decorations: (p) => p.decorations },
)

/** A place below a line that the page fills. */
class Room extends WidgetType {
  constructor(readonly element: HTMLElement) {
    super()
  }
  override eq(other: Room) {
    return other.element === this.element
  }
  override toDOM() {
    return this.element
  }
  override ignoreEvent() {
    return true
  }
}
/** Opens room below a line, or closes it. */
export const setRoom = StateEffect.define<{ line: number; element: HTMLElement } | null>()

const room = StateField.define<DecorationSet>({
  create: () => Decoration.none,
  update(value, tr) {
    for (const e of tr.effects) {
      if (!e.is(setRoom)) continue
      if (!e.value || e.value.line > tr.state.doc.lines) return Decoration.none
      const at = tr.state.doc.line(e.value.line).to
      return Decoration.set(Decoration.widget({ widget: new Room(e.value.element), block: true, side: 2 }).range(at))
    }
    return tr.docChanged ? Decoration.none : value
  },
  provide: (f) => EditorView.decorations.from(f),
})

/** Lines, names and hits that are marked, and room between lines. */
export const lines: Extension = [state, marking, room]
