import type { Chapter, Idea, Op, Passage, Plan, PlanChange } from './use'

/** A draft by the ids of its parts, removed ones too. It is replaced, never
 * changed. */
export interface Flat {
  seq: number
  title: string
  purpose: string
  budget: number
  goal: Plan['goal']
  aside: Plan['aside']
  chapters: ReadonlyMap<string, Chapter>
  passages: ReadonlyMap<string, Passage>
  ideas: ReadonlyMap<string, Idea>
}

export function flat(plan: Plan): Flat {
  const { seq, title, purpose, budget, goal, aside } = plan
  return {
    seq,
    title,
    purpose,
    budget,
    goal,
    aside,
    chapters: new Map(plan.in_order.map(({ id, order, title, intent }) => [id, { id, order, title, intent }])),
    passages: new Map(plan.in_order.flatMap((c) => c.passages).map((p) => [p.id, p])),
    ideas: new Map(plan.ideas.map((i) => [i.id, i])),
  }
}

function put<T extends { id: string }>(map: ReadonlyMap<string, T>, list: readonly T[]): ReadonlyMap<string, T> {
  return list.length ? new Map([...map, ...list.map((x) => [x.id, x] as const)]) : map
}

/** A draft with what the server says has changed. */
export function merged(f: Flat, c: PlanChange): Flat {
  if (c.seq < f.seq) return f
  const { seq, title, purpose, budget, goal, aside } = c
  return {
    seq,
    title,
    purpose,
    budget,
    goal,
    aside,
    chapters: put(f.chapters, c.chapters),
    passages: put(f.passages, c.passages),
    ideas: put(f.ideas, c.ideas),
  }
}

const written = new Set(['optional', 'target', 'questions', 'goal'])

function setField<T extends object>(x: T, op: Op): T {
  const to = op.to ?? ''
  const value = op.field === 'minutes' || op.field === 'budget' ? Number(to) : written.has(op.field!) ? JSON.parse(to) : to
  return { ...x, [op.field!]: value }
}

/** A draft as it will be once operations are carried out. What makes no sense
 * here changes nothing: the server tells why. */
export function fold(f: Flat, ops: readonly Op[]): Flat {
  if (!ops.length) return f
  const chapters = new Map(f.chapters)
  const passages = new Map(f.passages)
  const ideas = new Map(f.ideas)
  const next = { ...f, chapters, passages, ideas }
  const change = <T>(map: Map<string, T>, op: Op, to: (x: T) => T) => {
    const x = map.get(op.id ?? '')
    if (x) map.set(op.id!, to(x))
  }
  for (const op of ops) {
    const removed = op.kind.startsWith('remove-')
    switch (op.kind) {
      case 'set-plan':
        Object.assign(next, setField({}, op))
        break
      case 'set-aside': {
        next.aside = { ...next.aside }
        if (op.to) next.aside[op.id!] = op.to
        else delete next.aside[op.id!]
        break
      }
      case 'add-chapter':
        chapters.set(op.new_chapter!.id, op.new_chapter!)
        break
      case 'add-passage':
        passages.set(op.new_passage!.id, op.new_passage!)
        break
      case 'add-idea':
        ideas.set(op.new_idea!.id, op.new_idea!)
        break
      case 'set-chapter':
        change(chapters, op, (c) => setField(c, op))
        break
      case 'set-passage':
        change(passages, op, (p) => setField(p, op))
        break
      case 'set-idea':
        change(ideas, op, (i) => setField(i, op))
        break
      case 'move-chapter':
        change(chapters, op, (c) => ({ ...c, order: op.order! }))
        break
      case 'move-passage':
        change(passages, op, (p) => ({ ...p, chapter: op.chapter!, order: op.order! }))
        break
      case 'add-need':
        change(passages, op, (p) => ({ ...p, needs: [...new Set([...(p.needs ?? []), op.to!])].sort() }))
        break
      case 'drop-need':
        change(passages, op, (p) => ({ ...p, needs: (p.needs ?? []).filter((n) => n !== op.to) }))
        break
      case 'remove-chapter':
      case 'restore-chapter':
        change(chapters, op, (c) => ({ ...c, removed }))
        break
      case 'remove-passage':
      case 'restore-passage':
        change(passages, op, (p) => ({ ...p, removed }))
        break
      case 'remove-idea':
      case 'restore-idea':
        change(ideas, op, (i) => ({ ...i, removed }))
    }
  }
  return next
}

const byOrder = (a: { order: string; id: string }, b: { order: string; id: string }) =>
  a.order < b.order ? -1 : a.order > b.order ? 1 : a.id < b.id ? -1 : 1

/** A draft in reading order, with the rest of what is told of its plan. */
export function asPlan(f: Flat, plan: Plan): Plan {
  const in_order = [...f.chapters.values()]
    .filter((c) => !c.removed)
    .sort(byOrder)
    .map((c) => ({ ...c, passages: [] as Passage[] }))
  const of = new Map(in_order.map((c) => [c.id, c]))
  for (const p of f.passages.values()) if (!p.removed) of.get(p.chapter)?.passages.push(p)
  let minutes = 0
  let passages = 0
  for (const c of in_order) {
    c.passages.sort(byOrder)
    passages += c.passages.length
    for (const p of c.passages) minutes += p.minutes
  }
  const ideas = [...f.ideas.values()]
    .filter((i) => !i.removed)
    .sort((a, b) => a.name.localeCompare(b.name, undefined, { sensitivity: 'base' }) || (a.id < b.id ? -1 : 1))
  const { seq, title, purpose, budget, goal, aside } = f
  return {
    ...plan,
    seq,
    title,
    purpose,
    budget,
    goal,
    aside,
    in_order,
    ideas,
    minutes,
    passages,
    chapters: in_order.length,
    ahead: seq > plan.seq || plan.ahead,
  }
}
