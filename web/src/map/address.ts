import type { LocationQuery, LocationQueryRaw } from 'vue-router'
import { coverTitles, type CoverState } from '@/plans/covering'
import { marks, type Filter, type Mark } from './filter'
import { happenedMeasures, isMeasures, type Aggregate } from './measures'
import { orders, type OrderName } from './order'

export const scales = { root: 'square-root', linear: 'linear', log: 'logarithmic' } as const
export type ScaleName = keyof typeof scales

export const aggregates: Record<Aggregate, string> = { sum: 'sum', max: 'maximum', median: 'median' }

/** How many lines the tree is laid out in. */
export const details = { gist: 34, more: 120, all: Infinity } as const
export type Detail = keyof typeof details

/** Everything that the picture depends on; all of it stands in the address. */
export interface State extends Filter {
  left: string
  right: string
  order: OrderName
  scale: ScaleName
  folders: Aggregate
  detail: Detail
  rest: 'gone' | 'dim'
  from: string // a day, "2026-03-01"; "": the first commit
  to: string // the day after the last; "": the pin
  at: string // path of the selected row
  ties: boolean
  open: string[]
  shut: string[]
}

export const plain: State = {
  left: 'lines',
  right: 'changes',
  order: 'tree',
  scale: 'root',
  folders: 'sum',
  detail: 'gist',
  rest: 'gone',
  name: '',
  role: '',
  language: '',
  mark: '',
  covers: '',
  by: '',
  from: '',
  to: '',
  at: '',
  ties: true,
  open: [],
  shut: [],
}

const day = /^\d{4}-\d\d-\d\d$/

/** Reads an address; what it does not know is as in plain. */
export function readAddress(q: LocationQuery): State {
  const one = (key: string) => (typeof q[key] === 'string' ? (q[key] as string) : '')
  const among = <T extends string>(key: string, list: readonly string[], otherwise: T) =>
    list.includes(one(key)) ? (one(key) as T) : otherwise
  const all = (key: string) => [q[key] ?? []].flat().filter((v): v is string => typeof v === 'string')
  const date = (key: string) => (day.test(one(key)) && !Number.isNaN(Date.parse(one(key))) ? one(key) : '')
  return {
    left: among(
      'left',
      isMeasures.map((m) => m.key),
      plain.left,
    ),
    right: among(
      'right',
      happenedMeasures.map((m) => m.key),
      plain.right,
    ),
    order: among<OrderName>('order', Object.keys(orders), plain.order),
    scale: among<ScaleName>('scale', Object.keys(scales), plain.scale),
    folders: among<Aggregate>('folders', Object.keys(aggregates), plain.folders),
    detail: among<Detail>('detail', Object.keys(details), plain.detail),
    rest: among('rest', ['gone', 'dim'], plain.rest),
    mark: among<Mark | ''>('mark', Object.keys(marks), ''),
    covers: among<CoverState | ''>('covers', Object.keys(coverTitles), ''),
    name: one('name'),
    role: one('role'),
    language: one('language'),
    by: one('by'),
    from: date('from'),
    to: date('to'),
    at: one('at'),
    ties: one('ties') !== 'no',
    open: all('open'),
    shut: all('shut'),
  }
}

/** Writes an address: only what differs from plain. */
export function writeAddress(s: State): LocationQueryRaw {
  const q: LocationQueryRaw = {}
  for (const [key, value] of Object.entries(s)) {
    if (Array.isArray(value)) {
      if (value.length) q[key] = value
    } else if (key === 'ties') {
      if (!value) q.ties = 'no'
    } else if (value !== plain[key as keyof State]) {
      q[key] = String(value)
    }
  }
  return q
}

/** Folds or unfolds by hand: the last word on a path counts. */
export function fold(s: State, path: string, open: boolean): Pick<State, 'open' | 'shut'> {
  const without = (list: string[]) => list.filter((p) => p !== path)
  return open ? { open: [...without(s.open), path], shut: without(s.shut) } : { open: without(s.open), shut: [...without(s.shut), path] }
}
