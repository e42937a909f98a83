/** A gauge as the collector tells it. */
export interface Station {
  id: number
  name: string
  level_mm: number | null
  at: string | null
}

export interface Reading {
  at: string
  level_mm: number
}

/** Stations by name; those without a reading come last. */
export function inOrder(stations: Station[]): Station[] {
  return [...stations].sort((a, b) => {
    if ((a.level_mm === null) !== (b.level_mm === null)) return a.level_mm === null ? 1 : -1
    return a.name.localeCompare(b.name)
  })
}
