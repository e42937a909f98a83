import type { Schemas } from '@/api/client'

export type Symbol = Schemas['Symbol']

/** What a reader may narrow an outline by. */
export const groups = {
  functions: ['function', 'method', 'constructor', 'operator'],
  types: ['class', 'struct', 'interface', 'trait', 'enum', 'type', 'typeParameter'],
  values: ['variable', 'constant', 'field', 'property', 'enumMember', 'event', 'key'],
  spaces: ['module', 'namespace', 'package', 'object'],
  macros: ['macro'],
  sections: ['section'],
} as const
export type Group = keyof typeof groups

const groupOf = new Map(Object.entries(groups).flatMap(([g, kinds]) => kinds.map((k) => [k as string, g as Group])))

/** A kind in the few letters that a narrow column has room for. */
export const short: Record<string, string> = {
  function: 'func',
  constructor: 'ctor',
  operator: 'oper',
  interface: 'face',
  enumMember: 'case',
  variable: 'var',
  constant: 'const',
  property: 'prop',
  namespace: 'space',
  package: 'pack',
  typeParameter: 'type',
}

/** The groups that an outline has, with how many symbols each. */
export function present(symbols: Symbol[]): [Group, number][] {
  const n = new Map<Group, number>()
  for (const s of symbols) n.set(groupOf.get(s.kind)!, (n.get(groupOf.get(s.kind)!) ?? 0) + 1)
  return (Object.keys(groups) as Group[]).filter((g) => n.has(g)).map((g) => [g, n.get(g)!])
}

/** Whether what was typed is part of a name, or the initials of its words:
 * "rB" finds readBlock and read_block. */
export function matches(name: string, typed: string): boolean {
  if (!typed) return true
  if (name.toLowerCase().includes(typed.toLowerCase())) return true
  const words = name.match(/[A-Z]+(?![a-z])|[A-Z]?[a-z]+|\d+/g) ?? []
  let at = 0
  for (const part of typed.match(/[A-Z]?[a-z0-9]*|./g)?.filter(Boolean) ?? []) {
    while (at < words.length && !words[at]!.toLowerCase().startsWith(part.toLowerCase())) at++
    if (at++ >= words.length) return false
  }
  return true
}

/** Who may name a symbol, widest first. */
export const reaches = ['public', 'protected', 'internal', 'private'] as const
export type Reach = (typeof reaches)[number]

export interface Narrowing {
  typed: string
  kinds: Group[] // none: all
  reach: Reach[] // none: all
  byName: boolean // in the order of names, not of the file
}

export const isNarrow = (by: Narrowing) => by.typed.trim() !== '' || by.kinds.length > 0 || by.reach.length > 0

export interface OutlineRow {
  symbol: Symbol
  depth: number
  label: string // with its owner, where that does not stand above it
  context: boolean // only shown because of what is inside
}

/** The rows of a narrowed outline: what matches, and what that stands in. By
 * name, the list is flat and each symbol carries its owner. */
export function rows(symbols: Symbol[], by: Narrowing): OutlineRow[] {
  const typed = by.typed.trim()
  const hit = symbols.map(
    (s) =>
      matches(s.name, typed) &&
      (!by.kinds.length || by.kinds.includes(groupOf.get(s.kind)!)) &&
      (!by.reach.length || by.reach.includes((s.visibility || 'public') as Reach)),
  )
  if (by.byName) {
    return symbols
      .filter((_, i) => hit[i])
      .sort((a, b) => a.name.localeCompare(b.name, 'en') || a.start - b.start)
      .map((symbol) => ({ symbol, depth: 0, label: symbol.qualified, context: false }))
  }
  const depth: number[] = []
  const shown = [...hit]
  for (let i = symbols.length - 1; i >= 0; i--) {
    const p = symbols[i]!.parent
    if (shown[i] && p >= 0) shown[p] = true
  }
  const out: OutlineRow[] = []
  symbols.forEach((s, i) => {
    depth[i] = s.parent >= 0 ? depth[s.parent]! + 1 : 0
    if (shown[i]) out.push({ symbol: s, depth: depth[i], label: s.parent < 0 ? s.qualified : s.name, context: !hit[i] })
  })
  return out
}

/** The row of the innermost symbol that holds a line; -1: none. */
export function rowAt(list: OutlineRow[], line: number): number {
  let best = -1
  list.forEach((r, i) => {
    if (r.symbol.start > line || line > r.symbol.end) return
    const b = best < 0 ? undefined : list[best]!.symbol
    if (!b || r.symbol.end - r.symbol.start <= b.end - b.start) best = i
  })
  return best
}

/** The marks of each symbol: of the lines in it that are in no symbol inside it. */
export function symbolMarks<M>(symbols: readonly Symbol[], marks: ReadonlyMap<number, readonly M[]>): Map<Symbol, M[]> {
  const out = new Map<Symbol, M[]>()
  for (const [line, list] of marks) {
    let inner: Symbol | undefined
    for (const s of symbols) if (s.start <= line && line <= s.end) inner = s
    if (inner) out.set(inner, [...(out.get(inner) ?? []), ...list])
  }
  return out
}
