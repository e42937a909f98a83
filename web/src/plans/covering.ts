import { keepPreviousData, useQuery } from '@tanstack/vue-query'
import { computed, toValue, type MaybeRefOrGetter } from 'vue'
import { api, data, type Schemas } from '@/api/client'

export type Covered = Schemas['Covered']
export type CoverageKind = Schemas['CoverageKind']

/** What is covered, in words. */
export const kindTitles: Record<string, string> = {
  'entry-point': 'Entry points',
  hotspot: 'Hotspots',
  hub: 'Central files',
  'tagged-comment': 'Tagged comments',
  folder: 'Folders',
}

/** What a plan covers; asked anew when its operations or the edition change. */
export function useCoverage(
  repository: MaybeRefOrGetter<number>,
  plan: MaybeRefOrGetter<number>,
  edition: MaybeRefOrGetter<string | undefined>,
  seq: MaybeRefOrGetter<number>,
  wanted: MaybeRefOrGetter<boolean> = true,
) {
  return useQuery({
    queryKey: computed(() => ['plans', toValue(repository), toValue(plan), 'coverage', toValue(edition) ?? '', toValue(seq)]),
    queryFn: ({ signal }) =>
      data(
        api.GET('/api/repositories/{repository}/plans/{plan}/coverage', {
          params: { path: { repository: toValue(repository), plan: toValue(plan) }, query: { edition: toValue(edition) } },
          signal,
        }),
      ),
    enabled: computed(() => toValue(plan) > 0 && toValue(wanted)),
    placeholderData: keepPreviousData,
  })
}

/** What becomes of things, in words; those not decided yet first. */
export const coverTitles = {
  open: 'not decided yet',
  here: 'read here',
  elsewhere: 'read in another plan',
  aside: 'set aside',
} as const
export type CoverState = keyof typeof coverTitles

/** What a plan covers, file by file. */
export function useCovered(
  repository: MaybeRefOrGetter<number>,
  plan: MaybeRefOrGetter<number>,
  edition: MaybeRefOrGetter<string | undefined>,
  seq: MaybeRefOrGetter<number>,
) {
  return useQuery({
    queryKey: computed(() => ['plans', toValue(repository), toValue(plan), 'covered', toValue(edition) ?? '', toValue(seq)]),
    queryFn: ({ signal }) =>
      data(
        api.GET('/api/repositories/{repository}/plans/{plan}/covered', {
          params: { path: { repository: toValue(repository), plan: toValue(plan) }, query: { edition: toValue(edition) } },
          signal,
        }),
      ),
    enabled: computed(() => toValue(plan) > 0),
    placeholderData: keepPreviousData,
    retry: false,
  })
}
