import type { Schemas } from '@/api/client'
import { lineSpan, short } from '@/words/format'

export type TargetIn = Schemas['TargetIn']
export type ThreadInfo = Schemas['ThreadInfo']

/** What is selected on a page, as something to write about. */
export interface Place {
  at?: string // another commit than the pin
  path?: string
  start?: number
  end?: number
  folder?: boolean
  commit?: string
  symbols?: readonly { qualified: string; kind: string; start: number; end: number }[]
}

/** What a text may be attached to, from the narrowest to the widest. */
export function choices(p: Place): { target: TargetIn; says: string }[] {
  const at = p.at ? { at: p.at } : {}
  if (p.commit) return [{ target: { kind: 'commit', at: p.commit }, says: `the commit ${short(p.commit)}` }]
  const out: { target: TargetIn; says: string }[] = []
  const path = p.path ?? ''
  if (path && !p.folder) {
    if (p.start) {
      const end = p.end ?? p.start
      const word = end === p.start ? 'line' : 'lines'
      out.push({ target: { kind: 'lines', path, start: p.start, end, ...at }, says: `${word} ${lineSpan(p.start, end)} of ${path}` })
      // the innermost first
      const around = (p.symbols ?? []).filter((s) => s.start <= p.start! && end <= s.end)
      for (const s of [...around].reverse())
        out.push({
          target: { kind: 'symbol', path, symbol: s.qualified, start: s.start, ...at },
          says: `the ${s.kind} ${s.qualified}, wherever it goes`,
        })
    }
    out.push({ target: { kind: 'file', path, ...at }, says: `the file ${path}` })
  }
  const parts = path.split('/')
  for (let n = p.folder && path ? parts.length : parts.length - 1; n > 0; n--) {
    const folder = parts.slice(0, n).join('/')
    out.push({ target: { kind: 'folder', path: folder, ...at }, says: `the folder ${folder}/` })
  }
  out.push({ target: { kind: 'repository', ...at }, says: 'the repository as a whole' })
  return out
}

/** What a text that is being written is attached to, in words. */
export function says(place: Place, target: TargetIn): string {
  const all = choices(place)
  return (all.find((c) => JSON.stringify(c.target) === JSON.stringify(target)) ?? all[0]!).says
}

/** A place as it was said to be, in a few words. */
export function targetOf(t: ThreadInfo['target']): string {
  const lines = t.start ? `:${lineSpan(t.start, t.end ?? t.start)}` : ''
  const at = t.commit.length >= 40 ? ` at ${short(t.commit)}` : ''
  if (t.kind === 'commit') return `commit ${short(t.commit)}`
  if (t.kind === 'repository') return 'the repository'
  return `${t.symbol && t.kind === 'symbol' ? `${t.symbol} · ` : ''}${t.path ?? ''}${t.kind === 'folder' ? '/' : lines}${at}`
}

/** What a thread is about, in words. */
export function about(t: Pick<ThreadInfo, 'target' | 'placed'>): string {
  const { target, placed } = t
  const name = placed.path || target.path || ''
  switch (target.kind) {
    case 'lines': {
      const lines = placed.start ? lineSpan(placed.start, placed.end) : lineSpan(target.start ?? 0, target.end ?? 0)
      return target.symbol ? `${target.symbol} · ${name}:${lines}` : `${name}:${lines}`
    }
    case 'symbol':
      return `${target.symbol} · ${name}`
    case 'file':
      return placed.path || target.path || ''
    case 'folder':
      return (target.path || 'the root folder') + '/'
    case 'commit':
      return `commit ${short(target.commit)}`
  }
  return 'the repository'
}

const reasons: Record<string, string> = {
  'lines-deleted': 'its lines were taken away',
  'file-deleted': 'its file was taken away',
  'file-absent': 'its file is not there',
  'no-text': 'its file has no lines any more',
  'text-not-found': 'its text is not found',
}

/** Why a thread has no place, in words. */
export function why(placed: Schemas['PlacedInfo']): string {
  return reasons[placed.reason] ?? 'its place is not known'
}

export const kinds: Record<string, string> = { note: 'note', question: 'question', ask: 'asks to act' }
