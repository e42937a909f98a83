import { useQuery } from '@tanstack/vue-query'
import { computed, toValue, type MaybeRefOrGetter } from 'vue'
import { api, data } from '@/api/client'

/** The front page of the survey at the pin. */
export function useOverview(repository: MaybeRefOrGetter<number>) {
  return useQuery({
    queryKey: computed(() => ['repository', toValue(repository), 'overview']),
    queryFn: ({ signal }) =>
      data(api.GET('/api/repositories/{repository}/overview', { params: { path: { repository: toValue(repository) } }, signal })),
  })
}
