import { computed, onScopeDispose, ref, shallowRef, toValue, watch, type MaybeRefOrGetter } from 'vue'
import { api, data, isLeaving, ProblemError, words } from '@/api/client'
import { onChange } from '@/api/events'
import { onSignedIn } from '@/account/session'
import { notice } from '@/frame/notice'
import { forgetTyped, keepTyped, leftBehind, ownTab } from '@/typing'
import { asPlan, flat, fold, merged, type Flat } from './fold'
import { newId, type Op, type Passage, type Plan, type PlanChange } from './use'

interface Batch {
  id: string
  ops: { client_id: string; op: Op }[] // none: what was done last is taken back, or done again
  turn?: 'undo' | 'redo'
  done: () => void
  failed: (e: unknown) => void
}

/** A passage that was removed while somebody looks at it. */
export interface Removal {
  passage: Passage
  by: string
  back: Op[] // what brings it back
}

const writerKey = (part: string, field?: string) => (field ? `${part} ${field}` : part)

/** Whether the server will not take it, however often it is asked. Who is not signed
 * in any more, or asks too often, asks again later. */
const isRefusal = (status: number) => status >= 400 && status < 500 && ![401, 408, 429].includes(status)

/** How long to wait, in ms, before what was not answered is sent again. */
const pauses = [500, 1000, 2000, 5000, 10_000]

/** The draft of a plan, as it is and with what one does to it at once: operations
 * are shown when they are made, sent one batch after another, kept while the
 * server does not answer, and taken back with a reason where it refuses. */
