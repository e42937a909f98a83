/** What a file is shown as, other than its lines. */
export type Asset = 'picture' | 'prose' | 'table'

/** What a path is shown as at first; null: its lines. */
export function assetOf(path: string): Asset | null {
  if (/\.(png|jpe?g|gif|webp|svg|ico|bmp|avif)$/i.test(path)) return 'picture'
  if (/\.(md|markdown|mdown)$/i.test(path)) return 'prose'
  return /\.(csv|tsv)$/i.test(path) ? 'table' : null
}

/** How many rows and columns of a table are shown. */
export const mostRows = 2000
export const mostColumns = 60

/** Reads comma- or tab-separated values (RFC 4180): quoted fields may hold
 * separators, line feeds and doubled quotes. At most so many rows; more: there
 * are others. */
export function readTable(text: string, separator: string): { rows: string[][]; more: boolean; widest: number } {
  const rows: string[][] = []
  let row: string[] = []
  let field = ''
  let quoted = false
  let widest = 0
  const close = () => {
    row.push(field)
    widest = Math.max(widest, row.length)
    rows.push(row)
    row = []
    field = ''
  }
  for (let i = 0; i < text.length; i++) {
    const c = text[i]!
    if (quoted) {
      if (c !== '"') field += c
      else if (text[i + 1] === '"') {
        field += '"'
        i++
      } else quoted = false
    } else if (c === '"' && field === '') quoted = true
    else if (c === separator) {
      row.push(field)
      field = ''
    } else if (c === '\n') {
      if (rows.length === mostRows) return { rows, more: true, widest }
      close()
    } else if (c !== '\r') field += c
  }
  if (field || row.length) {
    if (rows.length === mostRows) return { rows, more: true, widest }
    close()
  }
  return { rows, more: false, widest }
}

/** What separates the fields of a table: what its first line has most of. */
export function separatorOf(path: string, text: string): string {
  if (/\.tsv$/i.test(path)) return '\t'
  const first = text.slice(0, (text.indexOf('\n') + 1 || text.length + 1) - 1)
  const counts = [',', ';', '\t', '|'].map((s) => [s, first.split(s).length] as const)
  return counts.reduce((a, b) => (b[1] > a[1] ? b : a))[0]
}
