import { nextTick, onBeforeUnmount, onMounted, ref, watch } from 'vue'

/** The modal sheets that are open, the topmost last: keys of the page behind them do
 * nothing. */
const modals: HTMLElement[] = []
export const isModalOpen = () => modals.length > 0

interface Options {
  /** The sheet. A modal one is a `<dialog>`. */
  element: () => HTMLElement | null | undefined
  modal: boolean
  close: () => void
  /** Closing would lose words: it asks first. */
  unsaved?: () => boolean
  /** Ctrl+Enter. */
  save?: () => void
}

const fields = 'input:not([type=hidden], [disabled]), textarea:not([disabled]), select:not([disabled])'
const controls = `${fields}, button:not([disabled]), a[href], [tabindex]:not([tabindex="-1"])`

/** Where one begins: what says so, else the first field, else the first control. */
function first(sheet: HTMLElement): HTMLElement {
  const begins = sheet.querySelector<HTMLElement>('[autofocus], [data-first]')
  if (begins?.matches(controls)) return begins
  return (begins ?? sheet).querySelector<HTMLElement>(fields) ?? sheet.querySelector<HTMLElement>(controls) ?? sheet
}

/** What every sheet and dialogue does, for as long as the calling component lives: it
 * takes the focus, holds it where it is modal, closes by Escape, saves by Ctrl+Enter
 * and gives the focus back to where it was. */
export function useSheet(o: Options) {
  const before = document.activeElement instanceof HTMLElement ? document.activeElement : null
  /** Closing was asked for, and would lose words. */
  const asking = ref(false)

  watch(
    () => o.unsaved?.(),
    (unsaved) => !unsaved && (asking.value = false),
  )
  function leave() {
    if (o.unsaved?.() && !asking.value) asking.value = true
    else o.close()
  }
  function press(e: KeyboardEvent) {
    // a button that was pressed may be gone, and the focus nowhere: the key is the topmost's
    if (o.modal && modals.at(-1) !== sheet) return
    // an open list of choices closes first
    const inList = (e.target as HTMLElement).closest('.ant-select-open, [aria-expanded="true"]')
    if (e.key === 'Escape' && !e.defaultPrevented && !inList) {
      e.preventDefault()
      e.stopPropagation()
      if (asking.value) asking.value = false
      else leave()
    } else if (e.key === 'Enter' && (e.ctrlKey || e.metaKey) && !e.defaultPrevented) {
      e.preventDefault()
      e.stopPropagation()
      o.save?.()
    }
  }
  /** Tab goes round in a modal sheet: it does not lead out of the page either. */
  function goRound(e: KeyboardEvent) {
    if (e.key !== 'Tab' || !sheet) return
    const all = [...sheet.querySelectorAll<HTMLElement>(controls)].filter((c) => c.tabIndex >= 0 && c.getClientRects().length)
    const [from, to] = e.shiftKey ? [all[0], all.at(-1)] : [all.at(-1), all[0]]
    if (document.activeElement !== from && sheet.contains(document.activeElement)) return
    e.preventDefault()
    to?.focus()
  }
  let sheet: HTMLElement | null | undefined
  onMounted(async () => {
    await nextTick()
    sheet = o.element()
    if (!sheet) return
    if (o.modal) {
      modals.push(sheet)
      ;(sheet as HTMLDialogElement).showModal()
      sheet.addEventListener('keydown', goRound)
    }
    ;(o.modal ? document : sheet).addEventListener('keydown', press as EventListener)
    // the key that opened the sheet is not typed into it
    requestAnimationFrame(() => sheet?.isConnected && first(sheet).focus({ preventScroll: true }))
  })
  onBeforeUnmount(() => {
    if (!sheet) return
    if (o.modal) modals.splice(modals.indexOf(sheet), 1)
    ;(o.modal ? document : sheet).removeEventListener('keydown', press as EventListener)
    const now = document.activeElement
    const inside = now === document.body || sheet.contains(now)
    if (o.modal) (sheet as HTMLDialogElement).close()
    if (inside && before?.isConnected) void nextTick(() => before.focus({ preventScroll: true }))
  })
  return { asking, leave }
}