export function useDraft(repository: MaybeRefOrGetter<number>, plan: MaybeRefOrGetter<number>) {
  const head = shallowRef<Plan | null>(null)
  const base = shallowRef<Flat | null>(null)
  const queue = shallowRef<Batch[]>([])
  const error = shallowRef<unknown>(null)
  /** Nothing was heard of the server since something was sent. */
  const away = ref(false)
  const at = () => ({ path: { repository: toValue(repository), plan: toValue(plan) } })
  /** What was not acknowledged when a tab was closed is sent when the plan opens again. */
  const unsent = () => `plan.${toValue(plan)}.unsent`
  /** Who did what last among the others: by part, and by part and field. */
  const writers = shallowRef<ReadonlyMap<string, string>>(new Map())

  const pending = computed(() => queue.value.flatMap((b) => b.ops.map((o) => o.op)))
  const seen = computed(() => base.value && fold(base.value, pending.value))
  const shown = computed(() => seen.value && head.value && asPlan(seen.value, head.value))

  let turn = 0
  let sending = false
  let timer = 0
  let keptAlive = false // what is on its way arrives although the tab is closed
  function take(c: PlanChange) {
    if (c.done.length)
      writers.value = new Map([...writers.value, ...c.done.map((d) => [writerKey(d.id, d.field), d.by || 'somebody'] as const)])
    if (base.value) base.value = merged(base.value, c)
  }
  function setQueue(to: Batch[]) {
    queue.value = to
    const left = to.filter((b) => b.ops.length).map((b) => b.ops)
    if (left.length) keepTyped(unsent(), left)
    else forgetTyped(unsent())
  }

  async function load() {
    const mine = ++turn
    error.value = null
    try {
      const got = await data(api.GET('/api/repositories/{repository}/plans/{plan}', { params: { ...at(), query: { edition: 'draft' } } }))
      if (mine !== turn) return
      head.value = got
      base.value = flat(got)
      void send()
    } catch (e) {
      if (mine === turn) error.value = e
    }
  }
  async function catchUp() {
    if (!base.value || sending) return
    const mine = turn
    try {
      const c = await data(
        api.GET('/api/repositories/{repository}/plans/{plan}/changes', { params: { ...at(), query: { since: base.value.seq } } }),
      )
      if (mine === turn) take(c)
    } catch (e) {
      if (mine === turn && e instanceof ProblemError && e.status >= 400 && e.status < 500) error.value = e
    }
  }
  const post = (b: Batch) => {
    const since = base.value!.seq
    keptAlive = isLeaving()
    if (b.turn) {
      const body = { client_id: b.id, since }
      return b.turn === 'undo'
        ? api.POST('/api/repositories/{repository}/plans/{plan}/undo', { params: at(), body })
        : api.POST('/api/repositories/{repository}/plans/{plan}/redo', { params: at(), body })
    }
    return api.POST('/api/repositories/{repository}/plans/{plan}/ops', { params: at(), body: { since, ops: b.ops } })
  }
  async function send(tries = 0): Promise<void> {
    if (sending || !base.value || !queue.value.length) return
    clearTimeout(timer)
    sending = true
    const mine = turn
    const b = queue.value[0]!
    try {
      const c = await data<PlanChange>(post(b))
      if (mine !== turn) return
      away.value = false
      take(c)
      setQueue(queue.value.slice(1))
      b.done()
    } catch (e) {
      if (mine !== turn) return
      if (e instanceof ProblemError && isRefusal(e.status)) {
        away.value = false
        setQueue(queue.value.slice(1))
        b.failed(e)
        sending = false
        void catchUp()
      } else {
        away.value = true
        timer = window.setTimeout(() => void send(tries + 1), pauses[Math.min(tries, pauses.length - 1)])
        return
      }
    } finally {
      sending = false
    }
    void send()
  }
  /** The page goes away: all that waits is sent at once. What is on its way already
   * may be in it too; the server does an operation once. */
  function hurry() {
    const undo = queue.value.findIndex((b) => b.turn) // what comes after it depends on it
    const batches = undo < 0 ? queue.value : queue.value.slice(0, undo)
    if (!base.value || !batches.length || (batches.length === 1 && keptAlive)) return
    const body = { since: base.value.seq, ops: batches.flatMap((b) => b.ops) }
    void api.POST('/api/repositories/{repository}/plans/{plan}/ops', { params: at(), body }).catch(() => {}) // it is kept here
  }
  const add = (b: Omit<Batch, 'done' | 'failed'>) =>
    new Promise<void>((done, failed) => {
      setQueue([...queue.value, { ...b, done, failed }])
      void send()
    })

  /** Sends what this tab, or one that is closed, could not. */
  async function sendLeft() {
    const name = unsent()
    const left = await leftBehind<Batch['ops'][]>(name)
    if (name !== unsent() || !left.length) return
    // nobody waits for these any more: a refusal is shown here
    const failed = (e: unknown) => notice(`Something you did before was not taken: ${words(e)}`, { fault: true })
    const mine = new Set(queue.value.flatMap((b) => b.ops.map((o) => o.client_id)))
    const batches = left.flatMap((l) => l.value).filter((ops) => !mine.has(ops[0]?.client_id ?? ''))
    setQueue([...batches.map((ops) => ({ id: newId(), ops, done: () => {}, failed })), ...queue.value])
    for (const l of left) if (l.tab !== ownTab()) forgetTyped(name, l.tab)
    void send()
  }

  watch(
    () => [toValue(repository), toValue(plan)],
    () => {
      clearTimeout(timer)
      head.value = base.value = null
      sending = false
      queue.value = []
      writers.value = new Map()
      void load()
      void sendLeft()
    },
    { immediate: true },
  )
  onScopeDispose(
    onChange((e) => {
      if (e === null) void catchUp()
      else if (e.kind === 'plan' && e.plan === toValue(plan) && (e.seq ?? 0) > (base.value?.seq ?? Infinity)) void catchUp()
    }),
  )
  const online = () => void send()
  window.addEventListener('online', online)
  window.addEventListener('pagehide', hurry)
  const endSignedIn = onSignedIn(online)
  onScopeDispose(() => {
    turn++
    clearTimeout(timer)
    window.removeEventListener('online', online)
    window.removeEventListener('pagehide', hurry)
    endSignedIn()
  })
  /** The passage as it is or was, if it is not in the plan any more. */
  function removal(id: string): Removal | null {
    const passage = seen.value?.passages.get(id)
    const chapter = seen.value?.chapters.get(passage?.chapter ?? '')
    if (!passage || !chapter || !(passage.removed || chapter.removed)) return null
    const part = passage.removed ? passage : chapter
    const back: Op[] = []
    if (chapter.removed) back.push({ kind: 'restore-chapter', id: chapter.id })
    if (passage.removed) back.push({ kind: 'restore-passage', id })
    return { passage, by: writers.value.get(writerKey(part.id)) ?? 'You', back }
  }

  return {
    plan: shown,
    error,
    away,
    removal,
    /** Who else set a field last; "" is nobody since the plan was opened. */
    writer: (part: string, field: string) => writers.value.get(writerKey(part, field)) ?? '',
    /** How many batches are on their way. */
    waiting: computed(() => queue.value.length),
    /** Resolves once the server has them, and throws why it does not take them. */
    apply: (ops: readonly Op[]) =>
      ops.length ? add({ id: newId(), ops: ops.map((op) => ({ client_id: newId(), op })) }) : Promise.resolve(),
    undo: () => add({ id: newId(), ops: [], turn: 'undo' }),
    redo: () => add({ id: newId(), ops: [], turn: 'redo' }),
    reload: load,
  }
}

export type Draft = ReturnType<typeof useDraft>
