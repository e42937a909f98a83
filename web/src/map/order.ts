import type { Chart } from './chart'

/** The ways to order rows. The last two are the two ends of the mismatch between
 * the wings. */
export const orders = {
  tree: { title: 'tree', doc: 'Folders and files, as they lie' },
  left: { title: 'left', doc: 'Files, the largest on the left first' },
  right: { title: 'right', doc: 'Files, the largest on the right first' },
  still: { title: 'big but still', doc: 'Files that rank much higher on the left than on the right' },
  restless: { title: 'small but restless', doc: 'Files that rank much higher on the right than on the left' },
} as const

export type OrderName = keyof typeof orders

/** The rank of each file among those that have a value, from 0, the smallest, to
 * 1; equal values share their mean rank. NaN: no value, or not among files. */
export function ranks(values: Float64Array, files: Int32Array): Float64Array {
  const known = files.filter((r) => !Number.isNaN(values[r]!))
  known.sort((a, b) => values[a]! - values[b]! || a - b)
  const out = new Float64Array(values.length).fill(NaN)
  const span = Math.max(1, known.length - 1)
  for (let i = 0; i < known.length;) {
    let j = i
    while (j + 1 < known.length && values[known[j + 1]!] === values[known[i]!]) j++
    for (let k = i; k <= j; k++) out[known[k]!] = (i + j) / 2 / span
    i = j + 1
  }
  return out
}

/** How much higher each file ranks on the left than on the right, -1 to 1; NaN
 * where either is not known. */
export function mismatch(left: Float64Array, right: Float64Array, files: Int32Array): Float64Array {
  const l = ranks(left, files)
  const r = ranks(right, files)
  return l.map((v, i) => v - r[i]!)
}

/** The files, ordered; those without a value come last, in the order of the
 * tree. For the mismatch only files that lean that way are told. */
export function ordered(order: Exclude<OrderName, 'tree'>, files: Int32Array, left: Float64Array, right: Float64Array): Int32Array {
  let by: Float64Array
  let list = files.slice()
  if (order === 'left' || order === 'right') {
    by = order === 'left' ? left : right
  } else {
    by = mismatch(left, right, files)
    if (order === 'restless') by = by.map((v) => -v)
    list = list.filter((r) => by[r]! > 0)
  }
  return list.sort((a, b) => {
    const x = by[a]!
    const y = by[b]!
    if (Number.isNaN(x) || Number.isNaN(y)) return Number(Number.isNaN(x)) - Number(Number.isNaN(y)) || a - b
    return y - x || a - b
  })
}

/** The files of a chart that keep lets through. */
export function filesOf(c: Chart, keep: Uint8Array | null): Int32Array {
  const out = new Int32Array(c.size)
  let n = 0
  for (let i = 0; i < c.size; i++) if (!c.isFolder(i) && (!keep || keep[i])) out[n++] = i
  return out.slice(0, n)
}
