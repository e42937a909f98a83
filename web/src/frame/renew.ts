import type { Router } from 'vue-router'
import { notice } from './notice'

/** Set while a page is loaded anew because the server has a newer build. */
const mark = 'juxtagram.renewed'

/** A newer build was installed while the page was open: its files have other names.
 * Where the next page cannot be loaded, the whole application is loaded anew at that
 * address. What was typed is on this machine. */
export function renewWhenReplaced(router: Router) {
  if (sessionStorage.getItem(mark)) {
    sessionStorage.removeItem(mark)
    notice('Juxtagram was updated, and this page was loaded anew. What you typed is kept.')
  }
  let missing = false
  window.addEventListener('vite:preloadError', () => (missing = true))
  router.onError((e: unknown, to) => {
    const again = sessionStorage.getItem(mark)
    if (!missing && !/dynamically imported module|Importing a module/i.test(String(e))) return
    missing = false
    if (again) return notice('A part of this page is missing on the server. Load the page anew in a moment.', { fault: true })
    sessionStorage.setItem(mark, '1')
    location.assign(to.fullPath)
  })
}
