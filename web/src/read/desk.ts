import type { KeySheet } from '@/frame/help'

/** What stands at the right of the text. */
export type Side = 'margin' | 'about' | 'name'

/** The keys of the desk. */
export const deskKeys: KeySheet['keys'] = [
  ['l', 'to the lines'],
  ['↑ ↓', 'choose the line above or below; with Shift, more lines'],
  ['← →', 'step from name to name on the line'],
  ['Enter', 'what the name means, in place; on a folded line: open it'],
  ['g', 'go to the definition that is shown'],
  ['u', 'all uses of the name'],
  ['x', 'extract: the name with all it needs'],
  ['- =', 'ten lines fewer, ten more'],
  ['. ,', 'open all, and go back'],
  ['f', 'find in this file'],
  ['o', 'narrow the outline'],
  ['q', 'quieten the margin'],
  ['h', 'line history, or not'],
  ['H', 'the story of this file'],
  ['i', 'about this file, and back'],
  ['b', 'put something beside it'],
  ['t', 'the same place at another commit'],
  ['c', 'copy path and lines'],
  ['e E', 'open in your editor; set your editor'],
  ['a', 'add to the plan at hand'],
]
