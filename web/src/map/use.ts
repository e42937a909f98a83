import { keepPreviousData, useQuery } from '@tanstack/vue-query'
import { computed, toValue, type MaybeRefOrGetter } from 'vue'
import { api, data, type Schemas } from '@/api/client'

export type MovesPerson = Schemas['MovesPerson']

/** The tree of the survey at the pin with its figures. */
export function useMapInfo(repository: MaybeRefOrGetter<number>) {
  return useQuery({
    queryKey: computed(() => ['repository', toValue(repository), 'map']),
    queryFn: ({ signal }) =>
      data(api.GET('/api/repositories/{repository}/map', { params: { path: { repository: toValue(repository) } }, signal })),
    staleTime: Infinity,
    gcTime: 5 * 60_000,
    structuralSharing: false,
    shallow: true, // columns of thousands: no proxy stands before them
  })
}

export interface SpanAsked {
  from: number
  to: number
  person: number
}

/** What happened in a span; null asks for nothing. */
export function useSpan(repository: MaybeRefOrGetter<number>, span: MaybeRefOrGetter<SpanAsked | null>) {
  return useQuery({
    queryKey: computed(() => ['repository', toValue(repository), 'map', 'span', toValue(span)]),
    queryFn: ({ signal }) =>
      data(
        api.GET('/api/repositories/{repository}/map/span', {
          params: { path: { repository: toValue(repository) }, query: toValue(span)! },
          signal,
        }),
      ),
    enabled: computed(() => toValue(span) !== null),
    placeholderData: keepPreviousData,
    staleTime: Infinity,
    gcTime: 60_000,
    structuralSharing: false,
    shallow: true, // columns of thousands: no proxy stands before them
  })
}

/** What a file or folder leans on and what leans on it; "" asks for nothing. */
export function useTies(repository: MaybeRefOrGetter<number>, path: MaybeRefOrGetter<string>) {
  return useQuery({
    queryKey: computed(() => ['repository', toValue(repository), 'map', 'ties', toValue(path)]),
    queryFn: ({ signal }) =>
      data(
        api.GET('/api/repositories/{repository}/map/ties', {
          params: { path: { repository: toValue(repository) }, query: { path: toValue(path) } },
          signal,
        }),
      ),
    enabled: computed(() => toValue(path) !== ''),
    staleTime: Infinity,
    retry: false,
  })
}

/** What happened to a file or folder. */
export function useStory(repository: MaybeRefOrGetter<number>, path: MaybeRefOrGetter<string>) {
  return useQuery({
    queryKey: computed(() => ['repository', toValue(repository), 'story', toValue(path)]),
    queryFn: ({ signal }) =>
      data(
        api.GET('/api/repositories/{repository}/story', {
          params: { path: { repository: toValue(repository) }, query: { path: toValue(path) } },
          signal,
        }),
      ),
    staleTime: Infinity,
    retry: false,
  })
}

/** Which paths plans hold, and which the person has read. */
export function useMarks(repository: MaybeRefOrGetter<number>) {
  return useQuery({
    queryKey: computed(() => ['plans', toValue(repository), 'marks']),
    queryFn: ({ signal }) =>
      data(api.GET('/api/repositories/{repository}/marks', { params: { path: { repository: toValue(repository) } }, signal })),
  })
}
