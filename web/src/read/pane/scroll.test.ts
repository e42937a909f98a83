import { EditorState } from '@codemirror/state'
import { EditorView } from '@codemirror/view'
import { expect, test } from 'vitest'
import { scrolling } from './scroll'

/** A pane of 100 lines that was turned sideways, after a line was brought into sight. */
function after(line: number, y: 'start' | 'nearest', from: number, extensions = [scrolling]) {
  const doc = Array.from({ length: 100 }, (_, i) => (i === 45 ? '' : `line ${i + 1}`)).join('\n')
  const view = new EditorView({ parent: document.body, state: EditorState.create({ doc, extensions }) })
  Object.defineProperty(view.scrollDOM, 'clientHeight', { value: 200 })
  view.scrollDOM.scrollTop = from
  view.scrollDOM.scrollLeft = 166
  const at = view.state.doc.line(line).from
  view.dispatch({ effects: EditorView.scrollIntoView(at, { y, yMargin: 20 }) })
  ;(view as unknown as { measure: () => void }).measure()
  const { top } = view.lineBlockAt(at)
  const found = { left: view.scrollDOM.scrollLeft, top: view.scrollDOM.scrollTop }
  view.destroy()
  return { ...found, row: { top } }
}

test.each([1, 46, 100])('line %s is seen from its first letter on', (line) => expect(after(line, 'start', 0).left).toBe(0))
test('it stands below the top by the margin', () => {
  const x = after(46, 'start', 0)
  expect(x.top).toBe(x.row.top - 20)
})
test('what is below the pane comes up, what is above it down', () => {
  expect(after(100, 'nearest', 0).top).toBeGreaterThan(0)
  const above = after(10, 'nearest', 5000)
  expect(above.top).toBe(above.row.top - 20)
})
