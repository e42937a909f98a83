import { useQuery } from '@tanstack/vue-query'
import { computed, toValue, type MaybeRefOrGetter } from 'vue'
import { api, data } from '@/api/client'

/** A file at a commit. */
export interface FileAt {
  repository: number
  path: string
  at?: string // a commit; left out: the pin
}

const key = (what: string, file: FileAt) => ['repository', file.repository, what, file.path, file.at ?? '']

/** The text of a file. */
export function useText(file: MaybeRefOrGetter<FileAt>, enabled: MaybeRefOrGetter<boolean> = true) {
  return useQuery({
    queryKey: computed(() => key('text', toValue(file))),
    queryFn: ({ signal }) => {
      const { repository, path, at } = toValue(file)
      return data(api.GET('/api/repositories/{repository}/text', { params: { path: { repository }, query: { path, at } }, signal }))
    },
    enabled: computed(() => toValue(enabled)),
    retry: false,
  })
}

/** A file cut into regions that fold. */
export function useSkim(file: MaybeRefOrGetter<FileAt>, enabled: MaybeRefOrGetter<boolean> = true) {
  return useQuery({
    queryKey: computed(() => key('skim', toValue(file))),
    queryFn: ({ signal }) => {
      const { repository, path, at } = toValue(file)
      return data(api.GET('/api/repositories/{repository}/skim', { params: { path: { repository }, query: { path, at } }, signal }))
    },
    enabled: computed(() => toValue(enabled)),
    retry: false,
  })
}
