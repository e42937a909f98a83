import { afterEach, beforeEach, describe, expect, test, vi } from 'vitest'
import { effectScope, nextTick, ref, type EffectScope } from 'vue'
import type { Change } from '@/api/events'
import { useDraft, type Draft } from './draft'
import type { Op, Plan, PlanChange } from './use'

// a server that keeps the titles of one plan, and answers when it is told to
const server = vi.hoisted(() => ({
  seq: 4,
  title: 'Tides',
  taken: [] as string[], // client ids of operations
  asked: [] as string[],
  answers: [] as ('ok' | 'refused' | 'away' | 'lost')[], // to what is sent; then ok
  slow: {} as Record<number, Promise<void>>, // plans whose answers wait
  hear: null as null | ((c: unknown) => void),
}))
type Answer = { data?: unknown; error?: unknown; response: { ok: boolean; status: number } }
const fine = (data: unknown): Answer => ({ data, response: { ok: true, status: 200 } })
const change = () =>
  ({
    seq: server.seq,
    title: server.title,
    purpose: '',
    budget: 0,
    aside: {},
    chapters: [],
    passages: [],
    ideas: [],
    done: [],
  }) as unknown as PlanChange

vi.mock('@/api/client', async (actual) => ({
  ...(await actual()),
  api: {
    GET: async (path: string, { params }: { params: { path: { plan: number } } }) => {
      server.asked.push(path.split('/').at(-1)!)
      const { plan } = params.path
      await server.slow[plan]
      return fine(path.endsWith('/changes') ? change() : { ...change(), id: plan, purpose: `of ${plan}`, in_order: [], ideas: [] })
    },
    POST: (path: string, { body }: { body: { since: number; ops?: { client_id: string; op: Op }[] } }) => {
      const what = server.answers.shift() ?? 'ok'
      server.asked.push(`${path.split('/').at(-1)!} ${what}`)
      if (what === 'away') return Promise.reject(new TypeError('failed to fetch'))
      if (what === 'refused') return Promise.resolve({ error: { detail: 'the plan is closed' }, response: { ok: false, status: 409 } })
      for (const { client_id, op } of body.ops ?? []) {
        if (server.taken.includes(client_id)) continue // it came before
        server.taken.push(client_id)
        server.title = op.to!
        server.seq++
      }
      if (path.endsWith('/undo')) [server.title, server.seq] = ['taken back', server.seq + 1]
      return what === 'lost' ? Promise.reject(new TypeError('the answer was lost')) : Promise.resolve(fine(change()))
    },
  },
}))
vi.mock('@/api/events', () => ({
  onChange: (listener: (c: unknown) => void) => {
    server.hear = listener
    return () => (server.hear = null)
  },
}))
vi.mock('@/account/me', () => ({ useMe: () => ({ me: ref({ person: { id: 3 } }) }) }))

const titled = (to: string): Op => ({ kind: 'set-plan', field: 'title', to })
const settled = () => vi.advanceTimersByTimeAsync(0)
const title = (d: Draft) => (d.plan.value as Plan | null)?.title

