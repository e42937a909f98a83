import { EditorView } from '@codemirror/view'

/** Brings lines into sight from their first letters on. The library asks where a
 * position is drawn; at the end of a line above a room that is the end of the room,
 * and the pane would turn sideways to it. */
export const scrolling = EditorView.scrollHandler.of((view, range, { y, yMargin }) => {
  const block = view.lineBlockAt(range.head)
  const row = Array.isArray(block.type) ? block.type[0]! : block // without the room below it
  const pane = view.scrollDOM
  const top = row.top - yMargin
  const bottom = row.bottom + yMargin - pane.clientHeight
  if (y === 'start' || top < pane.scrollTop) pane.scrollTop = top
  else if (bottom > pane.scrollTop) pane.scrollTop = bottom
  pane.scrollLeft = 0
  return true
})
