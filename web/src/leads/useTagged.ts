import { useQuery, useQueryClient, keepPreviousData } from '@tanstack/vue-query'
import { computed, reactive, toValue, watch, type MaybeRefOrGetter } from 'vue'
import { api, data } from '@/api/client'
import type { Query, TaggedItem } from './tagged'

/** Items of one request. */
const pageSize = 200

/** The tagged comments that fit, page by page as they come into sight. */
export function useTagged(repository: MaybeRefOrGetter<number>, query: MaybeRefOrGetter<Query>) {
  const client = useQueryClient()
  const pages = reactive(new Map<number, TaggedItem[]>())
  const asked = new Set<number>()
  const ask = (page: number, signal?: AbortSignal) =>
    data(
      api.GET('/api/repositories/{repository}/tagged', {
        params: { path: { repository: toValue(repository) }, query: { ...toValue(query), offset: page * pageSize, limit: pageSize } },
        signal,
      }),
    )
  const key = computed(() => ['repository', toValue(repository), 'tagged', toValue(query)])
  const {
    data: head,
    error,
    isFetching,
  } = useQuery({
    queryKey: key,
    queryFn: ({ signal }) => ask(0, signal),
    placeholderData: keepPreviousData,
    retry: false,
  })
  watch(
    head,
    (h) => {
      pages.clear()
      asked.clear()
      if (h) pages.set(0, h.items)
    },
    { immediate: true },
  )
  async function load(page: number) {
    if (page === 0 || asked.has(page)) return
    asked.add(page)
    const of = head.value
    try {
      const got = await client.fetchQuery({ queryKey: [...key.value, page], queryFn: ({ signal }) => ask(page, signal), staleTime: 60_000 })
      if (of === head.value) pages.set(page, got.items)
    } catch {
      asked.delete(page) // it is asked for again when it comes into sight
    }
  }
  return {
    head,
    error,
    isFetching,
    /** An item by its place; undefined until it is there. */
    item: (n: number): TaggedItem | undefined => pages.get(Math.floor(n / pageSize))?.[n % pageSize],
    want: (from: number, to: number) => {
      for (let p = Math.floor(Math.max(0, from) / pageSize); p <= Math.floor(to / pageSize); p++) void load(p)
    },
  }
}
