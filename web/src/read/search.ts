/** Reads an answer of one JSON document a line as it comes, some at a time. A
 * refusal is thrown with what the server says. */
export async function* readDocuments<T>(address: string, signal: AbortSignal): AsyncGenerator<T[]> {
  const answer = await fetch(address, { signal })
  if (!answer.ok || !answer.body) {
    const problem = (await answer.json().catch(() => null)) as { detail?: string } | null
    throw new Error(problem?.detail ?? `The server answered ${answer.status}.`)
  }
  const reader = answer.body.pipeThrough(new TextDecoderStream()).getReader()
  let rest = ''
  for (;;) {
    const { value, done } = await reader.read()
    rest += value ?? ''
    const all = rest.split('\n')
    rest = all.pop()!
    if (all.length) yield all.filter(Boolean).map((l) => JSON.parse(l) as T)
    if (done) return
  }
}
