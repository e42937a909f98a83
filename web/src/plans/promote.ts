import { computed, toValue, type MaybeRefOrGetter } from 'vue'
import { api, data, words, type Schemas } from '@/api/client'
import { notice } from '@/frame/notice'
import { setPassage, steps } from './model'
import { usePlanAtHand, usePlanChanges } from './use'

/** Puts an answer into the text of the passage that it is about: that at which the
 * question was asked, else that of the plan at hand which has one read its lines. */
export function usePromote(repository: MaybeRefOrGetter<number>, thread: MaybeRefOrGetter<Schemas['ThreadInfo']>) {
  const { plan } = usePlanAtHand(repository)
  const changes = usePlanChanges(repository)
  const to = computed(() => {
    const { target, placed } = toValue(thread)
    const p = plan.data.value
    if (target.plan && target.passage) return { plan: target.plan, passage: target.passage }
    if (!p?.may_write || !placed.path) return null
    const meets = (x: { path: string; start?: number; end?: number }) =>
      x.path === placed.path && (!x.start || !placed.start || (x.start <= placed.end && placed.start <= (x.end ?? x.start)))
    const step = steps(p).find(({ passage: { target: t } }) => meets(t) || (t.beside && meets(t.beside)) || t.hops?.some(meets))
    return step ? { plan: p.id, passage: step.passage.id } : null
  })
  async function promote(answer: string) {
    const at = to.value
    if (!at) return
    try {
      const path = { repository: toValue(repository), plan: at.plan }
      const draft = await data(api.GET('/api/repositories/{repository}/plans/{plan}', { params: { path, query: { edition: 'draft' } } }))
      const passage = steps(draft).find((s) => s.passage.id === at.passage)?.passage
      if (!passage) return notice('The passage is not in the draft any more.', { fault: true })
      const text = [passage.text ?? '', answer].filter((x) => x.trim()).join('\n\n')
      await changes.apply(at.plan, [setPassage(passage, 'text', text)])
      notice(`It stands in “${passage.title}” now; readers see it with the next edition.`, {
        action: { label: 'undo', do: () => void changes.undo(at.plan).catch((e: unknown) => notice(words(e), { fault: true })) },
      })
    } catch (e) {
      notice(words(e), { fault: true })
    }
  }
  return { to, promote }
}
