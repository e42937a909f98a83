import { keepPreviousData, useQuery } from '@tanstack/vue-query'
import { computed, toValue, type MaybeRefOrGetter } from 'vue'
import { api, data, type Schemas } from '@/api/client'
import { many } from '@/words/format'
import { setPassage, steps } from './model'
import type { Op, Passage, Plan } from './use'

export type Proposal = Schemas['Proposal']
export type Proposed = Schemas['ProposedPassage']

/** What a draft is asked for, as it stands in the address. */
export interface Asked {
  goal: 'whole' | 'folder' | 'symbol' | 'question' | 'since'
  path?: string
  line?: number
  name?: string
  words?: string
  since?: string
  minutes: number
  order: 'outside-in' | 'inside-out'
  plan?: number
}

const goals = ['whole', 'folder', 'symbol', 'question', 'since'] as const

/** Reads what is asked for out of an address. */
export function askedIn(query: Record<string, unknown>): Asked {
  const text = (k: string) => (typeof query[k] === 'string' && query[k] ? (query[k] as string) : undefined)
  const number = (k: string) => Number(text(k)) || undefined
  return {
    goal: goals.find((g) => g === query.goal) ?? 'whole',
    path: text('path'),
    line: number('line'),
    name: text('name'),
    words: text('words'),
    since: text('since'),
    minutes: Math.min(2400, Math.max(5, Math.round(number('minutes') ?? 60))),
    order: query.order === 'inside-out' ? 'inside-out' : 'outside-in',
    plan: number('plan'),
  }
}

/** What is missing before a draft can be made, in words; '': nothing. */
export function missing(a: Asked): string {
  switch (a.goal) {
    case 'folder':
      return a.path ? '' : 'Say which folder.'
    case 'symbol':
      return a.path && a.line && a.name ? '' : 'Choose a symbol: open its card and take “draft a plan to change it”.'
    case 'question':
      return (a.words?.trim().length ?? 0) >= 2 ? '' : 'Say what to look for.'
    case 'since':
      return a.since ? '' : 'Say since which tag, branch or commit.'
  }
  return ''
}

/** A proposal for what is asked. Nothing is kept of it. */
export function useProposal(repository: MaybeRefOrGetter<number>, asked: MaybeRefOrGetter<Asked>) {
  return useQuery({
    queryKey: computed(() => ['draft', toValue(repository), toValue(asked)]),
    queryFn: ({ signal }) =>
      data(
        api.GET('/api/repositories/{repository}/draft', {
          params: { path: { repository: toValue(repository) }, query: toValue(asked) },
          signal,
        }),
      ),
    enabled: computed(() => !missing(toValue(asked))),
    placeholderData: keepPreviousData,
    staleTime: 0,
  })
}

/** What a proposal would change of a passage, in words; '': nothing. */
export function becomes(x: Proposed): string {
  const shown = (skim: number | undefined) => (skim ? many(skim, 'line') : 'all lines')
  switch (x.state) {
    case 'new':
      return 'new'
    case 'resized':
      return `${shown(x.was?.skim)} → ${shown(x.target.skim)}, ${x.was?.minutes} → ${x.minutes} min`
    case 'out':
      return 'taken out'
    case 'yours':
      return 'yours: it stays as it is'
  }
  return ''
}

/** Whether taking a passage of a proposal changes anything. */
export const changes = (x: Proposed) => x.state === 'new' || x.state === 'resized' || x.state === 'out'

/** A proposed passage without what becomes of it. */
function passageOf(x: Proposed): Passage {
  const p: Passage & Partial<Pick<Proposed, 'state' | 'was'>> = { ...x }
  delete p.state
  delete p.was
  return p
}

/** The operations that take passages of a proposal into a plan: those that are
 * chosen, with the chapters they need. The plan remembers what it was drafted for
 * where all of it is taken. */
export function opsOf(p: Proposal, plan: Plan, chosen: ReadonlySet<string>): Op[] {
  const out: Op[] = []
  const there = new Map(steps(plan).map((s) => [s.passage.id, s.passage]))
  const chapters = new Set(plan.in_order.map((c) => c.id))
  const known = new Set([...there.keys(), ...plan.ideas.map((i) => i.id), ...chosen])
  for (const c of p.chapters) {
    for (const x of c.passages) {
      if (!chosen.has(x.id)) continue
      const now = there.get(x.id)
      if (x.state === 'new' && !now) {
        if (!chapters.has(c.id)) {
          out.push({ kind: 'add-chapter', new_chapter: { id: c.id, order: c.order, title: c.title, intent: c.intent } })
          chapters.add(c.id)
        }
        out.push({ kind: 'add-passage', new_passage: { ...passageOf(x), needs: x.needs?.filter((n) => known.has(n)) } })
      }
      if (x.state === 'resized' && now)
        out.push(setPassage(now, 'target', x.target), setPassage(now, 'minutes', x.minutes), setPassage(now, 'drafted', x.drafted ?? ''))
      if (x.state === 'out' && now) out.push(setPassage(now, 'drafted', 'out'), { kind: 'remove-passage', id: x.id })
    }
    if (!c.new && c.passages.length && c.passages.every((x) => x.state === 'out' && chosen.has(x.id)))
      out.push({ kind: 'remove-chapter', id: c.id })
  }
  if (p.chapters.every((c) => c.passages.every((x) => !changes(x) || chosen.has(x.id)))) {
    const goal = JSON.stringify(p.goal)
    const was = JSON.stringify(plan.goal ?? null)
    if (goal !== was) out.push({ kind: 'set-plan', field: 'goal', from: was, to: goal })
    if (p.budget !== plan.budget) out.push({ kind: 'set-plan', field: 'budget', from: String(plan.budget), to: String(p.budget) })
  }
  if (!plan.purpose && p.purpose && out.length) out.push({ kind: 'set-plan', field: 'purpose', from: '', to: p.purpose })
  return out
}
