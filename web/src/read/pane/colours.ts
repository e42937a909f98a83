import { RangeSetBuilder, StateEffect, type Extension } from '@codemirror/state'
import { Decoration, EditorView, ViewPlugin, type DecorationSet, type ViewUpdate } from '@codemirror/view'
import { api, data } from '@/api/client'
import type { FileAt } from './text'

/** How many lines' colours are asked for at once. */
const pageSize = 400
/** How often the colours of a long file are asked for until those of all of it
 * are there, and how long to wait, in milliseconds. */
const tries = 6
const pause = 700

const came = StateEffect.define<null>()

/** Colours the lines in sight, page by page as they come into it. A page that
 * does not come leaves its lines plain and is asked for again when seen anew. */
export function colours(file: FileAt): Extension {
  return ViewPlugin.fromClass(
    class {
      decorations: DecorationSet = Decoration.none
      pages = new Map<number, number[][] | null>() // null: asked for
      classes: Decoration[] = []
      stop = new AbortController()
      constructor(readonly view: EditorView) {
        this.want()
      }
      update(u: ViewUpdate) {
        if (u.docChanged || u.viewportChanged || u.transactions.some((t) => t.effects.some((e) => e.is(came)))) {
          this.want()
          this.draw()
        }
      }
      destroy() {
        this.stop.abort()
      }
      want() {
        const doc = this.view.state.doc
        if (!doc.length) return
        for (const { from, to } of this.view.visibleRanges) {
          const last = Math.floor((doc.lineAt(to).number - 1) / pageSize)
          for (let n = Math.floor((doc.lineAt(from).number - 1) / pageSize); n <= last; n++) if (!this.pages.has(n)) void this.load(n)
        }
      }
      async load(n: number) {
        this.pages.set(n, null)
        const { repository, path, at } = file
        const params = { path: { repository }, query: { path, at, from: n * pageSize + 1, to: (n + 1) * pageSize } }
        const { signal } = this.stop
        try {
          for (let k = 0; k < tries; k++) {
            const t = await data(api.GET('/api/repositories/{repository}/tokens', { params, signal }))
            if (signal.aborted) return
            if (!this.classes.length) this.classes = t.classes.map((c) => Decoration.mark({ class: `c-${c}` }))
            this.pages.set(n, t.lines)
            this.view.dispatch({ effects: came.of(null) })
            if (!t.rough) return
            await new Promise((done) => setTimeout(done, pause * (k + 1)))
            if (signal.aborted) return
          }
        } catch {
          if (!signal.aborted) this.pages.delete(n)
        }
      }
      draw() {
        const b = new RangeSetBuilder<Decoration>()
        const doc = this.view.state.doc
        for (const { from, to } of this.view.visibleRanges) {
          for (let at = from; at <= to;) {
            const line = doc.lineAt(at)
            const tokens = this.pages.get(Math.floor((line.number - 1) / pageSize))?.[(line.number - 1) % pageSize] ?? []
            let start = line.from
            for (let i = 0; i + 1 < tokens.length && start < line.to; i += 2) {
              const end = Math.min(line.to, start + tokens[i]!)
              // 0 is plain
              if (tokens[i + 1] && end > start) b.add(start, end, this.classes[tokens[i + 1]!]!)
              start = end
            }
            at = line.to + 1
          }
        }
        this.decorations = b.finish()
      }
    },
    { decorations: (p) => p.decorations },
  )
}
