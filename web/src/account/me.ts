import { useQuery, useQueryClient } from '@tanstack/vue-query'
import { api, data, type Schemas } from '@/api/client'

/** Who is signed in; `set` takes over an answer that just said so. */
export function useMe() {
  const queries = useQueryClient()
  const q = useQuery({ queryKey: ['me'], queryFn: ({ signal }) => data(api.GET('/api/me', { signal })), staleTime: 60_000 })
  return { me: q.data, error: q.error, set: (me: Schemas['Me']) => queries.setQueryData(['me'], me), forget: () => queries.clear() }
}
