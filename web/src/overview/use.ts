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

/** One readme as safe HTML; "" asks for nothing. */
export function useReadme(repository: MaybeRefOrGetter<number>, path: MaybeRefOrGetter<string>) {
  return useQuery({
    queryKey: computed(() => ['repository', toValue(repository), 'readme', toValue(path)]),
    queryFn: ({ signal }) =>
      data(
        api.GET('/api/repositories/{repository}/readme', {
          params: { path: { repository: toValue(repository) }, query: { path: toValue(path) } },
          signal,
        }),
      ),
    enabled: computed(() => toValue(path) !== ''),
  })
}

/** What lies right below a folder; "" asks for nothing. */
export function useFolder(repository: MaybeRefOrGetter<number>, path: MaybeRefOrGetter<string>) {
  return useQuery({
    queryKey: computed(() => ['repository', toValue(repository), 'folder', toValue(path)]),
    queryFn: ({ signal }) =>
      data(
        api.GET('/api/repositories/{repository}/folder', {
          params: { path: { repository: toValue(repository) }, query: { path: toValue(path) } },
          signal,
        }),
      ),
    enabled: computed(() => toValue(path) !== ''),
  })
}
