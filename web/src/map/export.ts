import { date } from '@/words/format'
import { scales, type State } from './address'
import type { Chart, SpanInfo } from './chart'
import { happenedMeasures, isMeasures } from './measures'
import { bars, together, type Picture } from './picture'

export type Kind = 'svg' | 'png' | 'csv'

/** Cells that a spreadsheet would take for a formula begin with a quote. */
function cell(v: string | number): string {
  const s = typeof v === 'number' ? (Number.isFinite(v) ? String(v) : '') : /^[=+\-@\t\r]/.test(v) ? `'${v}` : v
  return /[",\n\r]/.test(s) ? `"${s.replaceAll('"', '""')}"` : s
}

/** All figures of the files and folders that the filter lets through, as comma
 * separated values with a heading; folders' as the picture has them, else blank. */
export function table(c: Chart, p: Picture, span: SpanInfo | null, end: number): string {
  const is = isMeasures.map((m) => ({ title: m.title, unit: m.unit, column: m.column(c) }))
  const happened = span ? happenedMeasures.map((m) => ({ title: m.title, values: m.values(span, end) })) : []
  const units: Record<string, string> = {
    centrality: 'centrality in thousandths',
    age: 'age in days',
    'still for': 'days since the last change',
  }
  const out = [
    [
      'path',
      'kind',
      'role',
      'language',
      ...[...is, ...happened].map((m) => units[m.title] ?? m.title),
      'entry points',
      'tagged comments',
      'open threads',
      'in plans',
      'read by you',
    ],
  ].map((r) => r.map(cell).join(','))
  for (let i = 0; i < c.size; i++) {
    if (p.keep && !p.keep[i]) continue
    const folder = c.isFolder(i)
    const figures = [
      ...is.map((m) => (folder ? (m.title === p.leftMeasure.title ? p.left[i]! : NaN) : m.column[i]! < 0 ? NaN : m.column[i]! * m.unit)),
      ...happened.map((m) =>
        folder && m.title === p.rightMeasure.title ? p.right[i]! : folder && m.title !== 'people' ? NaN : m.values[i]!,
      ),
    ].map((v) => Math.round(v * 1000) / 1000)
    out.push(
      [
        c.path(i),
        folder ? 'folder' : 'file',
        c.role(i),
        c.language(i),
        ...figures,
        p.marks.starts[i]!,
        p.marks.tagged[i]!,
        p.marks.written[i]!,
        p.marks.planned[i]!,
        p.marks.read[i]!,
      ]
        .map(cell)
        .join(','),
    )
  }
  return out.join('\r\n') + '\r\n'
}

/** How many rows a drawing holds. */
const maxDrawn = 2000

const text = (s: string) =>
  s
    // what XML cannot hold at all
    .replace(/[\u0000-\u0008\u000b\u000c\u000e-\u001f\ufffe\uffff]/g, '\ufffd')
    .replaceAll('&', '&amp;')
    .replaceAll('<', '&lt;')
    .replaceAll('>', '&gt;')
    .replaceAll('"', '&quot;')

/** The picture as it stands, all its rows, as a drawing that stands by itself. */
export function drawing(c: Chart, p: Picture, s: State, title: string): { svg: string; drawn: number; left: number } {
  const style = getComputedStyle(document.documentElement)
  const colour = (name: string) => style.getPropertyValue(`--${name}`).trim()
  const [ink, soft, teal, tealPale, ochre, ochrePale, plum, paper, rule] = [
    'ink',
    'ink-soft',
    'teal',
    'teal-pale',
    'ochre',
    'ochre-pale',
    'plum',
    'paper',
    'rule',
  ].map(colour)
  const row = 22
  const top = 74
  const [wing, spine] = [330, 330]
  const lines = p.lines.slice(0, maxDrawn)
  const width = 2 * wing + spine + 40
  const height = top + lines.length * row + 46
  const l = bars(s.scale, p.leftTop)
  const r = bars(s.scale, p.rightTop)
  const x = 20 + wing
  const out: string[] = []
  const word = (at: number, y: number, t: string, more = '') => out.push(`<text x="${at.toFixed(1)}" y="${y}" ${more}>${text(t)}</text>`)
  word(20, 26, title, `font-size="17" font-weight="600" font-family="Georgia, serif" fill="${ink}"`)
  word(x - 8, 58, `what it is: ${p.leftMeasure.title}`, `text-anchor="end" fill="${teal}" font-weight="600"`)
  word(
    x + spine + 8,
    58,
    `what happened: ${p.rightMeasure.title}${s.from || s.to ? `, ${s.from ? date(s.from) : 'the beginning'} to ${s.to ? date(s.to) : 'the pin'}` : ''}`,
    `fill="${ochre}" font-weight="600"`,
  )
  lines.forEach((line, i) => {
    const y = top + i * row
    const of = (v: Float64Array, m: 'sum' | 'max' | 'min' | 'people') => (line.rows ? together(v, line.rows, s.folders, m) : v[line.row]!)
    const left = of(p.left, p.leftMeasure.whole)
    const right = of(p.right, p.rightMeasure.whole)
    const all = p.whole ? of(p.whole, p.rightMeasure.whole) : right
    const [a, b, d] = [l(left) * (wing - 70), r(all) * (wing - 110), r(right) * (wing - 110)]
    const tall = line.kind === 'folder' ? 2 : 13
    const bar = (at: number, w: number, fill: string) =>
      out.push(`<rect x="${at.toFixed(1)}" y="${y + 8 - tall / 2}" width="${w.toFixed(1)}" height="${tall}" fill="${fill}"/>`)
    if (a) bar(x - 6 - a, a, line.kind === 'more' ? tealPale! : teal!)
    if (b) bar(x + spine + 6, b, ochrePale!)
    if (d) bar(x + spine + 6, d, ochre!)
    if (!Number.isNaN(left)) word(x - 12 - a, y + 12, p.leftMeasure.write(left), `text-anchor="end" fill="${soft}" font-size="11"`)
    if (!Number.isNaN(right))
      word(
        x + spine + 12 + b,
        y + 12,
        p.whole ? `${p.rightMeasure.write(right)} of ${p.rightMeasure.write(all)}` : p.rightMeasure.write(right),
        `fill="${soft}" font-size="11"`,
      )
    const name = line.rows
      ? `${line.rows.length} more`
      : s.order === 'tree'
        ? c.name(line.row) + (line.kind === 'folder' ? '/' : '')
        : c.path(line.row)
    const room = Math.floor((spine - 90 - line.depth * 14) / 6.6)
    const shown = name.length > room ? `…${name.slice(name.length - room + 1)}` : name
    word(
      x + 14 + Math.min(9, line.depth) * 14,
      y + 12,
      shown,
      line.kind === 'folder' ? `font-weight="600" fill="${ink}"` : `fill="${line.rows ? soft : ink}"`,
    )
    let at = x + spine - 66
    const has = (list: Int32Array) => !line.open && (line.rows ?? [line.row]).some((n) => list[n]! > 0)
    const put = (on: boolean, shape: string) => {
      if (on) out.push(`<g transform="translate(${at} ${y + 2})">${shape}</g>`)
      at += 14
    }
    put(has(p.marks.starts), `<path d="M4 1 A5 5 0 0 1 4 11 Z" fill="${ink}"/>`)
    put(has(p.marks.tests), `<rect x="2" y="2" width="8" height="8" fill="none" stroke="${ink}" stroke-width="1.5"/>`)
    put(has(p.marks.tagged), `<path d="M6 1 L11 6 L6 11 L1 6 Z" fill="none" stroke="${ochre}" stroke-width="1.5"/>`)
    put(has(p.marks.written), `<path d="M6 1 V11 M1.7 3.5 L10.3 8.5 M10.3 3.5 L1.7 8.5" stroke="${ink}" stroke-width="1.5"/>`)
    put(has(p.marks.planned), `<rect x="1" y="4" width="10" height="4.5" fill="${plum}"/>`)
  })
  const bottom = top + lines.length * row
  for (const at of [x, x + spine]) out.push(`<path d="M${at} ${top - 4} V${bottom}" stroke="${soft}" stroke-width="1.5"/>`)
  word(
    20,
    bottom + 28,
    `${scales[s.scale]} scale, both sides; half disc: a start; square: test; diamond: tagged comment; asterisk: written about; bar: in a plan${p.lines.length > lines.length ? `; ${p.lines.length - lines.length} more rows are not drawn` : ''}`,
    `fill="${soft}" font-size="11"`,
  )
  const svg = `<svg xmlns="http://www.w3.org/2000/svg" width="${width}" height="${height}" viewBox="0 0 ${width} ${height}" font-family="Inter, Helvetica, Arial, sans-serif" font-size="12.5"><rect width="100%" height="100%" fill="${paper}"/><path d="M20 66 H${width - 20}" stroke="${rule}"/>${out.join('')}</svg>`
  return { svg, drawn: lines.length, left: p.lines.length - lines.length }
}

/** Hands a text to the browser as a file; an SVG may become a PNG on the way. */
export async function save(name: string, content: string, type: string) {
  let blob = new Blob([content], { type: type === 'image/png' ? 'image/svg+xml' : `${type};charset=utf-8` })
  if (type === 'image/png') blob = await painted(content)
  const a = document.createElement('a')
  a.href = URL.createObjectURL(blob)
  a.download = name
  a.click()
  setTimeout(() => URL.revokeObjectURL(a.href), 10_000)
}

/** Paints a drawing at twice its size, or less where that would be too much for
 * a canvas. */
async function painted(svg: string): Promise<Blob> {
  const image = new Image()
  image.src = `data:image/svg+xml;charset=utf-8,${encodeURIComponent(svg)}`
  await image.decode()
  const by = Math.min(2, 16_000 / image.height)
  const canvas = document.createElement('canvas')
  canvas.width = Math.round(image.width * by)
  canvas.height = Math.round(image.height * by)
  canvas.getContext('2d')!.drawImage(image, 0, 0, canvas.width, canvas.height)
  return new Promise((done, fail) =>
    canvas.toBlob((b) => (b ? done(b) : fail(new Error('the picture is too large for this browser'))), 'image/png'),
  )
}
