import { afterEach, describe, expect, it } from 'vitest'
import { effectScope } from 'vue'
import { isTyping, useKeys } from './keys'

function press(init: KeyboardEventInit, on: EventTarget = document.body): boolean {
  const e = new KeyboardEvent('keydown', { bubbles: true, cancelable: true, ...init })
  on.dispatchEvent(e)
  return e.defaultPrevented
}
function put(html: string): HTMLElement {
  document.body.innerHTML = html
  return document.querySelector<HTMLElement>('#here')!
}
const scope = effectScope()
const asked: string[] = []
const key = (name: string) => () => asked.push(name)

describe('keys of a page', () => {
  afterEach(() => {
    document.body.innerHTML = ''
    asked.length = 0
  })
  const names = ['n', '?', 'ArrowDown', 'Shift+ArrowDown', 'Alt+ArrowUp', 'Mod+z', 'Mod+Shift+z', 'Mod+Alt+k']
  scope.run(() => useKeys(Object.fromEntries(names.map((n) => [n, key(n)]))))
  it.each<[string, KeyboardEventInit]>([
    ['n', { key: 'n' }],
    ['?', { key: '?', shiftKey: true }],
    ['ArrowDown', { key: 'ArrowDown' }],
    ['Shift+ArrowDown', { key: 'ArrowDown', shiftKey: true }],
    ['Alt+ArrowUp', { key: 'ArrowUp', altKey: true }],
    ['Mod+z', { key: 'z', ctrlKey: true }],
    ['Mod+z', { key: 'z', metaKey: true }],
    ['Mod+Shift+z', { key: 'Z', ctrlKey: true, shiftKey: true }],
    ['Mod+Alt+k', { key: 'k', ctrlKey: true, altKey: true }],
  ])('%s', (name, init) => {
    expect(press(init), 'the browser does nothing else').toBe(true)
    expect(asked).toEqual([name])
  })
  it('that nobody asked for are the browser’s', () => {
    expect([press({ key: 'x' }), press({ key: 'n', ctrlKey: true }), press({ key: 'N', shiftKey: true })]).toEqual([false, false, false])
    expect(asked).toEqual([])
  })
  it.each([
    ['a field', '<input id="here">', true],
    ['a text', '<textarea id="here"></textarea>', true],
    ['a dialogue', '<div role="dialog"><button id="here"></button></div>', true],
    ['a sheet', '<dialog open><button id="here"></button></dialog>', true],
    ['a menu', '<ul role="menu"><li id="here"></li></ul>', true],
    ['a box to tick', '<input type="checkbox" id="here">', false],
    ['a button', '<button id="here"></button>', false],
  ])('in %s', (_, html, typing) => {
    const here = put(html)
    press({ key: 'n' }, here)
    expect(asked).toEqual(typing ? [] : ['n'])
    expect(isTyping({ target: here } as unknown as KeyboardEvent)).toBe(typing)
  })
  it('do nothing where somebody else took them', () => {
    const here = put('<button id="here"></button>')
    here.addEventListener('keydown', (e) => e.preventDefault())
    press({ key: 'n' }, here)
    expect(asked).toEqual([])
  })
  it('are the browser’s where they are not for what has the focus', () => {
    scope.run(() => useKeys({ y: () => false }))
    expect(press({ key: 'y' })).toBe(false)
  })
  it('are gone with the page', () => {
    scope.stop()
    press({ key: 'n' })
    expect(asked).toEqual([])
  })
})
