import type { Schemas } from '@/api/client'
import { count, many } from '@/words/format'

/** How intricate a file is, beside its bar and in a sentence; its code lines stand in
 * where it was not parsed. */
export function intricate(r: Pick<Schemas['HotspotInfo'], 'intricacy' | 'code'>): { bar: string; sentence: string } {
  if (r.intricacy >= 0) return { bar: count(r.intricacy), sentence: `intricacy ${count(r.intricacy)}` }
  if (r.code < 0) return { bar: 'not read', sentence: 'not parsed, nor were its lines counted' }
  return { bar: many(r.code, 'line'), sentence: `not parsed, so its code counts: ${many(r.code, 'line')}` }
}
