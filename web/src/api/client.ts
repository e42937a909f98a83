import createClient from 'openapi-fetch'
import { sessionEnded } from '@/account/session'
import type { components, paths } from './schema'

export type Schemas = components['schemas']
export type Problem = Schemas['Problem']

let leaving = false
window.addEventListener('pagehide', () => (leaving = true), { capture: true })
window.addEventListener('pageshow', () => (leaving = false), { capture: true })

/** Whether the page is being closed: what is sent now must not need it. */
export const isLeaving = () => leaving

/** While the page is being closed requests outlive it, as far as browsers allow:
 * 64 kB altogether. */
function send(request: Request): Promise<Response> {
  if (!leaving) return fetch(request)
  return fetch(request.clone(), { keepalive: true }).catch(() => fetch(request))
}

export const api = createClient<paths>({ baseUrl: '/', fetch: send })

/** An answer that tells what went wrong, in words for a person. */
export class ProblemError extends Error {
  constructor(
    readonly problem: Partial<Problem>,
    readonly status: number,
  ) {
    super(problem.detail ?? problem.title ?? 'the server gave no reason')
  }
}

/** Turns the client's answer into its data, or throws the problem. */
export async function data<T>(answer: Promise<{ data?: T; error?: unknown; response: Response }>): Promise<T> {
  let got
  try {
    got = await answer
  } catch (e) {
    if (e instanceof DOMException && e.name === 'AbortError') throw e
    throw new ProblemError({ detail: 'The server does not answer. Check that it runs, then try again.' }, 0)
  }
  if (got.response.status === 401 && !got.response.url.endsWith('/sign-in')) sessionEnded.value = true
  if (!got.response.ok) throw new ProblemError((got.error ?? {}) as Partial<Problem>, got.response.status)
  return got.data as T
}

/** What to tell a person about any error. */
export function words(e: unknown): string {
  return e instanceof Error ? e.message : String(e)
}
