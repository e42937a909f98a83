import { lineSpan, many, short } from '@/words/format'
import { between } from './order'
import { newId, type Fault, type Op, type Passage, type Plan, type Target } from './use'

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

/** "a.c:45-49", "a.c", of some lines or a whole file. */
export function lines(x: { path: string; start?: number; end?: number }): string {
  return x.start ? `${x.path}:${lineSpan(x.start, x.end ?? x.start)}` : x.path
}

/** What a passage has one read, in a few words: "firmware/sampler.c:45-49", "collector/". */
export function where(t: Target): string {
  switch (t.kind) {
    case 'folder':
      return t.path ? t.path + '/' : 'the whole repository'
    case 'symbol':
      return `${t.symbol} · ${lines(t)}`
    case 'pair':
      return `${lines(t)} beside ${t.beside ? lines(t.beside) : 'nothing'}`
    case 'commit':
      return `commit ${short(t.commit)}`
    case 'comparison':
      return `${short(t.base ?? '')} → ${short(t.commit)}`
    case 'extract':
      return `extract of ${t.path}:${t.start}`
    case 'way':
      return `a way of ${many(t.hops?.length ?? 0, 'hop')}, from ${t.hops?.[0] ? lines(t.hops[0]) : 'nowhere'}`
    case 'planned':
      return `${t.path}, not there yet`
    case 'try':
      return `to try${t.try?.folder ? ` in ${t.try.folder}/` : ''}`
  }
  return lines(t)
}

