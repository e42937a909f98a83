const numbers = new Intl.NumberFormat('en-GB')
const dates = new Intl.DateTimeFormat('en-GB', { day: 'numeric', month: 'short', year: 'numeric', timeZone: 'UTC' })
const months = new Intl.DateTimeFormat('en-GB', { month: 'short', year: 'numeric', timeZone: 'UTC' })

/** 12345 → "12,345"; nothing known → "–". */
export function count(n: number | null | undefined): string {
  return n === null || n === undefined ? '–' : numbers.format(n)
}

/** "1 file", "3 files". */
export function many(n: number, noun: string, plural = noun + 's'): string {
  return `${numbers.format(n)} ${n === 1 ? noun : plural}`
}

/** Bytes with a unit: "512 B", "1.4 kB", "38 MB". */
export function size(bytes: number | null | undefined): string {
  if (bytes === null || bytes === undefined) return '–'
  if (bytes < 1000) return `${bytes} B`
  const units = ['kB', 'MB', 'GB', 'TB']
  let n = bytes
  let unit = ''
  for (const u of units) {
    n /= 1000
    unit = u
    if (n < 999.5) break
  }
  return `${n < 9.95 ? n.toFixed(1) : Math.round(n)} ${unit}`
}

/** "12 Sep 2026"; nothing known → "–". */
export function date(at: string | null | undefined): string {
  return at ? dates.format(new Date(at)) : '–'
}

const moments = new Intl.DateTimeFormat('en-GB', { day: 'numeric', month: 'short', hour: '2-digit', minute: '2-digit' })

/** "12 Sep, 14:05", where the reader is: of what was done, never of a commit. */
export function dateTime(at: string): string {
  return moments.format(new Date(at))
}

/** "Sept 2026"; nothing known → "–". */
export function month(at: string | null | undefined): string {
  return at ? months.format(new Date(at)) : '–'
}

/** How long before another moment: "3 days", "14 months". Ages count from the
 * pin, never from now. */
export function age(at: string, from: string): string {
  const days = Math.max(0, Math.round((Date.parse(from) - Date.parse(at)) / 86_400_000))
  if (days < 1) return 'the same day'
  if (days < 60) return many(days, 'day') + ' earlier'
  if (days < 730) return many(Math.round(days / 30.44), 'month') + ' earlier'
  return many(Math.round(days / 365.25), 'year') + ' earlier'
}

/** The first ten characters of a commit's full id; a name stays whole. */
export function short(commit: string): string {
  return /^(?:[0-9a-f]{40}|[0-9a-f]{64})$/.test(commit) ? commit.slice(0, 10) : commit
}

/** A span of line numbers as written in addresses: "45" or "45-49". */
export function lineSpan(start: number, end: number): string {
  return start === end ? String(start) : `${start}-${end}`
}
