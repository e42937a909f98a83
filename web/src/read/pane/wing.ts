import { StateEffect, StateField, type Extension } from '@codemirror/state'
import { gutter, GutterMarker, type EditorView } from '@codemirror/view'

/** How young each line is, and which commit it comes from. */
export interface Wing {
  youth: readonly number[] // of each line: 0 to 1
  commits: readonly number[] // of each line: a number of its commit
  at: number // the commit that is looked at; -1: none
  title: (line: number) => string
}
export const setWing = StateEffect.define<Wing | null>()

const field = StateField.define<Wing | null>({
  create: () => null,
  update(value, tr) {
    for (const e of tr.effects) if (e.is(setWing)) return e.value
    return value
  },
})

class Bar extends GutterMarker {
  constructor(
    readonly share: number,
    readonly same: boolean,
    readonly title: string,
  ) {
    super()
  }
  override eq(other: Bar) {
    return other.share === this.share && other.same === this.same && other.title === this.title
  }
  override toDOM() {
    const bar = document.createElement('span')
    bar.className = this.same ? 'cm-age cm-age-same' : 'cm-age'
    bar.style.width = `${Math.round(4 + 38 * this.share)}px`
    bar.title = this.title
    return bar
  }
}

/** The bar of a visual line: of the lines that a fold hides, the youngest. */
function marker(view: EditorView, from: number, to: number): Bar | null {
  const w = view.state.field(field)
  if (!w) return null
  const first = view.state.doc.lineAt(from).number
  const last = view.state.doc.lineAt(to).number
  let line = first
  for (let n = first; n <= last; n++) if ((w.youth[n - 1] ?? 0) > (w.youth[line - 1] ?? 0)) line = n
  const share = w.youth[line - 1]
  if (share === undefined) return null
  return new Bar(share, w.at >= 0 && w.commits[line - 1] === w.at, w.title(line))
}

/** The small right wing of the text: an ochre bar for each line, longer where
 * the line is younger. */
export const wing: Extension = [
  field,
  gutter({
    class: 'cm-wing',
    side: 'after',
    lineMarker: (view, block) => marker(view, block.from, block.to),
    lineMarkerChange: (u) => u.transactions.some((t) => t.effects.some((e) => e.is(setWing))),
  }),
]
