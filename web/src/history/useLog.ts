import { useQueryClient } from '@tanstack/vue-query'
import { computed, reactive, ref, shallowRef, toValue, watch, type MaybeRefOrGetter } from 'vue'
import { api, data, type Schemas } from '@/api/client'
import { queryOf, type Term } from './terms'

export type LogRow = Schemas['LogRow']
export type LogPage = Schemas['LogPage']

/** Rows of one request. */
export const pageSize = 200

/** The commits that fit some terms, page by page as they come into sight. */
export function useLog(repository: MaybeRefOrGetter<number>, terms: MaybeRefOrGetter<readonly Term[]>) {
  const client = useQueryClient()
  const pages = reactive(new Map<number, LogRow[]>())
  const head = shallowRef<Omit<LogPage, 'rows'> | null>(null)
  const error = ref<unknown>(null)
  const asked = new Set<number>()
  let turn = 0
  const key = computed(() => JSON.stringify([toValue(repository), queryOf(toValue(terms))]))

  async function load(page: number, commit?: string): Promise<LogPage | null> {
    if (!commit && asked.has(page)) return null
    if (!commit) asked.add(page)
    const of = key.value
    const mine = turn
    const stale = () => mine !== turn || of !== key.value
    const query = { ...queryOf(toValue(terms)), offset: page * pageSize, limit: commit ? 0 : pageSize, commit }
    try {
      const got = await client.fetchQuery({
        queryKey: ['repository', toValue(repository), 'log', of, page, commit ?? ''],
        queryFn: ({ signal }) =>
          data(api.GET('/api/repositories/{repository}/log', { params: { path: { repository: toValue(repository) }, query }, signal })),
        staleTime: 60_000,
        retry: false,
      })
      if (stale()) return null
      const { rows, ...rest } = got
      if (!commit) {
        pages.set(page, rows)
        head.value = rest
        error.value = null
      }
      return got
    } catch (e) {
      if (!stale()) {
        if (!commit) error.value = e
        asked.delete(page)
      }
      return null
    }
  }
  function begin() {
    turn++
    asked.clear()
    pages.clear()
    void load(0)
  }
  watch(key, begin, { immediate: true })
  return {
    head,
    error,
    pages,
    /** Asks anew, as when more of the history was read. */
    again: async () => {
      await client.invalidateQueries({ queryKey: ['repository', toValue(repository), 'log'] })
      begin()
    },
    /** The commit of a row; undefined until it is there. */
    row: (n: number): LogRow | undefined => pages.get(Math.floor(n / pageSize))?.[n % pageSize],
    want: (from: number, to: number) => {
      for (let p = Math.floor(Math.max(0, from) / pageSize); p <= Math.floor(to / pageSize); p++) void load(p)
    },
    /** The row at which a commit stands; -1: it does not fit. */
    find: async (commit: string): Promise<number> => (await load(0, commit))?.found ?? -1,
  }
}
