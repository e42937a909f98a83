import { useQuery } from '@tanstack/vue-query'
import { computed, toValue, type MaybeRefOrGetter } from 'vue'
import { api, data, type Schemas } from '@/api/client'

export type CommitInfo = Schemas['CommitInfo']
export type ChangeInfo = Schemas['ChangeInfo']

/** All that a commit says, compared with one of its parents, from 1. */
export function useCommit(repository: MaybeRefOrGetter<number>, commit: MaybeRefOrGetter<string>, against: MaybeRefOrGetter<number> = 1) {
  return useQuery({
    queryKey: computed(() => ['repository', toValue(repository), 'commit', toValue(commit), toValue(against)]),
    queryFn: ({ signal }) =>
      data(
        api.GET('/api/repositories/{repository}/commits/{commit}', {
          params: { path: { repository: toValue(repository), commit: toValue(commit) }, query: { against: toValue(against) } },
          signal,
        }),
      ),
    retry: false,
    staleTime: 60_000,
  })
}

const moments = new Intl.DateTimeFormat('en-GB', {
  day: 'numeric',
  month: 'short',
  year: 'numeric',
  hour: '2-digit',
  minute: '2-digit',
  timeZone: 'UTC',
})

/** A moment in the zone it was written in: "12 Sept 2026, 14:03 +02:00". */
export function momentWords(at: string): string {
  const zone = /([+-])(\d\d):(\d\d)$/.exec(at)
  const minutes = zone ? (zone[1] === '-' ? -1 : 1) * (Number(zone[2]) * 60 + Number(zone[3])) : 0
  // the clock of that zone, read as if it were the world's
  return `${moments.format(new Date(Date.parse(at) + minutes * 60_000))} ${minutes ? zone![0] : 'UTC'}`
}

const sorts: Record<string, string> = {
  added: 'new',
  deleted: 'gone',
  changed: '',
  renamed: 'renamed',
  copied: 'copied',
  type: 'another type',
}

/** What became of a path, in a word; empty: its lines changed. */
export const sortOf = (c: ChangeInfo) => sorts[c.status] ?? c.status

/** The two ends of a change's bar, as shares of the room. */
export function bar(c: { added: number; deleted: number }, most: number): { added: string; deleted: string } {
  const share = (n: number) => `${((100 * Math.log1p(n)) / Math.log1p(Math.max(1, most))).toFixed(1)}%`
  return { added: share(c.added), deleted: share(c.deleted) }
}
