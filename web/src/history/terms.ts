import type { LocationQuery, LocationQueryValue } from 'vue-router'

/** One thing that commits are asked for or, with not, must not be. */
export interface Term {
  key: string
  value: string
  not: boolean
}

const list = (v: LocationQueryValue | LocationQueryValue[] | undefined) => (Array.isArray(v) ? v : [v]).filter((x): x is string => !!x)

/** Terms as the address has them: keep=by:Oona and drop=path:docs/. */
export function termsOf(query: LocationQuery): Term[] {
  const read = (v: string, not: boolean): Term => {
    const at = v.indexOf(':')
    return at < 0 ? { key: v, value: '', not } : { key: v.slice(0, at), value: v.slice(at + 1), not }
  }
  return [...list(query.keep).map((v) => read(v, false)), ...list(query.drop).map((v) => read(v, true))]
}

/** The part of an address that says terms. */
export function queryOf(terms: readonly Term[]): { keep?: string[]; drop?: string[] } {
  const write = (not: boolean) => {
    const all = terms.filter((t) => t.not === not).map((t) => `${t.key}:${t.value}`)
    return all.length ? all : undefined
  }
  return { keep: write(false), drop: write(true) }
}

/** Words before and after the value in "by %s". */
export function around(says: string): [string, string] {
  const at = says.indexOf('%s')
  return at < 0 ? [says, ''] : [says.slice(0, at).trim(), says.slice(at + 2).trim()]
}

/** Whether the changes themselves are read for it. */
export const isSlow = (t: Term) => t.key === 'lines'
