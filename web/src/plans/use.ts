import { useQuery, useQueryClient } from '@tanstack/vue-query'
import { useStorage } from '@vueuse/core'
import { computed, toValue, type MaybeRefOrGetter } from 'vue'
import { api, data, type Schemas } from '@/api/client'

export type Plan = Schemas['PlanInfo']
export type Passage = Schemas['Passage']
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

/** One plan; id 0 asks for nothing. */
export function usePlan(repository: MaybeRefOrGetter<number>, id: MaybeRefOrGetter<number>) {
  return useQuery({
    queryKey: computed(() => ['plans', toValue(repository), toValue(id)]),
    queryFn: ({ signal }) =>
      data(
        api.GET('/api/repositories/{repository}/plans/{plan}', {
          params: { path: { repository: toValue(repository), plan: toValue(id) } },
          signal,
        }),
      ),
    enabled: computed(() => toValue(id) > 0),
  })
}

/** The plan at hand of each repository: the one looked at last. */
const atHand = useStorage<Record<string, number>>('juxtagram-plan-at-hand', {})

export function usePlanAtHand(repository: MaybeRefOrGetter<number>) {
  const plans = usePlans(repository)
  const id = computed(() => {
    const list = plans.data.value ?? []
    const kept = atHand.value[toValue(repository)]
    return (list.find((p) => p.id === kept) ?? list[0])?.id ?? 0
  })
  return { id, plan: usePlan(repository, id), take: (plan: number) => (atHand.value = { ...atHand.value, [toValue(repository)]: plan }) }
}

export function newId(): string {
  return crypto.randomUUID()
}

/** Everything that changes a plan. Answers bring the plan as it then is. */
export function usePlanChanges(repository: MaybeRefOrGetter<number>) {
  const queries = useQueryClient()
  const keep = (p: Plan) => {
    queries.setQueryData(['plans', toValue(repository), p.id], p)
    void queries.invalidateQueries({ queryKey: ['plans', toValue(repository), 'list'] })
    return p
  }
  const path = (plan: number) => ({ path: { repository: toValue(repository), plan } })
  return {
    begin: async (title: string, isPrivate: boolean) =>
      keep(
        await data(
          api.POST('/api/repositories/{repository}/plans', {
            params: { path: { repository: toValue(repository) } },
            body: { title, private: isPrivate },
          }),
        ),
      ),
    apply: async (plan: number, ops: Op[]) =>
      keep(
        await data(
          api.POST('/api/repositories/{repository}/plans/{plan}/ops', {
            params: path(plan),
            body: { ops: ops.map((op) => ({ client_id: newId(), op })) },
          }),
        ),
      ),
    undo: async (plan: number) =>
      keep(await data(api.POST('/api/repositories/{repository}/plans/{plan}/undo', { params: path(plan), body: { client_id: newId() } }))),
    remove: async (plan: number) => {
      await data(api.DELETE('/api/repositories/{repository}/plans/{plan}', { params: path(plan) }))
      await queries.invalidateQueries({ queryKey: ['plans', toValue(repository)] })
    },
    done: async (plan: number, passage: string, done: boolean) => {
      await data(api.PUT('/api/repositories/{repository}/plans/{plan}/progress', { params: path(plan), body: { passage, done } }))
      await queries.invalidateQueries({ queryKey: ['plans', toValue(repository)] })
    },
    place: async (plan: number, passage: string) => {
      await data(api.PUT('/api/repositories/{repository}/plans/{plan}/place', { params: path(plan), body: { passage } }))
    },
  }
}
