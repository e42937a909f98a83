import type { Schemas } from '@/api/client'

/** A tagged comment's text without its word; who it names stays. */
export function withoutWord(t: Pick<Schemas['TaggedInfo'], 'text' | 'word'>): string {
  return t.text.startsWith(t.word)
    ? t.text
        .slice(t.word.length)
        .replace(/^(\([^)]*\))?\s*[:,-]?\s*/, '$1 ')
        .trim()
    : t.text
}
