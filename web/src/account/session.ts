import { ref } from 'vue'

/** Whether the server said that nobody is signed in any more. */
export const sessionEnded = ref(false)

const listeners = new Set<() => void>()

/** Calls listener when somebody has signed in again without leaving the page.
 * Returns what ends it. */
export function onSignedIn(listener: () => void): () => void {
  listeners.add(listener)
  return () => listeners.delete(listener)
}

export function signedInAgain() {
  sessionEnded.value = false
  for (const l of listeners) l()
}
