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
