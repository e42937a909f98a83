import type { Schemas } from '@/api/client'

type UsesInfo = Schemas['UsesInfo']
type Site = Schemas['SiteInfo']

/** What a use is, in the order in which uses are told; of tests all are one. */
const roles: [string, (s: Site) => boolean][] = [
  ['calls', (s) => s.role === 'call'],
  ['types', (s) => s.role === 'type'],
  ['imports', (s) => s.role === 'import'],
  ['written', (s) => s.role === 'write'],
  ['read', () => true],
]
const certainties = ['scope', 'imported', 'typed', 'name'] as const

export interface UseGroup {
  certainty: (typeof certainties)[number]
  role: string
  places: number
  files: UsesInfo[]
}

/** Uses apart by how sure they are, and by what they do: calls, types, imports,
 * written, read, in tests. Files keep their order. */
export function usesBy(files: readonly UsesInfo[]): UseGroup[] {
  const out: UseGroup[] = []
  for (const certainty of certainties) {
    const groups = new Map<string, UseGroup>()
    for (const f of files) {
      const sites = f.sites.filter((s) => s.certainty === certainty)
      const more = f.certainty === certainty ? f.more : 0
      const apart = new Map<string, Site[]>()
      for (const s of sites) {
        const role = f.role === 'test' ? 'in tests' : roles.find(([, is]) => is(s))![0]
        apart.set(role, [...(apart.get(role) ?? []), s])
      }
      let first = true
      for (const [role, list] of apart) {
        const g = groups.get(role) ?? { certainty, role, places: 0, files: [] }
        g.files.push({ ...f, sites: list, more: first ? more : 0 })
        g.places += list.length
        groups.set(role, g)
        first = false
      }
    }
    for (const role of [...roles.map(([r]) => r), 'in tests']) if (groups.has(role)) out.push(groups.get(role)!)
  }
  return out
}
