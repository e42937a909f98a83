import { shallowRef } from 'vue'

export interface NoticeText {
  text: string
  fault: boolean
  action?: { label: string; do: () => void }
}

/** What is being told at the foot of the page; null: nothing. */
export const current = shallowRef<NoticeText | null>(null)

let timer: ReturnType<typeof setTimeout> | undefined

/** Tells something for a few seconds; faults stay until they are put away. */
export function notice(text: string, options: { fault?: boolean; action?: NoticeText['action'] } = {}) {
  clearTimeout(timer)
  current.value = { text, fault: options.fault ?? false, action: options.action }
  if (!options.fault) timer = setTimeout(() => (current.value = null), 8000)
}
