import { useQuery, useQueryClient } from '@tanstack/vue-query'
import { computed, toValue, watch, type MaybeRefOrGetter } from 'vue'
import { api, data } from '@/api/client'
import { useThreads } from '@/notes'
import { useLinks, useSummary } from '@/told'
import { marksOf, mostNotes, notesOf } from './notes'
import { useSkim, useText, type FileAt } from './pane/text'
import { useOutline } from './useOutline'

/** From here on a function is intricate. */
const intricate = 8

/** All that a desk shows of a file. The text is asked for before anything else,
 * and most of the rest once it is there. What only the survey at the pin knows is
 * left out at other commits. */
export function useFile(
  at: MaybeRefOrGetter<FileAt>,
  asText: MaybeRefOrGetter<boolean>,
  pinnedAt?: MaybeRefOrGetter<string | null | undefined>,
) {
  const repository = computed(() => toValue(at).repository)
  const path = computed(() => toValue(at).path)
  const { data: text, error: textError, isFetched: settled } = useText(at)
  const surveyed = computed(() => settled.value && !toValue(at).at)
  const skim = useSkim(at, asText)
  const outline = useOutline(at)
  const links = useLinks(repository, path, surveyed)
  const summary = useSummary(repository, path, surveyed)
  const params = computed(() => ({ path: { repository: repository.value }, query: { path: path.value, at: toValue(at).at } }))
  const file = useQuery({
    queryKey: computed(() => ['repository', repository.value, 'file', path.value]),
    queryFn: ({ signal }) => data(api.GET('/api/repositories/{repository}/file', { params: params.value, signal })),
    enabled: surveyed,
  })
  const since = useQuery({
    queryKey: computed(() => ['repository', repository.value, 'since', path.value, toValue(at).at ?? '']),
    queryFn: ({ signal }) => data(api.GET('/api/repositories/{repository}/since', { params: params.value, signal })),
    enabled: settled,
  })
  const passages = useQuery({
    queryKey: computed(() => ['plans', repository.value, 'passages', path.value, toValue(at).at ?? '']),
    queryFn: ({ signal }) => data(api.GET('/api/repositories/{repository}/passages', { params: params.value, signal })),
    enabled: settled,
  })

  // that it was opened is remembered for this person alone, and marks it on the Map;
  // whoever leaves at once has opened it all the same
  const queries = useQueryClient()
  watch(
    () => (text.value && !toValue(at).at ? path.value : ''),
    async (path) => {
      if (!path) return
      await api.PUT('/api/repositories/{repository}/opened', {
        params: { path: { repository: repository.value } },
        body: { path },
        keepalive: true,
      })
      void queries.invalidateQueries({ queryKey: ['plans', repository.value, 'marks'] })
    },
    { immediate: true },
  )

  const starts = computed(() => (toValue(at).at ? [] : (file.data.value?.leads.filter((l) => l.kind === 'entry-point') ?? [])))
  const threads = useThreads(
    () => toValue(at).repository,
    () => toValue(at).path,
    () => toValue(at).at,
  )
  const tagged = computed(() => outline.data.value?.tagged ?? [])
  const all = computed(() => notesOf(passages.data.value ?? [], tagged.value, starts.value, toValue(pinnedAt), threads.data.value?.threads))
  return {
    file: file.data,
    error: file.error,
    textError,
    since: since.data,
    outline: outline.data,
    outlineError: outline.error,
    links: links.data,
    linksError: links.error,
    summary: summary.data,
    skim: skim.data,
    /** What stands in the margin, and how much there is in all. */
    notes: computed(() => all.value.slice(0, mostNotes)),
    noted: computed(() => all.value.length),
    marks: computed(() => marksOf(all.value)),
    /** The symbols that are intricate and changed lately, by their first line. */
    hot: computed(() => {
      const out = new Set<number>()
      const s = skim.data.value
      for (const x of outline.data.value?.symbols ?? []) {
        if (!s || x.intricacy < intricate) continue
        const r = s.tells.findIndex((t, i) => t === x.name_line && s.kinds[i] === 'symbol')
        if (r > 0 && s.whys[r]!.includes('recent')) out.add(x.start)
      }
      return out
    }),
  }
}
