/** Millimetres as metres with two digits: 1250 → "1.25 m". */
export function metres(mm: number | null): string {
  return mm === null ? '–' : `${(mm / 1000).toFixed(2)} m`
}

/** How long ago, in words a skipper uses. */
export function ago(at: string | null, now: Date): string {
  if (at === null) return 'never'
  const minutes = Math.round((now.getTime() - Date.parse(at)) / 60000)
  if (minutes < 1) return 'just now'
  if (minutes < 90) return `${minutes} min ago`
  return `${Math.round(minutes / 60)} h ago`
}
