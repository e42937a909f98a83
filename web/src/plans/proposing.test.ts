import { describe, expect, test } from 'vitest'
import { askedIn, becomes, changes, missing, opsOf, type Proposal, type Proposed } from './proposing'
import type { Plan } from './use'

const passage = (id: string, state: Proposed['state'], more: Partial<Proposed> = {}): Proposed => ({
  id,
  state,
  chapter: 'c',
  order: id,
  title: id,
  purpose: '',
  minutes: 3,
  target: { kind: 'file', path: id, commit: 'x' },
  ...more,
})
const proposal = (passages: Proposed[], isNew = false): Proposal =>
  ({
    budget: 60,
    purpose: 'So.',
    goal: { kind: 'whole', direction: 'outside-in' },
    chapters: [{ id: 'c', order: 'V', title: 'C', new: isNew, passages }],
  }) as unknown as Proposal
const plan = (passages: Proposed[], more: Partial<Plan> = {}): Plan =>
  ({
    budget: 0,
    purpose: '',
    aside: {},
    ideas: [],
    in_order: passages.length ? [{ id: 'c', order: 'V', title: 'C', passages }] : [],
    ...more,
  }) as unknown as Plan
const kinds = (p: Proposal, into: Plan, chosen: string[]) =>
  opsOf(p, into, new Set(chosen)).map((o) => [o.kind, o.id ?? o.field ?? o.new_passage?.id ?? o.new_chapter?.id].join(' '))

describe('what is asked for', () => {
  test.each([
    [{}, { goal: 'whole', minutes: 60, order: 'outside-in' }],
    [
      { goal: 'folder', path: 'a', minutes: '30', order: 'inside-out', plan: '7' },
      { goal: 'folder', path: 'a', minutes: 30, order: 'inside-out', plan: 7 },
    ],
    [
      { goal: 'fame', minutes: '1', path: ['a', 'b'] },
      { goal: 'whole', minutes: 5 },
    ],
    [{ minutes: '99999' }, { minutes: 2400 }],
    [{ minutes: 'soon' }, { minutes: 60 }],
  ])('%j', (query, want) => expect(askedIn(query)).toMatchObject(want))
  test.each([
    ['folder', {}, true],
    ['folder', { path: 'a' }, false],
    ['symbol', { path: 'a', line: '3' }, true],
    ['symbol', { path: 'a', line: '3', name: 'f' }, false],
    ['question', { words: 'x' }, true],
    ['question', { words: 'xy' }, false],
    ['since', {}, true],
    ['whole', {}, false],
  ])('%s needs more than %j: %s', (goal, query, want) => expect(missing(askedIn({ ...query, goal })) !== '').toBe(want))
})

describe('a proposal taken', () => {
  test('all of it, as a new plan', () => {
    const p = proposal([passage('a', 'new'), passage('b', 'new', { needs: ['a'] })], true)
    expect(kinds(p, plan([]), ['a', 'b'])).toEqual([
      'add-chapter c',
      'add-passage a',
      'add-passage b',
      'set-plan goal',
      'set-plan budget',
      'set-plan purpose',
    ])
    const [, added] = opsOf(p, plan([]), new Set(['a', 'b']))
    expect(added!.new_passage).not.toHaveProperty('state')
  })
  test('a part of it: nothing is needed that was left out, and the plan does not take over the goal', () => {
    const p = proposal([passage('a', 'new'), passage('b', 'new', { needs: ['a'] })], true)
    expect(kinds(p, plan([]), ['b'])).toEqual(['add-chapter c', 'add-passage b', 'set-plan purpose'])
    expect(opsOf(p, plan([]), new Set(['b']))[1]!.new_passage!.needs).toEqual([])
  })
  test('into a plan: resized, taken out, and what is a person’s left alone', () => {
    const was = [passage('a', 'there'), passage('b', 'there'), passage('c', 'there')]
    const p = proposal([
      passage('a', 'resized', { minutes: 5, target: { kind: 'file', path: 'a', commit: 'x', skim: 40 }, was: { skim: 0, minutes: 3 } }),
      passage('b', 'out'),
      passage('c', 'yours'),
    ])
    expect(kinds(p, plan(was, { purpose: 'Mine' }), ['a', 'b'])).toEqual([
      'set-passage a',
      'set-passage a',
      'set-passage a',
      'set-passage b',
      'remove-passage b',
      'set-plan goal',
      'set-plan budget',
    ])
  })
  test('a chapter of which nothing is left goes, too', () => {
    expect(kinds(proposal([passage('a', 'out')]), plan([passage('a', 'there')], { purpose: 'Mine' }), ['a'])).toContain('remove-chapter c')
  })
  test('in words', () => {
    expect(
      becomes(passage('a', 'resized', { target: { kind: 'file', path: 'a', commit: 'x', skim: 40 }, was: { skim: 0, minutes: 9 } })),
    ).toBe('all lines → 40 lines, 9 → 3 min')
    expect((['new', 'there', 'out', 'yours'] as const).map((s) => changes(passage('a', s)))).toEqual([true, false, true, false])
  })
})
