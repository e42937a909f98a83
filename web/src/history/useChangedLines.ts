import { computed, ref, shallowRef, toValue, watch, type MaybeRefOrGetter } from 'vue'
import type { Schemas } from '@/api/client'
import { readDocuments } from '@/read/search'
import { isSlow, queryOf, type Term } from './terms'
import type { LogRow } from './useLog'

/** The commits that changed lines with a text, as they are found; nothing is
 * asked while no term asks for lines. */
export function useChangedLines(repository: MaybeRefOrGetter<number>, terms: MaybeRefOrGetter<readonly Term[]>) {
  const rows = shallowRef<LogRow[]>([])
  const read = ref(0)
  const end = ref<Schemas['ChangedEnd'] | null>(null)
  const fault = ref('')
  const running = ref<AbortController | null>(null)
  const asks = computed(() => toValue(terms).some(isSlow))
  watch(
    () => JSON.stringify([toValue(repository), queryOf(toValue(terms))]),
    async () => {
      running.value?.abort()
      rows.value = []
      read.value = 0
      end.value = null
      fault.value = ''
      if (!asks.value) return
      const stop = (running.value = new AbortController())
      const q = new URLSearchParams()
      const { keep, drop } = queryOf(toValue(terms))
      for (const k of keep ?? []) q.append('keep', k)
      for (const k of drop ?? []) q.append('drop', k)
      try {
        const address = `/api/repositories/${toValue(repository)}/log/changed-lines?${q}`
        for await (const batch of readDocuments<Schemas['ChangedLine']>(address, stop.signal)) {
          const found = batch.flatMap((l) => (l.commit ? [l.commit] : []))
          if (found.length) rows.value = [...rows.value, ...found]
          for (const l of batch) {
            read.value = Math.max(read.value, l.read ?? 0)
            if (l.end) end.value = l.end
          }
        }
      } catch (e) {
        if (!stop.signal.aborted) fault.value = e instanceof Error ? e.message : 'The search broke off.'
      } finally {
        if (running.value === stop) running.value = null
      }
    },
    { immediate: true },
  )
  return { asks, rows, read, end, fault, running, stop: () => running.value?.abort() }
}
