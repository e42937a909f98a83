import { flushPromises, mount } from '@vue/test-utils'
import { expect, test, vi } from 'vitest'
import { ProblemError } from '@/api/client'
import TextField from './TextField.vue'

vi.mock('@/notes', async () => {
  const { ref } = await import('vue')
  return { useAttaching: () => ({ sending: ref(''), paste: () => {}, drop: () => {} }) }
})

/** A field whose saves are answered by hand. */
function field(value = 'one') {
  const saves: { from: string; to: string; done: () => void; failed: (e: unknown) => void }[] = []
  const save = (from: string, to: string) => new Promise<void>((done, failed) => saves.push({ from, to, done, failed }))
  const w = mount(TextField, { props: { name: 'x', label: 'x', value, rows: 3, save } })
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

test('what somebody else changed is put together with it, and asked about', async () => {
  const f = field('the gauge sleeps')
  await f.leave('the old gauge sleeps')
  f.saves[0]!.failed(new ProblemError({ current: 'the gauge sleeps at noon' }, 409))
  await flushPromises()
  expect(f.w.text()).toContain('Somebody changed this meanwhile')
  expect(f.area.element.value).toBe('the old gauge sleeps at noon')
  await f.area.trigger('blur')
  expect(f.saves).toHaveLength(1)
  await f.w.find('button').trigger('click')
  expect(f.said()[1]).toEqual(['the gauge sleeps at noon', 'the old gauge sleeps at noon'])
})

test('another text is taken over where nothing was typed', async () => {
  const f = field()
  await f.w.setProps({ value: 'theirs' })
  expect(f.area.element.value).toBe('theirs')
  await f.area.trigger('blur')
  expect(f.saves).toHaveLength(0)
})
