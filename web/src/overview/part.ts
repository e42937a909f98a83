import type { Schemas } from '@/api/client'

/** How the root's part is written in an address: a path cannot be this. */
export const root = '.'

/** The folder of the innermost part around a path; null: it belongs to none. */
export function partOf(parts: Pick<Schemas['Part'], 'path'>[], path: string): string | null {
  let best: string | null = null
  for (const p of parts) {
    if ((p.path === '' || path === p.path || path.startsWith(`${p.path}/`)) && (best === null || p.path.length > best.length)) best = p.path
  }
  return best
}

/** Keeps what belongs to a part; "" keeps all. */
export function narrowed<T>(list: T[], parts: Pick<Schemas['Part'], 'path'>[], part: string, path: (item: T) => string): T[] {
  if (!part) return list
  const folder = part === root ? '' : part
  return list.filter((item) => partOf(parts, path(item)) === folder)
}

/** The platform of the machine this is read on, in the words of recipes; "": not
 * told. */
export function platformHere(agent: string): string {
  if (/android/i.test(agent)) return 'Android'
  if (/iphone|ipad/i.test(agent)) return 'iOS'
  if (/windows/i.test(agent)) return 'Windows'
  if (/mac os/i.test(agent)) return 'macOS'
  return /linux/i.test(agent) ? 'Linux' : ''
}
