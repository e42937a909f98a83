import { useQuery } from '@tanstack/vue-query'
import { computed, toValue, type MaybeRefOrGetter } from 'vue'
import { api, data } from '@/api/client'
import type { FileAt } from './pane/text'

/** What a file says by itself: outline, imports, tagged comments. */
export function useOutline(file: MaybeRefOrGetter<FileAt>, enabled: MaybeRefOrGetter<boolean> = true) {
  return useQuery({
    queryKey: computed(() => ['repository', toValue(file).repository, 'outline', toValue(file).path, toValue(file).at ?? '']),
    queryFn: ({ signal }) => {
      const { repository, path, at } = toValue(file)
      return data(api.GET('/api/repositories/{repository}/outline', { params: { path: { repository }, query: { path, at } }, signal }))
    },
    enabled: computed(() => toValue(enabled)),
  })
}
