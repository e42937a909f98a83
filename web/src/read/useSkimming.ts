import { useLocalStorage } from '@vueuse/core'
import { computed, reactive, ref, toValue, type MaybeRefOrGetter } from 'vue'
import { useRoute, useRouter } from 'vue-router'
import { foldedRegions, linesOf, openRegions, parseBudget, shownLines, type Budget, type Skim } from './pane/skim'

/** What was opened or folded by hand, by file and commit; it lasts as long as the tab. */
const hands = reactive(new Map<string, Map<number, boolean>>())

/** What was opened so that lines that were gone to are seen. */
const revealed = reactive(new Map<string, Set<number>>())

/** How many lines fit on the screen, as the last pane told. */
const screen = ref(27)

/** How much of a file shows: the budget of the address, else the one chosen
 * last, and what was opened or folded by hand. */
export function useSkimming(key: MaybeRefOrGetter<string>, skim: MaybeRefOrGetter<Skim | undefined>) {
  const route = useRoute()
  const router = useRouter()
  const chosen = useLocalStorage<string>('juxtagram.skim', 'screen')
  /** Shown whole for a while; undefined: no. */
  const all = ref<string>()
  const budget = computed<Budget>(() => parseBudget(route.query.skim) ?? parseBudget(chosen.value) ?? 'screen')
  const byHand = computed(() => hands.get(toValue(key)))
  const usable = computed(() => {
    const s = toValue(skim)
    return s && !s.reason && s.order.length ? s : undefined
  })
  const lines = computed(() => {
    const s = usable.value
    return !s || all.value === toValue(key) ? null : linesOf(budget.value, s.total, screen.value)
  })
  const open = computed(() =>
    usable.value
      ? openRegions(
          usable.value,
          lines.value,
          new Map([...[...(revealed.get(toValue(key)) ?? [])].map((r) => [r, true] as const), ...(byHand.value ?? [])]),
        )
      : new Uint8Array(),
  )
  const shown = computed(() => (usable.value ? shownLines(usable.value, foldedRegions(usable.value, open.value)) : 0))

  function take(b: Budget) {
    all.value = undefined
    revealed.delete(toValue(key))
    chosen.value = String(b)
    void router.replace({ query: { ...route.query, skim: String(b) }, hash: route.hash })
  }
  return {
    budget,
    lines,
    open,
    shown,
    screen,
    byHand: computed(() => byHand.value?.size ?? 0),
    whole: computed(() => all.value === toValue(key)),
    take,
    /** More or fewer lines than are asked for now. */
    step(by: number) {
      const total = usable.value?.total ?? 0
      take(Math.max(5, Math.min(total, (lines.value ?? total) + by)))
    },
    fold(regions: number[], on: boolean) {
      const k = toValue(key)
      hands.set(k, new Map([...(hands.get(k) ?? []), ...regions.map((r) => [r, on] as const)]))
    },
    reveal(regions: number[]) {
      const k = toValue(key)
      revealed.set(k, new Set([...(revealed.get(k) ?? []), ...regions]))
    },
    /** Opens all, or goes back to what was there before. */
    showAll(on: boolean) {
      all.value = on ? toValue(key) : undefined
    },
    forgetHand() {
      hands.delete(toValue(key))
    },
  }
}