describe('a draft', () => {
  let scopes: EffectScope[] = []
  function opened(plan = ref(7)) {
    const scope = effectScope()
    scopes.push(scope)
    const draft = scope.run(() => useDraft(1, plan))!
    return { draft, plan, close: () => scope.stop() }
  }
  beforeEach(() => {
    vi.useFakeTimers()
    localStorage.clear()
    Object.assign(server, { seq: 4, title: 'Tides', taken: [], asked: [], answers: [], slow: {} })
  })
  afterEach(() => {
    for (const s of scopes) s.stop()
    scopes = []
    vi.useRealTimers()
  })

  test('shows what is done before the server has it', async () => {
    const { draft } = opened()
    await settled()
    const sent = draft.apply([titled('Ebb')])
    expect([title(draft), draft.waiting.value, server.title]).toEqual(['Ebb', 1, 'Ebb'])
    await sent
    expect([title(draft), draft.waiting.value, draft.plan.value!.seq]).toEqual(['Ebb', 0, 5])
  })

  test('sends one batch after another, in the order they were made', async () => {
    const { draft } = opened()
    void draft.apply([titled('one')])
    void draft.apply([titled('two'), titled('three')])
    void draft.apply([])
    await settled()
    expect(server.asked).toEqual(['{plan}', 'ops ok', 'ops ok'])
    expect([title(draft), server.title, server.seq]).toEqual(['three', 'three', 7])
  })

  test('keeps what the server does not hear, and sends it again, later each time', async () => {
    const { draft } = opened()
    await settled()
    server.answers = ['away', 'away', 'away']
    const sent = draft.apply([titled('Ebb')])
    await settled()
    expect([draft.away.value, title(draft), draft.waiting.value]).toEqual([true, 'Ebb', 1])
    await vi.advanceTimersByTimeAsync(499)
    expect(server.asked.length).toBe(2)
    await vi.advanceTimersByTimeAsync(1)
    expect(server.asked.length).toBe(3)
    await vi.advanceTimersByTimeAsync(1000)
    expect([server.asked.length, draft.away.value]).toEqual([4, true])
    window.dispatchEvent(new Event('online')) // no need to wait
    await sent
    expect([draft.away.value, title(draft), draft.waiting.value, server.taken.length]).toEqual([false, 'Ebb', 0, 1])
  })

  test('does a thing once where only the answer was lost', async () => {
    const { draft } = opened()
    await settled()
    server.answers = ['lost']
    const sent = draft.apply([titled('Ebb')])
    await vi.advanceTimersByTimeAsync(500)
    await sent
    expect([server.taken.length, server.seq, title(draft)]).toEqual([1, 5, 'Ebb'])
  })

  test('takes back what is refused, tells why, and goes on with the rest', async () => {
    const { draft } = opened()
    await settled()
    server.answers = ['refused']
    const first = expect(draft.apply([titled('Ebb')])).rejects.toThrow('the plan is closed')
    const second = draft.apply([titled('Flood')])
    expect(title(draft)).toBe('Flood')
    await first
    await second
    expect([title(draft), server.title, draft.waiting.value]).toEqual(['Flood', 'Flood', 0])
    server.answers = ['refused']
    await expect(draft.apply([titled('Ebb')])).rejects.toThrow('the plan is closed')
    expect(title(draft)).toBe('Flood')
  })

  test('sends what was under way when the tab was closed', async () => {
    const before = opened()
    await settled()
    server.answers = ['away']
    void before.draft.apply([titled('Ebb')])
    await settled()
    before.close()
    await nextTick()
    server.taken = []
    const { draft } = opened()
    await settled()
    expect([title(draft), server.title, draft.waiting.value]).toEqual(['Ebb', 'Ebb', 0])
    expect(Object.keys(localStorage).filter((k) => k.includes('unsent'))).toEqual([])
  })

  test('hears what others did, and what it may have missed', async () => {
    const { draft } = opened()
    await settled()
    const others = (to: string) => Object.assign(server, { title: to, seq: server.seq + 1 })
    others('by others')
    server.hear!({ kind: 'plan', plan: 8, seq: 5 } as Change)
    await settled()
    expect(title(draft), 'another plan').toBe('Tides')
    server.hear!({ kind: 'plan', plan: 7, seq: 5 } as Change)
    await settled()
    expect([title(draft), draft.plan.value!.seq]).toEqual(['by others', 5])
    const asked = server.asked.length
    server.hear!({ kind: 'plan', plan: 7, seq: 5 } as Change)
    await settled()
    expect(server.asked.length, 'what is known is not asked for').toBe(asked)
    others('while away')
    server.hear!(null)
    await settled()
    expect(title(draft)).toBe('while away')
  })

  test('takes back what was done last', async () => {
    const { draft } = opened()
    await settled()
    await draft.undo()
    expect([title(draft), server.asked.at(-1)]).toEqual(['taken back', 'undo ok'])
  })

  test('is that of the plan asked for last, whichever answer comes last', async () => {
    let answer = () => {}
    server.slow[7] = new Promise((done) => (answer = done))
    const { draft, plan } = opened()
    plan.value = 8
    await settled()
    answer()
    await settled()
    expect(draft.plan.value!.purpose).toBe('of 8')
  })

  test('of another plan leaves what waits for the first to it', async () => {
    const { draft, plan } = opened()
    await settled()
    server.answers = ['away']
    void draft.apply([titled('Ebb')])
    await settled()
    plan.value = 8
    await settled()
    expect([title(draft), draft.waiting.value]).toEqual(['Tides', 0])
    await vi.advanceTimersByTimeAsync(60_000)
    expect(server.taken).toEqual([])
    plan.value = 7
    await settled()
    expect([server.taken.length, server.title]).toEqual([1, 'Ebb'])
  })
})
