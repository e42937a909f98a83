import type { Schemas } from '@/api/client'
import { count, many } from '@/words/format'

/** How intricate a file is, beside its bar and in a sentence; its code lines stand in
 * where it was not parsed. */
export function intricate(r: Pick<Schemas['HotspotInfo'], 'intricacy' | 'code'>): { bar: string; told: string } {
  if (r.intricacy >= 0) return { bar: count(r.intricacy), told: `intricacy ${count(r.intricacy)}` }
  if (r.code < 0) return { bar: 'not read', told: 'not parsed, nor were its lines counted' }
  return { bar: many(r.code, 'line'), told: `not parsed, so its code counts: ${many(r.code, 'line')}` }
}
