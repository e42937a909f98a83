import { useLocalStorage } from '@vueuse/core'
import { computed, onScopeDispose, ref, shallowRef, toValue, watch, type MaybeRefOrGetter } from 'vue'
import { useMe } from '@/account/me'
import { api, data, ProblemError, words } from '@/api/client'
import { onChange } from '@/api/events'
import { notice } from '@/frame/notice'
import { asPlan, flat, fold, merged, type Flat } from './fold'
import { newId, type Op, type Plan, type PlanChange } from './use'

interface Batch {
  id: string
  ops: { client_id: string; op: Op }[] // none: what was done last is taken back, or done again
  turn?: 'undo' | 'redo'
  done: () => void
  failed: (e: unknown) => void
}

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
  /** What was not acknowledged when a tab was closed is sent when it opens again. */
  const unsent = useLocalStorage<Record<string, Batch['ops'][]>>('juxtagram.unsent', {})
  const { me } = useMe()
  const key = () => `${me.value?.person?.id ?? 0} ${toValue(plan)}`

  const pending = computed(() => queue.value.flatMap((b) => b.ops.map((o) => o.op)))
  const seen = computed(() => base.value && fold(base.value, pending.value))
  const shown = computed(() => seen.value && head.value && asPlan(seen.value, head.value))

  let turn = 0
  let sending = false
  let timer = 0
  function take(c: PlanChange) {
    if (base.value) base.value = merged(base.value, c)
  }
  function setQueue(to: Batch[]) {
    queue.value = to
    const next = { ...unsent.value }
    const left = to.filter((b) => b.ops.length).map((b) => b.ops)
    if (left.length) next[key()] = left
    else delete next[key()]
    unsent.value = next
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
      if (e instanceof ProblemError && e.status >= 400 && e.status < 500) {
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
  const add = (b: Omit<Batch, 'done' | 'failed'>) =>
    new Promise<void>((done, failed) => {
      setQueue([...queue.value, { ...b, done, failed }])
      void send()
    })

  watch(
    () => [toValue(repository), toValue(plan)],
    () => {
      clearTimeout(timer)
      head.value = base.value = null
      sending = false
      // nobody waits for these any more: what is refused of them is told here
      const failed = (e: unknown) => notice(`Something you did before was not taken: ${words(e)}`, { fault: true })
      queue.value = (unsent.value[key()] ?? []).map((ops) => ({ id: newId(), ops, done: () => {}, failed }))
      void load()
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
  onScopeDispose(() => {
    turn++
    clearTimeout(timer)
    window.removeEventListener('online', online)
  })

  return {
    plan: shown,
    error,
    away,
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
