import type { ChangeInfo } from './useCommit'

/** A folder or file of a comparison, with what lies below it summed. */
export interface Fold {
  path: string
  name: string
  depth: number
  file: ChangeInfo | null
  index: number // of a file among the changes
  files: number
  added: number
  deleted: number
  lines: number // at the pin, as far as known
  children: Fold[]
}

const make = (path: string, name: string, depth: number): Fold => ({
  path,
  name,
  depth,
  file: null,
  index: -1,
  files: 0,
  added: 0,
  deleted: 0,
  lines: 0,
  children: [],
})

/** The changes as a tree of folders; a folder that holds nothing but another is
 * one with it. */
export function foldersOf(changes: readonly ChangeInfo[]): Fold {
  const root = make('', '', 0)
  const at = new Map<string, Fold>([['', root]])
  const folder = (path: string): Fold => {
    const found = at.get(path)
    if (found) return found
    const cut = path.lastIndexOf('/')
    const up = folder(cut < 0 ? '' : path.slice(0, cut))
    const f = make(path, path.slice(cut + 1), up.depth + 1)
    at.set(path, f)
    up.children.push(f)
    return f
  }
  changes.forEach((c, index) => {
    const cut = c.path.lastIndexOf('/')
    const up = folder(cut < 0 ? '' : c.path.slice(0, cut))
    const f = { ...make(c.path, c.path.slice(cut + 1), up.depth + 1), file: c, index, files: 1, added: c.added, deleted: c.deleted }
    f.lines = Math.max(0, c.lines)
    up.children.push(f)
  })
  const settle = (f: Fold, depth: number) => {
    f.depth = depth
    while (!f.file && f.children.length === 1 && f.path && !f.children[0]!.file) {
      const only = f.children[0]!
      Object.assign(f, { path: only.path, name: `${f.name}/${only.name}`, children: only.children })
    }
    for (const c of f.children) {
      settle(c, depth + 1)
      if (!f.file) {
        f.files += c.files
        f.added += c.added
        f.deleted += c.deleted
        f.lines += c.lines
      }
    }
    f.children.sort((a, b) => Number(!!a.file) - Number(!!b.file) || a.name.localeCompare(b.name))
  }
  settle(root, -1)
  return root
}

/** The rows of a tree of which some folders are open. */
export function rowsOfFolds(root: Fold, open: ReadonlySet<string>): Fold[] {
  const out: Fold[] = []
  const walk = (f: Fold) => {
    for (const c of f.children) {
      out.push(c)
      if (!c.file && open.has(c.path)) walk(c)
    }
  }
  walk(root)
  return out
}
