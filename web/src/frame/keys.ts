import { useEventListener } from '@vueuse/core'
import { isModalOpen } from './sheet'

/** Whether a key press is meant for a field, a sheet or a menu. */
export function isTyping(e: KeyboardEvent): boolean {
  const t = e.target as HTMLElement | null
  return (
    isModalOpen() ||
    !!t?.closest(
      'input:not([type="checkbox"], [type="radio"]), textarea, select, [contenteditable="true"], dialog, [role="dialog"], [role="menu"], [role="listbox"]',
    )
  )
}

/** Binds single keys of a page: "n", "ArrowDown", "Alt+ArrowUp", "Mod+z". A key that
 * answers false is not for what has the focus: the browser has it. */
export function useKeys(keys: Record<string, (e: KeyboardEvent) => unknown>) {
  useEventListener(window, 'keydown', (e: KeyboardEvent) => {
    if (isTyping(e) || e.defaultPrevented) return
    const mod = (e.ctrlKey || e.metaKey ? 'Mod+' : '') + (e.altKey ? 'Alt+' : '')
    // Shift is told where it makes no other sign of a key
    const shift = e.shiftKey && (e.key.length > 1 || mod.startsWith('Mod'))
    const name = mod + (shift ? 'Shift+' : '') + (shift && e.key.length === 1 ? e.key.toLowerCase() : e.key)
    const act = keys[name]
    if (!act) return
    if (act(e) !== false) e.preventDefault()
  })
}
