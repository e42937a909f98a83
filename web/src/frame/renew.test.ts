import { afterEach, expect, test, vi } from 'vitest'
import type { Router } from 'vue-router'
import { current } from './notice'
import { renewWhenReplaced } from './renew'

/** A router that fails with the error it is given. */
function opened() {
  let fail: (e: unknown, to: { fullPath: string }) => void = () => {}
  renewWhenReplaced({ onError: (f: typeof fail) => (fail = f) } as unknown as Router)
  return (message: string) => fail(new TypeError(message), { fullPath: '/r/1/map' })
}
const missing = 'Failed to fetch dynamically imported module: /assets/Map-old.js'

afterEach(() => {
  sessionStorage.clear()
  current.value = null
  vi.restoreAllMocks()
})

test('a page whose files are gone is loaded anew, once, and says why', () => {
  const assign = vi.spyOn(location, 'assign').mockImplementation(() => {})
  opened()(missing)
  expect(assign).toHaveBeenCalledWith('/r/1/map')
  // the new page
  const fail = opened()
  expect(current.value?.text).toContain('What you typed is kept')
  fail(missing)
  expect(assign).toHaveBeenCalledTimes(2)
})

test('it is not loaded again and again', () => {
  const assign = vi.spyOn(location, 'assign').mockImplementation(() => {})
  const fail = opened()
  fail(missing)
  fail(missing)
  expect(assign).toHaveBeenCalledTimes(1)
  expect(current.value?.text).toContain('missing on the server')
})

test('another fault of a page is nobody’s reason to load it anew', () => {
  const assign = vi.spyOn(location, 'assign').mockImplementation(() => {})
  opened()('x is undefined')
  expect(assign).not.toHaveBeenCalled()
})
