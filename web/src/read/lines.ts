import { computed, reactive, ref, toValue, watch, type MaybeRefOrGetter } from 'vue'
import { api, data, type Schemas } from '@/api/client'

/** How many lines are asked for at once. */
export const pageSize = 400

export interface FileAt {
  repository: number
  path: string
  at?: string // a commit; left out: the pin
}

interface Page {
  lines?: Schemas['Line'][]
  tokens?: number[][]
}

/** The lines of a file, fetched page by page as they come into sight: first the
 * text, then what its pieces are. */
export function useLines(file: MaybeRefOrGetter<FileAt>) {
  const pages = reactive(new Map<number, Page>())
  const info = ref<Omit<Schemas['LinesInfo'], 'lines'> | null>(null)
  const classes = ref<string[]>([])
  const error = ref<unknown>(null)
  let stop = new AbortController()

  async function load(n: number) {
    if (pages.has(n)) return
    const page: Page = reactive({})
    pages.set(n, page)
    const { repository, path, at } = toValue(file)
    const signal = stop.signal
    const params = { path: { repository }, query: { path, at, from: n * pageSize + 1, to: (n + 1) * pageSize } }
    try {
      const got = await data(api.GET('/api/repositories/{repository}/lines', { params, signal }))
      if (signal.aborted) return
      info.value = got
      page.lines = got.lines
      if (got.unshown || !got.lines.length) return
      // a long file is coloured from the lines around first, and soon as a whole
      for (let tries = 0; tries < 6; tries++) {
        const t = await data(api.GET('/api/repositories/{repository}/tokens', { params, signal }))
        if (signal.aborted) return
        classes.value = t.classes
        page.tokens = t.lines
        if (!t.rough) break
        await new Promise((r) => setTimeout(r, 700 * (tries + 1)))
        if (signal.aborted) return
      }
    } catch (e) {
      if (signal.aborted) return
      pages.delete(n)
      if (!page.lines) error.value = e
    }
  }

  watch(
    () => JSON.stringify(toValue(file)),
    () => {
      stop.abort()
      stop = new AbortController()
      pages.clear()
      info.value = null
      error.value = null
      void load(0)
    },
    { immediate: true },
  )

  return {
    info: computed(() => info.value),
    error: computed(() => error.value),
    /** Asks for the pages that hold the lines from..to (from 1). */
    want(from: number, to: number) {
      for (let n = Math.floor((Math.max(1, from) - 1) / pageSize); n <= Math.floor((Math.max(1, to) - 1) / pageSize); n++) void load(n)
    },
    line(number: number) {
      const page = pages.get(Math.floor((number - 1) / pageSize))
      const i = (number - 1) % pageSize
      const line = page?.lines?.[i]
      return line ? { ...line, pieces: pieces(line.text, page?.tokens?.[i], classes.value) } : null
    },
  }
}

/** Cuts a line's text into pieces with their class; one plain piece where
 * nothing is known. */
export function pieces(text: string, tokens: number[] | undefined, classes: string[]): { text: string; class: string }[] {
  if (!tokens?.length) return [{ text, class: 'c-plain' }]
  const out = []
  let at = 0
  for (let i = 0; i + 1 < tokens.length && at < text.length; i += 2) {
    out.push({ text: text.slice(at, at + tokens[i]!), class: 'c-' + (classes[tokens[i + 1]!] ?? 'plain') })
    at += tokens[i]!
  }
  if (at < text.length) out.push({ text: text.slice(at), class: 'c-plain' })
  return out
}
