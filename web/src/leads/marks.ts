import { useQueryClient } from '@tanstack/vue-query'
import { toValue, type MaybeRefOrGetter } from 'vue'
import { api, data, words } from '@/api/client'
import { notice } from '@/frame/notice'
import { many } from '@/words/format'

export type Marked = 'open' | 'kept' | 'aside'

const told = { open: 'brought back', kept: 'kept on purpose', aside: 'set aside' }

/** Says something of leads, with a way back. */
export function useMarks(repository: MaybeRefOrGetter<number>) {
  const client = useQueryClient()
  const path = () => ({ repository: toValue(repository) })
  async function put(leads: string[], state: Marked, reason = '') {
    await data(api.PUT('/api/repositories/{repository}/leads/marks', { params: { path: path() }, body: { leads, state, reason } }))
    await forget()
  }
  const forget = () =>
    Promise.all(
      ['leads', 'tagged', 'outline', 'file'].map((k) => client.invalidateQueries({ queryKey: ['repository', toValue(repository), k] })),
    )
  /** before is what they were: undo says it again. */
  async function mark(leads: string[], state: Marked, reason: string, before: { state: Marked; reason: string }) {
    try {
      await put(leads, state, reason)
      const undo = () => void put(leads, before.state, before.reason).catch((e: unknown) => notice(words(e), { fault: true }))
      notice(`${many(leads.length, 'lead')} ${told[state]}.`, { action: { label: 'Undo', do: undo } })
    } catch (e) {
      notice(words(e), { fault: true })
    }
  }
  async function read(leads: string[], done = true) {
    await data(api.PUT('/api/repositories/{repository}/leads/read', { params: { path: path() }, body: { leads, read: done } }))
    await client.invalidateQueries({ queryKey: ['repository', toValue(repository), 'leads'] })
  }
  return { mark, read, forget }
}
