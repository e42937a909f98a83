import { notice } from '@/frame/notice'

/** What people typed and the server has not acknowledged, kept in this browser with
 * every key. Each tab keeps its own, so that two tabs of one person never write over
 * each other; what a closed tab left behind is found by the next one. */
const prefix = 'juxtagram.typed'

interface Entry {
  value: unknown
  at: number // ms since 1970
}

/** What a tab left behind under a name. */
export interface Left<T> {
  value: T
  at: number
  tab: string
}

/** The id of this tab. It survives a reload; a tab that was duplicated gets a new one. */
let tab = sessionStorage.getItem('juxtagram.tab') ?? crypto.randomUUID()
const lockOf = (id: string) => `juxtagram-tab-${id}`
const locks = typeof navigator === 'undefined' ? undefined : navigator.locks
/** Without locks (an address that is not secure) a tab counts as closed after this, in ms. */
const silent = 20_000

function hold(id: string): Promise<boolean> {
  return new Promise((settled) => {
    void locks!.request(lockOf(id), { ifAvailable: true }, (lock) => {
      settled(!!lock)
      return lock ? new Promise(() => {}) : undefined // held until the tab closes
    })
  })
}
const named = (async () => {
  if (locks && !(await hold(tab))) {
    tab = crypto.randomUUID()
    await hold(tab)
  }
  sessionStorage.setItem('juxtagram.tab', tab)
})()

/** Who types: on a shared machine nobody is offered another's words. */
let person = 0
export function typedBy(id: number) {
  person = id
}

const keyOf = (name: string, of = tab) => `${prefix} ${person} ${name} ${of}`

/** The id of this tab, as what it left behind names it. */
export const ownTab = () => tab

/** Keeps what was typed under a name, in place of what this tab kept there before. */
export function keepTyped(name: string, value: unknown) {
  try {
    localStorage.setItem(keyOf(name), JSON.stringify({ value, at: Date.now() } satisfies Entry))
  } catch {
    notice('This browser has no room left: what you type is kept only once it is saved.', { fault: true })
  }
}

/** Deletes what a tab kept under a name: this tab, or the one given. */
export function forgetTyped(name: string, of = tab) {
  localStorage.removeItem(keyOf(name, of))
}

/** What this tab kept under a name before it was loaded anew, and what closed tabs
 * left there, newest first. */
export async function leftBehind<T>(name: string): Promise<Left<T>[]> {
  const start = `${prefix} ${person} ${name} `
  const keys = Object.keys(localStorage).filter((k) => k.startsWith(start))
  if (!keys.length) return []
  await named
  const held = new Set((await locks?.query())?.held?.map((l) => l.name))
  const found: Left<T>[] = []
  for (const key of keys) {
    const of = key.slice(start.length)
    const raw = localStorage.getItem(key)
    if (!raw || of.includes(' ')) continue // gone meanwhile, or of a longer name
    const e = JSON.parse(raw) as Entry
    const open = locks ? held.has(lockOf(of)) : Date.now() - e.at < silent
    if (of === tab || !open) found.push({ value: e.value as T, at: e.at, tab: of })
  }
  return found.sort((a, b) => b.at - a.at)
}
