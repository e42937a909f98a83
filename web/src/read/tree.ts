import { reactive } from 'vue'
import type { Schemas } from '@/api/client'

export interface Row {
  path: Schemas['PathInfo']
  depth: number
}

/** A folder tree that is fetched as it is opened. */
export class Tree {
  readonly children = reactive(new Map<string, Schemas['PathInfo'][]>())
  readonly open = reactive(new Set<string>())
  readonly asked = new Set<string>()

  constructor(private readonly fetch: (folder: string) => Promise<Schemas['PathInfo'][]>) {}

  /** Opens a folder, and every folder in it that is alone there. */
  async unfold(folder: string): Promise<void> {
    this.open.add(folder)
    if (this.asked.has(folder)) return
    this.asked.add(folder)
    try {
      const list = await this.fetch(folder)
      this.children.set(folder, list)
      if (folder && list.length === 1 && list[0]!.folder) await this.unfold(list[0]!.path)
    } catch (e) {
      this.asked.delete(folder)
      this.open.delete(folder)
      throw e
    }
  }

  fold(folder: string) {
    this.open.delete(folder)
  }

  /** Opens every folder on the way to a path, and the path itself. */
  async reveal(path: string): Promise<void> {
    const parts = path.split('/')
    for (let i = 1; i <= parts.length; i++) await this.unfold(parts.slice(0, i).join('/'))
  }

  /** The rows that are open, in order. */
  rows(order: (a: Schemas['PathInfo'], b: Schemas['PathInfo']) => number): Row[] {
    const out: Row[] = []
    const walk = (folder: string, depth: number) => {
      for (const path of [...(this.children.get(folder) ?? [])].sort(order)) {
        out.push({ path, depth })
        if (path.folder && this.open.has(path.path)) walk(path.path, depth + 1)
      }
    }
    walk('', 0)
    return out
  }
}

const number = (n: number | null | undefined) => n ?? -1

/** What rows can be ordered by. Folders stay before files in tree order only. */
export const orders = {
  tree: (a: Schemas['PathInfo'], b: Schemas['PathInfo']) => Number(b.folder) - Number(a.folder) || (a.name < b.name ? -1 : 1),
  lines: (a: Schemas['PathInfo'], b: Schemas['PathInfo']) => number(b.lines) - number(a.lines) || (a.name < b.name ? -1 : 1),
  size: (a: Schemas['PathInfo'], b: Schemas['PathInfo']) => number(b.size) - number(a.size) || (a.name < b.name ? -1 : 1),
  changes: (a: Schemas['PathInfo'], b: Schemas['PathInfo']) => number(b.commits) - number(a.commits) || (a.name < b.name ? -1 : 1),
  recent: (a: Schemas['PathInfo'], b: Schemas['PathInfo']) => number(b.recent) - number(a.recent) || (a.name < b.name ? -1 : 1),
}
export type OrderName = keyof typeof orders
