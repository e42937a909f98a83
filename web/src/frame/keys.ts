import { useEventListener } from '@vueuse/core'

/** Whether a key press is meant for a field, a dialogue or a menu. */
export function isTyping(e: KeyboardEvent): boolean {
  const t = e.target as HTMLElement | null
  return !!t?.closest(
    'input:not([type="checkbox"], [type="radio"]), textarea, select, [contenteditable="true"], [role="dialog"], [role="menu"], [role="listbox"]',
  )
}

/** Binds single keys of a page: "n", "ArrowDown", "Alt+ArrowUp", "Mod+z". */
export function useKeys(keys: Record<string, (e: KeyboardEvent) => void>) {
  useEventListener(window, 'keydown', (e: KeyboardEvent) => {
    if (isTyping(e) || e.defaultPrevented) return
    const mod = (e.ctrlKey || e.metaKey ? 'Mod+' : '') + (e.altKey ? 'Alt+' : '')
    // Shift is told where it makes no other sign of a key
    const shift = e.shiftKey && (e.key.length > 1 || mod.startsWith('Mod'))
    const name = mod + (shift ? 'Shift+' : '') + (shift && e.key.length === 1 ? e.key.toLowerCase() : e.key)
    const act = keys[name]
    if (!act) return
    e.preventDefault()
    act(e)
  })
}

/** Escape closes a dialogue wherever the focus is, and does nothing else then. */
export function closeOnEscape(isOpen: () => boolean, close: () => void) {
  useEventListener(
    window,
    'keydown',
    (e: KeyboardEvent) => {
      if (e.key !== 'Escape' || !isOpen()) return
      e.stopPropagation()
      close()
    },
    { capture: true },
  )
}
