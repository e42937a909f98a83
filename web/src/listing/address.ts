import type { LocationQuery } from 'vue-router'

/** The values of a key in an address. */
export function valuesOf(v: LocationQuery[string] | undefined): string[] {
  return (Array.isArray(v) ? v : v === undefined ? [] : [v]).map((x) => x ?? '')
}

/** The part of an address that narrows by some keys. */
export function narrowedBy<K extends string>(address: LocationQuery, keys: readonly K[]): Partial<Record<K, string[]>> {
  const q: Partial<Record<K, string[]>> = {}
  for (const k of keys) {
    const values = valuesOf(address[k])
    if (values.length) q[k] = values
  }
  return q
}

/** The address with a value of a key taken up, or let go of. */
export function toggled(address: LocationQuery, key: string, value: string): LocationQuery {
  const now = valuesOf(address[key])
  const next = now.includes(value) ? now.filter((v) => v !== value) : [...now, value]
  const rest = { ...address }
  delete rest[key]
  return next.length ? { ...rest, [key]: next } : rest
}
