import { useQuery, useQueryClient } from '@tanstack/vue-query'
import { computed, toValue, type MaybeRefOrGetter } from 'vue'
import { useRouter } from 'vue-router'
import { api, data, words } from '@/api/client'
import { notice } from '@/frame/notice'
import { lineSpan } from '@/words/format'
import type { TargetIn, ThreadInfo } from './target'

/** The threads on a file or folder; places that are still looked for are asked
 * for again. */
export function useThreads(repository: MaybeRefOrGetter<number>, path: MaybeRefOrGetter<string>, at: MaybeRefOrGetter<string | undefined>) {
  return useQuery({
    queryKey: computed(() => ['repository', toValue(repository), 'notes', 'on', toValue(path), toValue(at) ?? '']),
    queryFn: ({ signal }) =>
      data(
        api.GET('/api/repositories/{repository}/annotations', {
          params: { path: { repository: toValue(repository) }, query: { path: toValue(path), at: toValue(at) } },
          signal,
        }),
      ),
    refetchInterval: (q) => (q.state.data?.left ? 1500 : false),
  })
}

/** What can be done with a thread. Each tells what went wrong, and resolves to
 * whether it was done. */
export function useThread(repository: MaybeRefOrGetter<number>) {
  const client = useQueryClient()
  const path = (annotation: number) => ({ repository: toValue(repository), annotation })
  const forget = () => client.invalidateQueries({ queryKey: ['repository', toValue(repository), 'notes'] })
  async function tried(what: Promise<unknown>): Promise<boolean> {
    try {
      await what
      await forget()
      return true
    } catch (e) {
      notice(words(e), { fault: true })
      return false
    }
  }
  const told = (untold: readonly string[]) => {
    if (untold.length) notice(`Kept. Not told, as nobody who may read this is called so: ${untold.map((u) => '@' + u).join(', ')}.`)
  }
  return {
    forget,
    write: (body: { target: TargetIn; text: string; kind: 'note' | 'question'; private: boolean; asked?: number }) =>
      tried(
        data(api.POST('/api/repositories/{repository}/annotations', { params: { path: { repository: toValue(repository) } }, body })).then(
          (w) => told(w.untold),
        ),
      ),
    reply: (t: ThreadInfo, text: string) =>
      tried(
        data(
          api.POST('/api/repositories/{repository}/annotations/{annotation}/replies', { params: { path: path(t.id) }, body: { text } }),
        ).then((w) => told(w.untold)),
      ),
    /** Throws where somebody changed the text meanwhile. */
    edit: async (id: number, rev: number, text: string) => {
      await data(
        api.PUT('/api/repositories/{repository}/annotations/{annotation}/text', { params: { path: path(id) }, body: { rev, text } }),
      )
      await forget()
    },
    set: (t: ThreadInfo, state: 'open' | 'resolved', answer?: number) =>
      tried(
        data(
          api.PUT('/api/repositories/{repository}/annotations/{annotation}/state', {
            params: { path: path(t.id) },
            body: { state, answer },
          }),
        ),
      ),
    link: (t: ThreadInfo, commit: string, on: boolean) => {
      const at = { params: { path: { ...path(t.id), commit } } }
      const where = '/api/repositories/{repository}/annotations/{annotation}/commits/{commit}'
      return tried(on ? data(api.PUT(where, at)) : data(api.DELETE(where, at)))
    },
    place: (t: ThreadInfo, target: TargetIn) =>
      tried(
        data(api.PUT('/api/repositories/{repository}/annotations/{annotation}/target', { params: { path: path(t.id) }, body: target })),
      ),
    /** Attaches those that lost their place to their likeliest candidates. */
    accept: async (threads: number[]) => {
      try {
        const got = await data(
          api.POST('/api/repositories/{repository}/annotations/accept', {
            params: { path: { repository: toValue(repository) } },
            body: { threads },
          }),
        )
        await forget()
        notice(`${got.placed} attached, ${got.left} left: nothing here is half alike.`)
      } catch (e) {
        notice(words(e), { fault: true })
      }
    },
    tell: (t: ThreadInfo, on: boolean) =>
      tried(
        data(api.PUT('/api/repositories/{repository}/annotations/{annotation}/told', { params: { path: path(t.id) }, body: { told: on } })),
      ),
    see: (threads: number[]) =>
      tried(
        data(
          api.PUT('/api/repositories/{repository}/annotations/seen', {
            params: { path: { repository: toValue(repository) } },
            body: { threads },
          }),
        ),
      ),
    remove: async (id: number) => {
      const gone = await tried(data(api.DELETE('/api/repositories/{repository}/annotations/{annotation}', { params: { path: path(id) } })))
      const back = () =>
        void tried(data(api.POST('/api/repositories/{repository}/annotations/{annotation}/restore', { params: { path: path(id) } })))
      if (gone) notice('Taken away.', { action: { label: 'Undo', do: back } })
    },
  }
}

/** Leads to where a thread stands. */
export function useGo(repository: MaybeRefOrGetter<number>) {
  const router = useRouter()
  return ({ target, placed }: ThreadInfo) => {
    const params = { repository: toValue(repository) }
    if (target.kind === 'commit') return router.push({ name: 'commit', params: { ...params, commit: target.commit } })
    if (target.kind === 'repository') return router.push({ name: 'overview', params })
    if (target.kind === 'folder') return router.push({ name: 'read', params, query: { folder: placed.path } })
    const lines = placed.start ? { lines: lineSpan(placed.start, placed.end) } : {}
    return router.push({ name: 'read', params, query: { path: placed.path, ...lines } })
  }
}

/** The people who can be mentioned, by how they are. */
export function useMentions(repository: MaybeRefOrGetter<number>) {
  const { data: members } = useQuery({
    queryKey: computed(() => ['repository', toValue(repository), 'members']),
    queryFn: ({ signal }) =>
      data(api.GET('/api/repositories/{repository}/members', { params: { path: { repository: toValue(repository) } }, signal })),
    staleTime: 60_000,
  })
  return {
    members: computed(() => members.value ?? []),
    options: computed(() => (members.value ?? []).map((m) => ({ value: m.handle, label: m.name }))),
  }
}
