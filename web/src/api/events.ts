import type { Schemas } from './client'

export type Change = Schemas['Event']
type Listener = (change: Change | null) => void

// One stream a browser, not a tab: the tab that holds the lock reads it and
// passes each event on to the others. When it closes, another takes over.
const listeners = new Set<Listener>()
const channel = typeof BroadcastChannel === 'undefined' ? null : new BroadcastChannel('juxtagram-events')
let started = false

function tell(change: Change | null) {
  for (const l of listeners) l(change)
}

/** How long after the server refused the stream it is asked for again, in ms. */
const again = 5000

function open() {
  const source = new EventSource('/api/events')
  const pass = (change: Change | null) => {
    tell(change)
    channel?.postMessage(change)
  }
  source.addEventListener('change', (e) => pass(JSON.parse((e as MessageEvent<string>).data) as Change))
  source.addEventListener('refresh', () => pass(null))
  // what happened before the stream stood, or while it was away, is unknown
  source.addEventListener('open', () => pass(null))
  // the browser tries again by itself, unless the answer was a refusal: a session that ended
  source.addEventListener('error', () => source.readyState === EventSource.CLOSED && setTimeout(open, again))
}

function read(): Promise<never> {
  open()
  return new Promise(() => {}) // the lock is held until the tab closes
}

function start() {
  if (started) return
  started = true
  if (channel) channel.onmessage = (e) => tell(e.data as Change | null)
  if (navigator.locks) void navigator.locks.request('juxtagram-events', read)
  else void read()
}

/** Calls listener with each change, and with null when some may have been
 * missed. Returns what ends it. */
export function onChange(listener: Listener): () => void {
  start()
  listeners.add(listener)
  return () => listeners.delete(listener)
}
