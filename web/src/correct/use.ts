import { useQuery, useQueryClient } from '@tanstack/vue-query'
import { computed, toValue, type MaybeRefOrGetter } from 'vue'
import { api, data, words, type Schemas } from '@/api/client'
import { notice } from '@/frame/notice'

/** What people said of paths of a repository, and how to say more or take it back. */
export function useCorrections(repository: MaybeRefOrGetter<number>) {
  const queries = useQueryClient()
  const key = computed(() => ['repository', toValue(repository), 'corrections'])
  const at = computed(() => ({ path: { repository: toValue(repository) } }))
  const { data: list } = useQuery({
    queryKey: key,
    queryFn: ({ signal }) => data(api.GET('/api/repositories/{repository}/corrections', { params: at.value, signal })),
  })
  async function attempt(what: () => Promise<unknown>, told: string) {
    try {
      await what()
      notice(told)
      await queries.invalidateQueries({ queryKey: ['repository', toValue(repository)] })
    } catch (e) {
      notice(words(e), { fault: true })
    }
  }
  const say = (kind: Schemas['CorrectionInfo']['kind'], path: string, value = '') =>
    attempt(
      () => data(api.POST('/api/repositories/{repository}/corrections', { params: at.value, body: { kind, path, value } })),
      'The survey is made again with what you said. It can be taken back on this page and in the settings.',
    )
  const undo = (c: Schemas['CorrectionInfo']) =>
    attempt(
      () =>
        data(
          api.DELETE('/api/repositories/{repository}/corrections/{correction}', {
            params: { path: { repository: toValue(repository), correction: c.id } },
          }),
        ),
      'Taken back; the survey is made again.',
    )
  return { list, say, undo }
}

/** A correction in words. */
export function inWords(c: Schemas['CorrectionInfo']): string {
  switch (c.kind) {
    case 'role':
      return `is ${c.value}`
    case 'start':
      return `is a start: ${c.value}`
    case 'no-start':
      return 'is no start'
    case 'root':
      return 'is a source root'
  }
}
export const roles = [
  'source',
  'test',
  'sample',
  'documentation',
  'build',
  'configuration',
  'schema',
  'asset',
  'generated',
  'vendored',
  'other',
] as const
export const starts = ['program', 'command', 'script', 'service', 'job', 'library', 'sample', 'page'] as const
