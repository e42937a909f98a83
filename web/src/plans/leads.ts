import type { RouteLocationRaw } from 'vue-router'
import { lineSpan } from '@/words/format'
import type { Target } from './use'

/** Where what a passage has one read stands by itself; null: nowhere. */
export function leads(t: Target, repository: number, pin: string): RouteLocationRaw | null {
  const params = { repository }
  const at = t.commit === pin ? undefined : t.commit
  const lines = (x: { start?: number; end?: number }) => (x.start ? lineSpan(x.start, x.end ?? x.start) : undefined)
  switch (t.kind) {
    case 'folder':
      return { name: 'read', params, query: { folder: t.path, at } }
    case 'commit':
      return { name: 'commit', params: { ...params, commit: t.commit } }
    case 'comparison':
      return { name: 'compare', params, query: { from: t.base, to: t.commit } }
    case 'pair':
      return {
        name: 'read',
        params,
        query: { path: t.path, at, lines: lines(t), beside: t.beside!.path, beside_at: t.beside!.commit, beside_lines: lines(t.beside!) },
      }
    case 'way':
    case 'try':
      return null
    case 'planned':
      return t.pattern ? { name: 'read', params, query: { path: t.pattern, at } } : null
  }
  return { name: 'read', params, query: { path: t.path, at, lines: lines(t) } }
}
