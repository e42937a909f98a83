import { useLocalStorage } from '@vueuse/core'

/** The address by which this person's editor opens a place on this machine, with
 * {path}, {line} and {end} in it; "": none is set. The folder a checkout lies in
 * is a matter of the machine: it is kept in this browser. */
export const editorPattern = useLocalStorage('juxtagram.editor', '')

/** Schemes that run in the page or read from it, and are no editor's. */
const refused = /^(?:javascript|data|vbscript|blob|file|about):/i

/** Why a pattern cannot be used; "": it can. */
export function faultOf(pattern: string): string {
  const p = pattern.trim()
  if (!/^[a-z][a-z0-9+.-]*:/i.test(p)) return 'It begins with a scheme, as in “editor://open?…”.'
  if (refused.test(p)) return 'This scheme opens no editor.'
  if (!p.includes('{path}')) return 'It must say where the path goes: {path}.'
  return ''
}

/** The address of a place in the editor. Slashes stay as they are. */
export function editorAddress(pattern: string, path: string, line: number, end: number): string {
  const escaped = path.split('/').map(encodeURIComponent).join('/')
  return pattern.trim().replaceAll('{path}', escaped).replaceAll('{line}', String(line)).replaceAll('{end}', String(end))
}
