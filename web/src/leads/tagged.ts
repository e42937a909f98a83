import type { LocationQuery } from 'vue-router'
import { narrowedBy } from '@/listing/address'
import type { paths, components } from '@/api/schema'

export type TaggedItem = components['schemas']['TaggedItem']
export type TaggedPage = components['schemas']['TaggedPage']
export type Query = NonNullable<paths['/api/repositories/{repository}/tagged']['get']['parameters']['query']>

/** What a list of tagged comments is narrowed by, in the order it is offered. */
export const keys = ['state', 'word', 'folder', 'person', 'age', 'owner', 'symbol', 'file'] as const
export type Key = (typeof keys)[number]

export const titles: Record<Key, string> = {
  state: 'State',
  word: 'Word',
  folder: 'Folder',
  person: 'Written by',
  age: 'Age at the pin',
  owner: 'Named in it',
  symbol: 'Nearest symbol',
  file: 'File',
}

const ages: Record<string, string> = {
  month: 'a month at most',
  quarter: 'three months at most',
  year: 'a year at most',
  'two-years': 'one to two years',
  'four-years': 'two to four years',
  older: 'over four years',
  unknown: 'history does not tell',
}
export const states: Record<string, string> = {
  open: 'open',
  done: 'done',
  kept: 'kept on purpose',
  aside: 'set aside',
  gone: 'gone since',
}
const none: Partial<Record<Key, string>> = { person: 'not known', owner: 'nobody named', symbol: 'outside of symbols' }

/** A value in words. */
export function say(key: string, value: string): string {
  if (key === 'age') return ages[value] ?? value
  if (key === 'state') return states[value] ?? value
  if (key === 'folder') return value === '.' ? 'the root folder' : value + '/'
  return value === '(none)' ? (none[key as Key] ?? '–') : value
}

/** The part of the address that narrows and groups. */
export function queryOf(address: LocationQuery): Query {
  const q: Query = narrowedBy(address, keys)
  if (typeof address.text === 'string' && address.text) q.text = address.text
  if (typeof address.by === 'string' && (keys as readonly string[]).includes(address.by)) q.by = address.by as Query['by']
  if (address.all !== undefined) q.all = true
  return q
}

/** What a comment says behind its word. */
export function behindWord(t: Pick<TaggedItem, 'said' | 'word'>): string {
  if (!t.said.startsWith(t.word)) return t.said
  return t.said
    .slice(t.word.length)
    .replace(/^\s*[:,-]\s*/, '')
    .trim()
}
