import type { Schemas } from '@/api/client'

type MapInfo = Schemas['MapInfo']
type SpanInfo = Schemas['SpanInfo']

/** The tree of a survey as columns: one item for each row, folders before what
 * is below them. */
export class Chart {
  readonly size: number
  readonly depth: Uint16Array
  readonly parent: Int32Array
  readonly below: Int32Array
  private readonly folded: string[] // names with letter case folded, made when first asked for
  private readonly byPath = new Map<string, number>()
  private indexed = false

  constructor(readonly info: MapInfo) {
    const n = info.names.length
    this.size = n
    this.below = Int32Array.from(info.below)
    this.depth = new Uint16Array(n)
    this.parent = new Int32Array(n).fill(-1)
    this.folded = []
    const open: number[] = []
    for (let i = 0; i < n; i++) {
      while (open.length && i > open[open.length - 1]! + this.below[open[open.length - 1]!]!) open.pop()
      this.depth[i] = open.length
      if (open.length) this.parent[i] = open[open.length - 1]!
      if (this.below[i]) open.push(i)
    }
  }

  isFolder(row: number): boolean {
    return this.below[row]! > 0
  }

  name(row: number): string {
    return this.info.names[row]!
  }

  path(row: number): string {
    let p = this.name(row)
    for (let up = this.parent[row]!; up >= 0; up = this.parent[up]!) p = `${this.name(up)}/${p}`
    return p
  }

  /** The row of a path; -1: it is not there. */
  row(path: string): number {
    if (!this.indexed) {
      this.indexed = true
      const prefix: string[] = []
      for (let i = 0; i < this.size; i++) {
        const d = this.depth[i]!
        const p = d ? `${prefix[d - 1]}/${this.name(i)}` : this.name(i)
        prefix[d] = p
        this.byPath.set(p, i)
      }
    }
    return this.byPath.get(path) ?? -1
  }

  /** The row of a folder around some path that is there; -1: none. */
  around(path: string): number {
    for (let p = path; p; p = p.includes('/') ? p.slice(0, p.lastIndexOf('/')) : '') {
      const r = this.row(p)
      if (r >= 0) return r
    }
    return -1
  }

  role(row: number): string {
    return this.info.roles[this.info.role[row]!] ?? ''
  }

  language(row: number): string {
    return this.info.languages[this.info.language[row]!] ?? ''
  }

  /** Whether the text stands in the row's path, letter case aside. text must be
   * in small letters. */
  matches(row: number, text: string): boolean {
    if (text.includes('/')) return this.path(row).toLowerCase().includes(text)
    for (let r = row; r >= 0; r = this.parent[r]!) {
      if ((this.folded[r] ??= this.name(r).toLowerCase()).includes(text)) return true
    }
    return false
  }

  /** Rows right below a folder, -1 for the root. */
  *children(row: number): Generator<number> {
    const end = row < 0 ? this.size : row + this.below[row]! + 1
    for (let i = row + 1; i < end; i += this.below[i]! + 1) yield i
  }

  /** Where the rows below a folder end; -1 for the root. */
  end(row: number): number {
    return row < 0 ? this.size : row + this.below[row]! + 1
  }
}

export type { MapInfo, SpanInfo }
