import { useQuery, useQueryClient } from '@tanstack/vue-query'
import { useStorage } from '@vueuse/core'
import { computed, toValue, type MaybeRefOrGetter } from 'vue'
import { api, data, type Schemas } from '@/api/client'

export type Plan = Schemas['PlanInfo']
export type Passage = Schemas['Passage']
export type Chapter = Schemas['Chapter']
export type Idea = Schemas['Idea']
export type PlanChange = Schemas['PlanChange']
export type Fault = Schemas['Fault']
export type Target = Schemas['Target']
export type Stretch = Schemas['Stretch']
export type Op = Schemas['Op']

/** The plans of a repository that the person may see. */
export function usePlans(repository: MaybeRefOrGetter<number>) {
  return useQuery({
    queryKey: computed(() => ['plans', toValue(repository), 'list']),
    queryFn: ({ signal }) =>
      data(api.GET('/api/repositories/{repository}/plans', { params: { path: { repository: toValue(repository) } }, signal })),
    enabled: computed(() => toValue(repository) > 0),
  })
}

/** One plan: the edition that one reads, or the one that is asked for; id 0 asks
 * for nothing. */
export function usePlan(
  repository: MaybeRefOrGetter<number>,
  id: MaybeRefOrGetter<number>,
  edition: MaybeRefOrGetter<string | undefined> = undefined,
  texts = false,
) {
  return useQuery({
    queryKey: computed(() => ['plans', toValue(repository), toValue(id), toValue(edition) ?? '', texts]),
    queryFn: ({ signal }) =>
      data(
        api.GET('/api/repositories/{repository}/plans/{plan}', {
          params: {
            path: { repository: toValue(repository), plan: toValue(id) },
            query: { edition: toValue(edition), texts: texts || undefined },
          },
          signal,
        }),
      ),
    enabled: computed(() => toValue(id) > 0),
    placeholderData: (before) => (before?.id === toValue(id) ? before : undefined),
  })
}

/** The plan at hand of each repository: the one looked at last. Who may write it
 * sees its draft. */
const atHand = useStorage<Record<string, number>>('juxtagram-plan-at-hand', {})

export function usePlanAtHand(repository: MaybeRefOrGetter<number>) {
  const plans = usePlans(repository)
  const found = computed(() => {
    const list = plans.data.value ?? []
    const kept = atHand.value[toValue(repository)]
    return list.find((p) => p.id === kept) ?? list[0]
  })
  const id = computed(() => found.value?.id ?? 0)
  const plan = usePlan(repository, id, () => (found.value?.may_write ? 'draft' : undefined))
  return { id, plan, take: (plan: number) => (atHand.value = { ...atHand.value, [toValue(repository)]: plan }) }
}

export function newId(): string {
  return crypto.randomUUID()
}

// settled when the place told last has been kept, or refused
let places: Promise<unknown> = Promise.resolve()

/** What changes plans, but for the draft that one composes (see draft.ts). */
export function usePlanChanges(repository: MaybeRefOrGetter<number>) {
  const queries = useQueryClient()
  const forget = () => queries.invalidateQueries({ queryKey: ['plans', toValue(repository)] })
  const path = (plan: number) => ({ path: { repository: toValue(repository), plan } })
  async function told<T>(what: Promise<T>): Promise<T> {
    const got = await what
    await forget()
    return got
  }
  return {
    begin: (title: string, isPrivate: boolean) =>
      told(
        data(
          api.POST('/api/repositories/{repository}/plans', {
            params: { path: { repository: toValue(repository) } },
            body: { title, private: isPrivate },
          }),
        ),
      ),
    copy: (plan: number, title: string, isPrivate: boolean) =>
      told(data(api.POST('/api/repositories/{repository}/plans/{plan}/copy', { params: path(plan), body: { title, private: isPrivate } }))),
    apply: (plan: number, ops: Op[]) =>
      told(
        data(
          api.POST('/api/repositories/{repository}/plans/{plan}/ops', {
            params: path(plan),
            body: { ops: ops.map((op) => ({ client_id: newId(), op })) },
          }),
        ),
      ),
    undo: (plan: number) =>
      told(data(api.POST('/api/repositories/{repository}/plans/{plan}/undo', { params: path(plan), body: { client_id: newId() } }))),
    remove: (plan: number) => told(data(api.DELETE('/api/repositories/{repository}/plans/{plan}', { params: path(plan) }))),
    publish: (plan: number, seq: number, note: string) =>
      told(data(api.POST('/api/repositories/{repository}/plans/{plan}/editions', { params: path(plan), body: { seq, note } }))),
    progress: (plan: number, body: { passage: string; done?: boolean; skipped?: boolean; reason?: string }) =>
      told(data(api.PUT('/api/repositories/{repository}/plans/{plan}/progress', { params: path(plan), body }))),
    /** One after the other: the place that is told last is the one that is kept. */
    place: (plan: number, body: { passage: string; last?: string; seconds?: number }) => {
      const params = path(plan)
      const told = places.then(() => data(api.PUT('/api/repositories/{repository}/plans/{plan}/place', { params, body })))
      places = told.catch(() => {})
      return told
    },
    reading: (plan: number, edition: number, shown: boolean) =>
      told(data(api.PUT('/api/repositories/{repository}/plans/{plan}/reading', { params: path(plan), body: { edition, shown } }))),
  }
}
