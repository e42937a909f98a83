import { keepPreviousData, useQuery } from '@tanstack/vue-query'
import { computed, toValue, type MaybeRefOrGetter } from 'vue'
import { api, data, type Schemas } from '@/api/client'
import { useRepository } from '@/frame/repository'
import type { Plan } from './use'

export type Finding = Schemas['Finding']

/** What became of things, the worst first, in words. */
export const says: Record<string, string> = { gone: 'gone', changed: 'changed', moved: 'moved', same: 'as it was' }

/** Why something is gone. */
export const reasons: Record<string, string> = {
  'lines-deleted': 'its lines were taken away',
  'file-deleted': 'its file was taken away',
  'file-absent': 'its file is not there',
  'no-text': 'the file has no text there',
  'text-not-found': 'its text is not found',
  'commit-absent': 'the repository does not have the commit it is read at',
}

/** How much of a place that changed reads as it did. Where a line went it is never
 * all of it, however short that line was. */
export const alike = (f: Pick<Finding, 'like'>) =>
  f.like > 1 - 1e-9 ? 'all of it is there, with more' : `${Math.floor(100 * f.like)} % reads as it did`

/** Both texts of a place side by side. */
export const difference = (repository: number, f: Finding) => ({
  name: 'pair',
  params: { repository },
  query: { path: f.was.path, at: f.was.commit, beside: f.now.path, beside_at: f.now.commit },
})

/** Whether a target is read at another commit than the pin, and can be brought there. */
export const isElsewhere = (t: Schemas['Target'], pin: string) => t.commit !== pin && t.kind !== 'commit' && t.kind !== 'comparison'

/** What became of a plan's passages at the pin; asked again while there is more to look
 * for. */
export function useHealth(plan: MaybeRefOrGetter<Plan>, edition: MaybeRefOrGetter<string>, enabled: MaybeRefOrGetter<boolean>) {
  const here = useRepository()
  return useQuery({
    queryKey: computed(() => ['plans', here.value.id, toValue(plan).id, 'health', here.value.pin, toValue(plan).seq, toValue(edition)]),
    queryFn: ({ signal }) =>
      data(
        api.GET('/api/repositories/{repository}/plans/{plan}/health', {
          params: { path: { repository: here.value.id, plan: toValue(plan).id }, query: { edition: toValue(edition) } },
          signal,
        }),
      ),
    enabled: computed(() => toValue(enabled)),
    placeholderData: keepPreviousData,
    refetchInterval: (q) => (q.state.data?.left ? 500 : false),
  })
}
