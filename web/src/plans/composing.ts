import { onScopeDispose, ref, toValue, watch, type MaybeRefOrGetter } from 'vue'
import { useMe } from '@/account/me'
import { api } from '@/api/client'
import { onChange } from '@/api/events'

export interface Composer {
  person: number
  name: string
  passage: string
  heard: number
}

/** How often one tells that one is still here, and after how long somebody is gone, in ms. */
const every = 15_000
const gone = 40_000

/** Who else is composing a plan, and at which passage; tells them of oneself. */
export function useComposing(repository: MaybeRefOrGetter<number>, plan: MaybeRefOrGetter<number>, passage: MaybeRefOrGetter<string>) {
  const others = ref<Composer[]>([])
  const { me } = useMe()
  const tell = () =>
    void api
      .PUT('/api/repositories/{repository}/plans/{plan}/composing', {
        params: { path: { repository: toValue(repository), plan: toValue(plan) } },
        body: { passage: toValue(passage) },
      })
      .catch(() => {}) // it is told again
  watch(() => [toValue(plan), toValue(passage)], tell, { immediate: true })
  watch(
    () => toValue(plan),
    () => (others.value = []),
  )
  const tick = window.setInterval(() => {
    tell()
    others.value = others.value.filter((o) => Date.now() - o.heard < gone)
  }, every)
  const end = onChange((e) => {
    if (e?.kind !== 'composing' || e.plan !== toValue(plan) || !e.person || e.person === me.value?.person?.id) return
    const known = others.value.some((o) => o.person === e.person)
    const o = { person: e.person, name: e.name ?? '', passage: e.passage ?? '', heard: Date.now() }
    others.value = [...others.value.filter((x) => x.person !== e.person), o]
    if (!known) tell() // whoever comes hears who is here
  })
  onScopeDispose(() => {
    window.clearInterval(tick)
    end()
  })
  return others
}
