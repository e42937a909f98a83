import { useQuery } from '@tanstack/vue-query'
import { computed, inject, provide, type ComputedRef, type InjectionKey } from 'vue'
import { useRoute } from 'vue-router'
import { api, data, type Schemas } from '@/api/client'

const key: InjectionKey<ComputedRef<Schemas['RepositoryInfo']>> = Symbol('repository')

/** The id of the repository in the address; 0 outside of one. */
export function useRepositoryId() {
  const route = useRoute()
  return computed(() => Number(route.params.repository ?? 0))
}

/** The repository in the address, asked for anew when it changes. */
export function useRepositoryQuery() {
  const id = useRepositoryId()
  return useQuery({
    queryKey: computed(() => ['repository', id.value, 'info']),
    queryFn: ({ signal }) => data(api.GET('/api/repositories/{repository}', { params: { path: { repository: id.value } }, signal })),
    enabled: computed(() => id.value > 0),
    // events tell when it is done; should one be lost, this finds out
    refetchInterval: (q) => (q.state.data?.state === 'taking-in' ? 3000 : false),
  })
}

export function provideRepository(r: ComputedRef<Schemas['RepositoryInfo']>) {
  provide(key, r)
}

/** The repository of the page; only below Repository.vue. */
export function useRepository() {
  const r = inject(key)
  if (!r) throw new Error('no repository on this page')
  return r
}

/** Whether a person's part may do what another part may. */
export function includes(role: string, other: 'reader' | 'writer' | 'keeper') {
  const rank = ['', 'reader', 'writer', 'keeper']
  return rank.indexOf(role) >= rank.indexOf(other)
}
