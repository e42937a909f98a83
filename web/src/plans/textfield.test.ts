import { flushPromises, mount } from '@vue/test-utils'
import { afterEach, beforeEach, describe, expect, test, vi } from 'vitest'
import { ProblemError } from '@/api/client'
import TextField from './TextField.vue'

vi.mock('@/notes', async () => {
  const { ref } = await import('vue')
  return { useAttaching: () => ({ sending: ref(''), paste: () => {}, drop: () => {} }) }
})

beforeEach(() => localStorage.clear())

/** A field whose saves are answered by hand. */
function field(value = 'one', props: { most?: number; by?: string } = {}) {
  const saves: { from: string; to: string; done: () => void; failed: (e: unknown) => void }[] = []
  const save = (from: string, to: string) => new Promise<void>((done, failed) => saves.push({ from, to, done, failed }))
  const w = mount(TextField, { props: { name: 'x', label: 'x', kept: 'x', value, rows: 3, save, ...props } })
  const area = w.find('textarea')
  const leave = async (text: string) => {
    await area.setValue(text)
    await area.trigger('blur')
  }
  return { w, saves, area, leave, said: () => saves.map((s) => [s.from, s.to]) }
}

test('what is typed while a save is under way is saved after it', async () => {
  const f = field()
  await f.leave('two')
  await f.leave('three')
  expect(f.said()).toEqual([['one', 'two']])
  await f.w.setProps({ value: 'two' })
  f.saves[0]!.done()
  await flushPromises()
  expect(f.said()).toEqual([
    ['one', 'two'],
    ['two', 'three'],
  ])
})

test('also where the field is gone by then', async () => {
  const f = field()
  await f.leave('two')
  await f.area.setValue('three')
  await f.w.setProps({ value: 'two' })
  f.w.unmount()
  f.saves[0]!.done()
  await flushPromises()
  expect(f.said()[1]).toEqual(['two', 'three'])
})

const changed = (current: string, by = 'Oona') => new ProblemError({ current, by }, 409)

test('changes in different places are merged and saved without a question', async () => {
  const f = field('the gauge sleeps')
  await f.leave('the old gauge sleeps')
  f.saves[0]!.failed(changed('the gauge sleeps at noon'))
  await flushPromises()
  expect(f.w.find('[role=alert]').exists()).toBe(false)
  expect(f.area.element.value).toBe('the old gauge sleeps at noon')
  expect(f.said()[1]).toEqual(['the gauge sleeps at noon', 'the old gauge sleeps at noon'])
})

test('the same words are asked about by name, and hold nothing else back', async () => {
  const f = field('the gauge sleeps at noon')
  await f.leave('the old gauge sleeps at dawn')
  f.saves[0]!.failed(changed('the gauge sleeps at dusk'))
  await flushPromises()
  expect(f.w.find('[role=alert]').text()).toContain('Oona changed the same words')
  expect(f.said()[1], 'the rest is saved at once').toEqual(['the gauge sleeps at dusk', 'the old gauge sleeps at dusk'])
  await f.w.setProps({ value: 'the old gauge sleeps at dusk' })
  f.saves[1]!.done()
  await flushPromises()
  // theirs go on while the question is open
  await f.w.setProps({ value: 'the old gauge sleeps at dusk, deeply' })
  expect(f.area.element.value).toBe('the old gauge sleeps at dusk, deeply')
  await f.w
    .findAll('[role=alert] button')
    .find((b) => b.text() === 'Use yours')!
    .trigger('click')
  expect(f.w.find('[role=alert]').exists()).toBe(false)
  expect(f.said()[2]![1]).toContain('dawn')
})

test('another text is taken over where nothing was typed', async () => {
  const f = field()
  await f.w.setProps({ value: 'theirs' })
  expect(f.area.element.value).toBe('theirs')
  await f.area.trigger('blur')
  expect(f.saves).toHaveLength(0)
})

describe('while one types without a pause', () => {
  beforeEach(() => vi.useFakeTimers())
  afterEach(() => vi.useRealTimers())

  test('it is saved at least every two seconds', async () => {
    const f = field('')
    for (let ms = 0; ms < 12_000; ms += 100) {
      await f.area.setValue('x'.repeat(ms / 100 + 1))
      await vi.advanceTimersByTimeAsync(100)
      const s = f.saves.at(-1)
      if (s && f.w.props('value') !== s.to) {
        await f.w.setProps({ value: s.to })
        s.done()
      }
      if (ms > 2000) expect(f.saves.at(-1)!.to.length * 100, `after ${ms} ms`).toBeGreaterThan(ms - 2000)
    }
    expect(f.saves.length).toBeGreaterThan(5)
  })

  test('each key is kept on this machine, and offered after a reload', async () => {
    const f = field('')
    await f.area.setValue('the tide ga')
    f.w.unmount()
    await vi.advanceTimersByTimeAsync(0) // the save is never answered
    const again = field('')
    await vi.advanceTimersByTimeAsync(0)
    await flushPromises()
    expect(again.w.find('[role=alert]').text()).toContain('the tide ga')
    await again.w.find('[role=alert] button').trigger('click')
    expect(again.area.element.value).toBe('the tide ga')
    expect(again.said()).toEqual([['', 'the tide ga']])
    await again.w.setProps({ value: 'the tide ga' })
    again.saves[0]!.done()
    await flushPromises()
    const third = field('the tide ga')
    await flushPromises()
    expect(third.w.find('[role=alert]').exists(), 'it is saved').toBe(false)
  })
})

test('a page that is closed saves what was typed', async () => {
  const f = field('')
  await f.area.setValue('half a wor')
  window.dispatchEvent(new Event('pagehide'))
  expect(f.said()).toEqual([['', 'half a wor']])
})

test('a text that is too long is kept whole, and not saved until it is shorter', async () => {
  const f = field('', { most: 10 })
  await f.leave('x'.repeat(200_000))
  expect(f.w.find('[role=alert]').text()).toContain('199,990 characters too many')
  expect([f.area.element.value.length, f.saves.length]).toEqual([200_000, 0])
  await f.leave('short')
  expect(f.said()).toEqual([['', 'short']])
})