export const kindWords: Record<Target['kind'], string> = {
  file: 'a file',
  lines: 'lines',
  symbol: 'a symbol',
  folder: 'a folder',
  pair: 'two things side by side',
  commit: 'a commit',
  comparison: 'two commits compared',
  extract: 'an extract',
  way: 'a way',
  planned: 'a file that is not there yet',
  asset: 'an asset',
  try: 'something to try',
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

/** Operations that put passages, in the order of the plan, one after another at a
 * place of a chapter; `index` counts the chapter's passages without these. */
export function moveAll(plan: Plan, ids: ReadonlySet<string>, chapter: string, index: number): Op[] {
  const to = plan.in_order.find((c) => c.id === chapter)
  if (!to) return []
  const others = to.passages.filter((p) => !ids.has(p.id))
  const at = Math.max(0, Math.min(index, others.length))
  let low = others[at - 1]?.order ?? ''
  const high = others[at]?.order ?? ''
  const moving = steps(plan).filter((s) => ids.has(s.passage.id))
  const ops = moving.map(({ passage }): Op => {
    low = between(low, high)
    return { kind: 'move-passage', id: passage.id, chapter, order: low }
  })
  const stays =
    moving.length === to.passages.filter((p) => ids.has(p.id)).length && moving.every((s, i) => to.passages[at + i]?.id === s.passage.id)
  return stays ? [] : ops
}

/** Operations that move passages one place up (-1) or down (+1), together. */
export function stepAll(plan: Plan, ids: ReadonlySet<string>, by: -1 | 1): Op[] {
  const all = steps(plan).filter((s) => ids.has(s.passage.id))
  const edge = by < 0 ? all[0] : all.at(-1)
  if (!edge) return []
  const c = plan.in_order[edge.chapter]!
  const i = c.passages.findIndex((p) => p.id === edge.passage.id)
  const before = c.passages.slice(0, i).filter((p) => !ids.has(p.id)).length
  const rest = c.passages.filter((p) => !ids.has(p.id)).length
  const to = before + (by < 0 ? -1 : 1)
  if (to >= 0 && to <= rest) return moveAll(plan, ids, c.id, to)
  const next = plan.in_order[edge.chapter + by]
  return next ? moveAll(plan, ids, next.id, by > 0 ? 0 : next.passages.length) : []
}

/** Operations that begin a new chapter with a passage and all that follow it in
 * its chapter. */
export function splitChapter(plan: Plan, passage: string): Op[] {
  const i = plan.in_order.findIndex((c) => c.passages.some((p) => p.id === passage))
  const c = plan.in_order[i]
  const at = c?.passages.findIndex((p) => p.id === passage) ?? 0
  if (!c || at === 0) return []
  const id = newId()
  return [
    { kind: 'add-chapter', new_chapter: { id, order: keyAt(plan.in_order, i + 1), title: c.passages[at]!.title } },
    ...c.passages.slice(at).map((p): Op => ({ kind: 'move-passage', id: p.id, chapter: id, order: p.order })),
  ]
}

/** Operations that put a chapter's passages behind those of the one above, and
 * take it away. */
export function joinChapter(plan: Plan, chapter: string): Op[] {
  const i = plan.in_order.findIndex((c) => c.id === chapter)
  const above = plan.in_order[i - 1]
  if (!above) return []
  const moving = new Set(plan.in_order[i]!.passages.map((p) => p.id))
  return [...moveAll(plan, moving, above.id, above.passages.length), { kind: 'remove-chapter', id: chapter }]
}

const json = JSON.stringify
/** The operation that sets a part of a passage. */
export const setPassage = (p: Passage, field: keyof Passage, to: unknown): Op => {
  const plain = (v: unknown) =>
    typeof v === 'string' ? v : v === undefined ? (field === 'optional' ? 'false' : field === 'questions' ? 'null' : '') : json(v)
  return { kind: 'set-passage', id: p.id, field, from: plain(p[field]), to: plain(to) }
}

/** Operations that end a passage of lines before a line, and begin another there. */
export function splitPassage(plan: Plan, p: Passage, line: number): Op[] {
  const { start, end } = p.target
  if (p.target.kind !== 'lines' || !start || !end || line <= start || line > end) return []
  const c = plan.in_order.find((x) => x.id === p.chapter)!
  const order = keyAt(c.passages, c.passages.findIndex((x) => x.id === p.id) + 1)
  const share = Math.round((p.minutes * (end - line + 1)) / (end - start + 1))
  return [
    setPassage(p, 'target', { ...p.target, end: line - 1 }),
    setPassage(p, 'minutes', p.minutes - share),
    {
      kind: 'add-passage',
      new_passage: {
        id: newId(),
        chapter: p.chapter,
        order,
        title: `${p.title}, further`.slice(0, 200),
        purpose: '',
        minutes: share,
        needs: [p.id],
        target: { ...p.target, start: line },
      },
    },
  ]
}

/** Operations that make one passage of two of the same file, the first keeping its
 * identity; none where they cannot be one. */
export function joinPassages(a: Passage, b: Passage): Op[] {
  const [s, t] = [a.target, b.target]
  const joined = s.kind === 'lines' && t.kind === 'lines' && s.path === t.path && s.commit === t.commit
  if (!joined) return []
  const put = (x: string, y: string) => [x, y].filter((v) => v.trim()).join('\n\n')
  const ops = [
    setPassage(a, 'target', { ...s, start: Math.min(s.start!, t.start!), end: Math.max(s.end!, t.end!) }),
    setPassage(a, 'minutes', Math.min(600, a.minutes + b.minutes)),
    setPassage(a, 'purpose', put(a.purpose, b.purpose)),
    setPassage(a, 'text', put(a.text ?? '', b.text ?? '')),
    setPassage(a, 'caution', put(a.caution ?? '', b.caution ?? '')),
    setPassage(a, 'questions', [...(a.questions ?? []), ...(b.questions ?? [])]),
    ...(b.needs ?? []).filter((n) => n !== a.id && !a.needs?.includes(n)).map((n): Op => ({ kind: 'add-need', id: a.id, to: n })),
  ]
  return [...ops.filter((o) => o.from !== o.to || o.kind === 'add-need'), { kind: 'remove-passage', id: b.id }]
}

/** Which passage must come before another: by what each needs, ideas standing for
 * the passages that introduce them. */
export function arcs(plan: Plan): { from: string; to: string }[] {
  const by = new Map(plan.ideas.map((i) => [i.id, i.by ?? '']))
  const there = new Set(steps(plan).map((s) => s.passage.id))
  return steps(plan).flatMap(({ passage }) =>
    [...new Set((passage.needs ?? []).map((n) => by.get(n) ?? n))]
      .filter((n) => n !== passage.id && there.has(n))
      .map((n) => ({ from: n, to: passage.id })),
  )
}

/** What is wrong, in words. `title` names a passage. */
export function faultWords(f: Fault, title: (passage: string) => string, idea: (id: string) => string): string {
  const [first, second] = [f.passages[0] ?? '', f.passages[1] ?? '']
  const q = (p: string) => `“${title(p)}”`
  switch (f.kind) {
    case 'over-budget':
      return `The plan is ${f.minutes} min longer than its readers have.`
    case 'used-before':
      return `${q(first)} uses the idea “${idea(f.idea ?? '')}”, which ${q(second)} introduces later.`
    case 'unintroduced':
      return `${q(first)} uses the idea “${idea(f.idea ?? '')}”, which no passage introduces.`
    case 'needed-later':
      return `${q(first)} needs ${q(second)}, which comes later.`
    case 'needed-gone':
      return `${q(first)} needs something that is not in the plan any more.`
    case 'cycle':
      return `These need each other all round: ${f.passages.map(q).join(', ')}.`
    case 'same-lines':
      return `${q(first)} has one read lines of ${f.detail} that ${q(second)} has shown.`
    case 'generated':
      return `${q(first)} is on code that nobody wrote (${f.detail}).`
    case 'no-purpose':
      return `${q(first)} does not say what one will know after it.`
    case 'past-end':
      return `${q(first)} goes past the end of ${f.detail}.`
    case 'not-there':
      return `${q(first)} leads to ${f.detail}, which is not there.`
    case 'no-words':
      return 'A chapter has no title.'
    case 'empty-chapter':
      return 'A chapter has no passages.'
  }
  return f.kind
}
