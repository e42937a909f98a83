import { lineSpan } from '@/words/format'
import { between } from './order'
import type { Op, Passage, Plan } from './use'

export interface Step {
  passage: Passage
  chapter: number // from 0
  number: number // in the whole plan, from 1
}

/** The passages in reading order. */
export function steps(plan: Plan): Step[] {
  const out: Step[] = []
  for (const [chapter, c] of plan.in_order.entries())
    for (const passage of c.passages) out.push({ passage, chapter, number: out.length + 1 })
  return out
}

/** Where a reader goes on: the remembered passage, else the first not done. */
export function resume(plan: Plan): Step | undefined {
  const all = steps(plan)
  return all.find((s) => s.passage.id === plan.place) ?? all.find((s) => !plan.done_ids.includes(s.passage.id)) ?? all[0]
}

/** Minutes a reader needs for lines read with attention: 25 lines a minute, two
 * at least and 30 at most. A writer's own figure stands above it. */
export function estimate(lines: number): number {
  return Math.min(30, Math.max(2, Math.ceil(lines / 25)))
}

/** Minutes of the passages that are done. */
export function minutesDone(plan: Plan): number {
  return steps(plan).reduce((sum, s) => sum + (plan.done_ids.includes(s.passage.id) ? s.passage.minutes : 0), 0)
}

/** "firmware/sampler.c:45-49", "collector/" */
export function where(t: Passage['target']): string {
  if (t.kind === 'folder') return t.path ? t.path + '/' : 'the whole repository'
  if (t.kind === 'extract') return `extract of ${t.path}:${t.start}`
  return t.kind === 'lines' ? `${t.path}:${lineSpan(t.start ?? 1, t.end ?? 1)}` : t.path
}

const roman: [number, string][] = [
  [50, 'L'],
  [40, 'XL'],
  [10, 'X'],
  [9, 'IX'],
  [5, 'V'],
  [4, 'IV'],
  [1, 'I'],
]

/** Chapters are told apart by numerals: 1 → "I". */
export function numeral(n: number): string {
  let out = ''
  for (const [v, s] of roman) while (n >= v) [n, out] = [n - v, out + s]
  return out
}

/** The order key for a place among siblings that are in order. */
export function keyAt(siblings: { order: string }[], index: number): string {
  return between(siblings[index - 1]?.order ?? '', siblings[index]?.order ?? '')
}

/** The operation that puts a passage at a place of a chapter; null when it is
 * there already. `index` counts the chapter's passages without this one. */
export function moveTo(plan: Plan, id: string, chapter: string, index: number): Op | null {
  const target = plan.in_order.find((c) => c.id === chapter)
  if (!target) return null
  const now = target.passages.findIndex((p) => p.id === id)
  if (now === index) return null
  const others = target.passages.filter((p) => p.id !== id)
  return { kind: 'move-passage', id, chapter, order: keyAt(others, Math.max(0, Math.min(index, others.length))) }
}

/** The operation that moves a passage one place up (-1) or down (+1), across
 * chapters; null at either end. */
export function step(plan: Plan, id: string, by: -1 | 1): Op | null {
  const c = plan.in_order.findIndex((x) => x.passages.some((p) => p.id === id))
  const here = plan.in_order[c]
  if (!here) return null
  const i = here.passages.findIndex((p) => p.id === id)
  if (i + by >= 0 && i + by < here.passages.length) return moveTo(plan, id, here.id, i + by)
  const next = plan.in_order[c + by]
  return next ? moveTo(plan, id, next.id, by > 0 ? 0 : next.passages.length) : null
}
