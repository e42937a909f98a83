import { useInfiniteQuery, useQuery } from '@tanstack/vue-query'
import { computed, toValue, type MaybeRefOrGetter } from 'vue'
import { api, data, type Schemas } from '@/api/client'
import type { NamePlace } from './names'

type Getter<T> = MaybeRefOrGetter<T>

/** What can be said of a file or folder ("": the root). */
export function useSummary(repository: Getter<number>, path: Getter<string>, enabled: Getter<boolean> = true) {
  return useQuery({
    queryKey: computed(() => ['repository', toValue(repository), 'summary', toValue(path)]),
    queryFn: ({ signal }) =>
      data(
        api.GET('/api/repositories/{repository}/summary', {
          params: { path: { repository: toValue(repository) }, query: { path: toValue(path) } },
          signal,
        }),
      ),
    enabled: computed(() => toValue(enabled)),
    retry: false,
  })
}

/** What can be said of a folder, and of each folder right below it. */
export function useSummaries(repository: Getter<number>, path: Getter<string>, enabled: Getter<boolean> = true) {
  return useQuery({
    queryKey: computed(() => ['repository', toValue(repository), 'summaries', toValue(path)]),
    queryFn: ({ signal }) =>
      data(
        api.GET('/api/repositories/{repository}/summary', {
          params: { path: { repository: toValue(repository) }, query: { path: toValue(path), children: true } },
          signal,
        }),
      ),
    enabled: computed(() => toValue(enabled)),
    retry: false,
  })
}

/** What a file leans on, who leans on it, and what it does to the outside. */
export function useLinks(repository: Getter<number>, path: Getter<string>, enabled: Getter<boolean> = true) {
  return useQuery({
    queryKey: computed(() => ['repository', toValue(repository), 'links', toValue(path)]),
    queryFn: ({ signal }) =>
      data(
        api.GET('/api/repositories/{repository}/links', {
          params: { path: { repository: toValue(repository) }, query: { path: toValue(path) } },
          signal,
        }),
      ),
    enabled: computed(() => toValue(enabled)),
    retry: false,
  })
}

/** What the name at a place means. */
export function useDefinition(repository: Getter<number>, path: Getter<string>, place: Getter<NamePlace>) {
  return useQuery({
    queryKey: computed(() => ['repository', toValue(repository), 'definition', toValue(path), toValue(place)]),
    queryFn: ({ signal }) =>
      data(
        api.GET('/api/repositories/{repository}/definition', {
          params: { path: { repository: toValue(repository) }, query: { path: toValue(path), ...toValue(place), source: true } },
          signal,
        }),
      ),
    retry: false,
  })
}

type Asked = Getter<Schemas['DefinitionInfo'] | undefined>
const asked = (s: Schemas['DefinitionInfo'] | undefined) => (s && s.kind ? { path: s.path, line: s.line, name: s.name } : undefined)

/** Where a symbol is used, page by page; undefined: nothing is asked. */
export function useUses(repository: Getter<number>, symbol: Asked) {
  const query = computed(() => asked(toValue(symbol)))
  return useInfiniteQuery({
    queryKey: computed(() => ['repository', toValue(repository), 'uses', query.value]),
    queryFn: ({ signal, pageParam }) =>
      data(
        api.GET('/api/repositories/{repository}/uses', {
          params: { path: { repository: toValue(repository) }, query: { ...query.value!, offset: pageParam } },
          signal,
        }),
      ),
    initialPageParam: 0,
    getNextPageParam: (last) => last.next || undefined,
    enabled: computed(() => !!query.value),
    retry: false,
  })
}

/** The types above and below a symbol, and what a forwarder hands its call to;
 * undefined: nothing is asked. */
export function useRelatives(repository: Getter<number>, symbol: Asked) {
  const query = computed(() => asked(toValue(symbol)))
  return useQuery({
    queryKey: computed(() => ['repository', toValue(repository), 'relatives', query.value]),
    queryFn: ({ signal }) =>
      data(
        api.GET('/api/repositories/{repository}/relatives', {
          params: { path: { repository: toValue(repository) }, query: query.value! },
          signal,
        }),
      ),
    enabled: computed(() => !!query.value),
    retry: false,
  })
}
