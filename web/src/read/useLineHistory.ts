import { useQuery } from '@tanstack/vue-query'
import { useLocalStorage } from '@vueuse/core'
import { computed, ref, toValue, watch, type MaybeRefOrGetter } from 'vue'
import { api, data, type Schemas } from '@/api/client'
import { age, date } from '@/words/format'
import type { FileAt } from './pane/text'
import type { Wing } from './pane/wing'

/** What the margin says of where the line at hand comes from. */
export interface LineStory {
  line: number
  commit: Schemas['LineCommit']
  age: string
  /** The lines of the file that come from the same commit. */
  lines: number[]
  past: number // commits that are looked behind
}

/** The line history of a file: on unless hidden; one may look behind commits. */
export function useLineHistory(
  file: MaybeRefOrGetter<FileAt>,
  line: MaybeRefOrGetter<number>,
  pinnedAt: MaybeRefOrGetter<string | null | undefined>,
  ready: MaybeRefOrGetter<boolean>,
) {
  const shown = useLocalStorage('juxtagram.line-history', true)
  const skipBulk = useLocalStorage('juxtagram.skip-bulk', false)
  const past = ref<string[]>([])
  watch(
    () => [toValue(file).path, toValue(file).at, toValue(file).repository],
    () => (past.value = []),
  )
  const { data: told, error } = useQuery({
    queryKey: computed(() => {
      const { repository, path, at } = toValue(file)
      return ['repository', repository, 'line-history', path, at ?? '', past.value, skipBulk.value]
    }),
    queryFn: ({ signal }) => {
      const { repository, path, at } = toValue(file)
      const query = { path, at, past: past.value.length ? past.value : undefined, skip_bulk: skipBulk.value || undefined }
      return data(api.GET('/api/repositories/{repository}/line-history', { params: { path: { repository }, query }, signal }))
    },
    enabled: computed(() => shown.value && toValue(ready)),
    retry: false,
    staleTime: Infinity,
    placeholderData: (before, query) => (query?.queryKey[3] === toValue(file).path ? before : undefined),
  })
  /** Of each line: the number of its commit. */
  const commits = computed(() => {
    const out: number[] = []
    for (const [c = 0, count = 0] of told.value?.runs ?? []) for (let n = 0; n < count; n++) out.push(c)
    return out
  })
  const here = computed(() => commits.value[toValue(line) - 1] ?? -1)
  const wing = computed<Wing | null>(() => {
    const t = told.value
    if (!shown.value || !t?.runs.length) return null
    return {
      youth: commits.value.map((c) => t.commits[c]!.youth),
      commits: commits.value,
      at: here.value,
      title: (n) => {
        const c = t.commits[commits.value[n - 1]!]!
        return [date(c.time), c.person, c.subject].filter(Boolean).join(' · ')
      },
    }
  })
  const story = computed<LineStory | null>(() => {
    const c = told.value?.commits[here.value]
    if (!shown.value || !c) return null
    const lines: number[] = []
    commits.value.forEach((x, n) => x === here.value && lines.push(n + 1))
    const at = toValue(pinnedAt)
    return { line: toValue(line), commit: c, age: at ? age(c.time, at) : '', lines, past: past.value.length }
  })
  return {
    shown,
    skipBulk,
    told,
    error,
    wing,
    story,
    /** Looks behind a commit: what stood there before it. */
    behind: (commit: string) => (past.value = [...past.value, commit]),
    forward: () => (past.value = past.value.slice(0, -1)),
  }
}
