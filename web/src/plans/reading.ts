import { useLocalStorage, useNow } from '@vueuse/core'
import { useQuery } from '@tanstack/vue-query'
import { computed, onScopeDispose, ref, toValue, watch, type MaybeRefOrGetter } from 'vue'
import { useMe } from '@/account/me'
import { api, data, type Schemas } from '@/api/client'
import { onChange } from '@/api/events'
import { minutesDone, steps } from './model'
import type { Plan } from './use'

export type ReaderPlace = Schemas['ReaderPlaceInfo']

/** A place that was heard of, or (null) that somebody shows none any more. */
export interface Heard {
  place: ReaderPlace | null
  at: number // of this page's clock, in ms
}

/** Where others are: as was asked for at a time, and as they moved since. */
export function placesNow(asked: { places: readonly ReaderPlace[]; at: number }, heard: ReadonlyMap<number, Heard>): ReaderPlace[] {
  const all = new Map<number, ReaderPlace | null>(asked.places.map((p) => [p.person, p]))
  for (const [person, h] of heard) if (h.at >= asked.at) all.set(person, h.place)
  return [...all.values()].filter((p) => p !== null)
}

/** Where others are who show it, as they move. */
export function usePlaces(repository: MaybeRefOrGetter<number>, plan: MaybeRefOrGetter<number>) {
  const { data: found } = useQuery({
    queryKey: computed(() => ['plans', toValue(repository), toValue(plan), 'places']),
    queryFn: async ({ signal }) => {
      const at = performance.now() // who moves while it is answered is where they moved to
      const path = { repository: toValue(repository), plan: toValue(plan) }
      return { at, places: await data(api.GET('/api/repositories/{repository}/plans/{plan}/places', { params: { path }, signal })) }
    },
    enabled: computed(() => toValue(plan) > 0),
  })
  const heard = ref(new Map<number, Heard>())
  watch(
    () => toValue(plan),
    () => (heard.value = new Map()),
  )
  onScopeDispose(
    onChange((e) => {
      if (e?.kind !== 'place' || e.plan !== toValue(plan) || !e.person) return
      const place = e.passage ? { person: e.person, name: e.name ?? '', passage: e.passage, at: new Date().toISOString() } : null
      heard.value = new Map(heard.value).set(e.person, { place, at: performance.now() })
    }),
  )
  const { me } = useMe()
  const now = useNow({ interval: 30_000 })
  return computed(() =>
    placesNow(found.value ?? { places: [], at: 0 }, heard.value).filter(
      (p) => p.person !== me.value?.person?.id && now.value.getTime() - Date.parse(p.at) < here,
    ),
  )
}

/** How long somebody counts as here after they came to a passage, in ms. */
const here = 10 * 60_000

/** When somebody came to where they are: "", "4 min ago". */
export function since(at: string): string {
  const minutes = Math.floor((Date.now() - Date.parse(at)) / 60_000)
  return minutes < 1 ? '' : `${minutes} min ago`
}

/** "Oona Fell" → "OF" */
export function initials(name: string): string {
  const parts = name.trim().split(/\s+/)
  return ((parts[0]?.[0] ?? '?') + (parts.length > 1 ? parts.at(-1)![0] : '')).toUpperCase()
}

interface Day {
  day: string
  minutes: number
  from: number // minutes that were done when it began
}

/** What one means to read of a plan today, and what is left of that. */
export function useToday(plan: MaybeRefOrGetter<Plan | undefined>) {
  const kept = useLocalStorage<Record<string, Day>>('juxtagram.today', {})
  const day = () => new Date().toLocaleDateString('en-CA')
  const today = computed(() => {
    const d = kept.value[toValue(plan)?.id ?? 0]
    return d?.day === day() ? d : null
  })
  const left = computed(() => {
    const p = toValue(plan)
    return p && today.value ? Math.max(0, today.value.minutes - (minutesDone(p) - today.value.from)) : null
  })
  /** The last passage that is to be read today; undefined: no end is set, or all fits. */
  const last = computed(() => {
    const p = toValue(plan)
    if (!p || left.value === null) return undefined
    let room = left.value
    let fits: string | undefined
    const open = steps(p).filter((s) => !p.done_ids.includes(s.passage.id) && !p.skipped.some((x) => x.passage === s.passage.id))
    for (const { passage } of open) {
      if (passage.minutes > room) return fits ?? ''
      room -= passage.minutes
      fits = passage.id
    }
    return undefined
  })
  /** 0: no end is set. */
  function set(minutes: number) {
    const p = toValue(plan)
    if (!p) return
    const next = { ...kept.value }
    if (minutes > 0) next[p.id] = { day: day(), minutes, from: minutesDone(p) }
    else delete next[p.id]
    kept.value = next
  }
  return { today, left, last, set }
}

/** Seconds for which something was before a person who looked at the page. */
export function useStay() {
  let since = Date.now()
  let spent = 0
  const pause = () => {
    if (document.visibilityState === 'hidden') spent += Date.now() - since
    since = Date.now()
  }
  document.addEventListener('visibilitychange', pause)
  onScopeDispose(() => document.removeEventListener('visibilitychange', pause))
  return () => {
    const all = spent + (document.visibilityState === 'visible' ? Date.now() - since : 0)
    since = Date.now()
    spent = 0
    return Math.round(all / 1000)
  }
}
