import { flushPromises } from '@vue/test-utils'
import { beforeEach, describe, expect, test, vi } from 'vitest'
import { effectScope, nextTick } from 'vue'
import { ProblemError } from '@/api/client'
import { forgetTyped, keepTyped, leftBehind, ownTab, typedBy } from './machine'
import { answered, merge } from './merge'
import { useKeptText } from './useKeptText'
import { useTypedText } from './useTypedText'

beforeEach(() => {
  localStorage.clear()
  typedBy(1)
})

/** What another tab of a person kept, so many ms ago. */
function other(name: string, value: unknown, ago: number, tab = 'other', person = 1) {
  localStorage.setItem(`juxtagram.typed ${person} ${name} ${tab}`, JSON.stringify({ value, at: Date.now() - ago }))
}

describe('what is kept on this machine', () => {
  test('comes back after a reload, newest first, and is forgotten by tab', async () => {
    keepTyped('x', 'mine')
    other('x', 'older', 60_000)
    expect((await leftBehind('x')).map((l) => [l.value, l.tab])).toEqual([
      ['mine', ownTab()],
      ['older', 'other'],
    ])
    forgetTyped('x', 'other')
    forgetTyped('x')
    expect(await leftBehind('x')).toEqual([])
    expect(localStorage).toHaveLength(0)
  })
  test('is not taken from a tab that is still typed in', async () => {
    other('x', 'open', 1000)
    expect(await leftBehind('x')).toEqual([])
  })
  test('is not offered to another person, nor under a longer name', async () => {
    other('x', 'theirs', 60_000, 'other', 2)
    other('x y', 'another text', 60_000)
    expect(await leftBehind('x')).toEqual([])
    expect(await leftBehind('x y')).toHaveLength(1)
  })
})

describe('a text that is sent by hand', () => {
  const typed = (name: string, restored = vi.fn()) => ({ text: effectScope().run(() => useTypedText(() => name, restored))!, restored })
  test('is kept with every key and gone once it is empty', () => {
    const { text } = typed('reply 1')
    text.value = 'W'
    expect(localStorage).toHaveLength(1)
    text.value = '  '
    expect(localStorage).toHaveLength(0)
  })
  test('what several closed tabs left is put together, and nothing is lost or doubled', async () => {
    other('reply 1', 'second', 60_000, 'b')
    other('reply 1', 'first', 30_000, 'a')
    const { text, restored } = typed('reply 1')
    await flushPromises()
    expect(text.value).toBe('first\n\nsecond')
    expect(restored).toHaveBeenCalledOnce()
    expect(await leftBehind('reply 1')).toHaveLength(1)
  })
  test('who types already is not written over', async () => {
    other('reply 1', 'before', 60_000)
    const { text, restored } = typed('reply 1')
    text.value = 'now'
    await flushPromises()
    expect(text.value).toBe('now')
    expect(restored).not.toHaveBeenCalled()
    expect((await leftBehind('reply 1')).map((l) => l.value)).toContain('before')
  })
})

describe('a text that is saved while it is typed', () => {
  function kept(server: { value: string }, save: (from: string, to: string) => Promise<unknown>, most = 100) {
    return effectScope().run(() => useKeptText({ name: () => 'purpose', value: () => server.value, most, save }))!
  }
  const refused = (current: string) => new ProblemError({ type: 'problems/conflict', title: 'Conflict', current, by: 'Tam Reddick' }, 409)

  test('a refusal that names what is there now is merged and saved again', async () => {
    const server = { value: 'The gauge sleeps at noon.' }
    const said: string[] = []
    const k = kept(server, async (from, to) => {
      said.push(`${from} → ${to}`)
      if (said.length === 1) {
        server.value = 'The gauge sleeps at dusk.'
        throw refused(server.value)
      }
      server.value = to
    })
    k.text.value = 'The old gauge sleeps at noon.'
    k.typed()
    await k.save()
    expect(server.value).toBe('The old gauge sleeps at dusk.')
    expect(said).toHaveLength(2)
    expect(k.questions.value).toEqual([])
    expect(localStorage).toHaveLength(0)
  })
  test('the same word is asked about, kept, and saved as the person decides', async () => {
    const server = { value: 'at noon' }
    let first = true
    const k = kept(server, async (_, to) => {
      if (first) {
        first = false
        server.value = 'at dusk'
        throw refused(server.value)
      }
      server.value = to
    })
    k.text.value = 'at dawn'
    k.typed()
    await k.save()
    expect(k.text.value).toBe('at dusk')
    expect(k.questions.value.map((q) => [q.mine, q.theirs, q.by])).toEqual([['dawn', 'dusk', 'Tam Reddick']])
    expect(localStorage.getItem(localStorage.key(0)!)).toContain('dawn')
    k.answer(k.questions.value[0]!, 'mine')
    await flushPromises()
    expect(server.value).toBe('at dawn')
    expect(localStorage).toHaveLength(0)
  })
  test('a text that is too long is kept and not sent, and says by how much', async () => {
    const save = vi.fn()
    const k = kept({ value: '' }, save, 5)
    k.text.value = '1234567'
    k.typed()
    await k.save()
    expect(save).not.toHaveBeenCalled()
    expect(k.excess.value).toBe(2)
    expect(localStorage).toHaveLength(1)
    k.text.value = '🌊🌊🌊🌊🌊'
    expect(k.excess.value, 'characters are counted, not units').toBe(0)
  })
  test('a failure keeps the text, and the next try sends it', async () => {
    const server = { value: 'a' }
    let up = false
    const k = kept(server, async (_, to) => {
      if (!up) throw new Error('no connection')
      server.value = to
    })
    k.text.value = 'b'
    k.typed()
    await k.save()
    expect(k.dirty.value).toBe(true)
    expect(localStorage).toHaveLength(1)
    up = true
    await k.save()
    expect(server.value).toBe('b')
    await nextTick()
    expect(localStorage).toHaveLength(0)
  })
  test('what a closed tab left is offered, merged when it is put back, and saved', async () => {
    const server = { value: 'It wakes at dusk.' }
    other('purpose', { text: 'It wakes early at noon.', base: 'It wakes at noon.' }, 60_000)
    const k = kept(server, async (_, to) => (server.value = to))
    await flushPromises()
    expect(k.left.value?.value.text).toBe('It wakes early at noon.')
    expect(k.text.value, 'nothing is put in unasked').toBe('It wakes at dusk.')
    k.putBack()
    await flushPromises()
    expect(server.value).toBe('It wakes early at dusk.')
    expect(localStorage).toHaveLength(0)
  })
  test('what was saved all the same is not offered', async () => {
    other('purpose', { text: 'saved', base: 'before' }, 60_000)
    const k = kept({ value: 'saved' }, async () => {})
    await flushPromises()
    expect(k.left.value).toBeNull()
    expect(localStorage).toHaveLength(0)
  })
})

test.each([
  ['mine', 'at dawn and'],
  ['theirs', 'at dusk and'],
  ['both', 'at dusk dawn and'],
] as const)('a clash decided as %s', (chosen, want) => {
  const m = merge('at noon and', 'at dawn and', 'at dusk and')
  expect(answered(m.text, m.clashes[0]!, chosen).replace(/\s+/g, ' ')).toBe(want)
})

test('a clash whose other words were changed since loses neither', () => {
  const m = merge('at noon and', 'at dawn and', 'at dusk and')
  const changed = m.text.replace('dusk', 'night')
  for (const chosen of ['mine', 'both'] as const)
    expect(answered(changed, m.clashes[0]!, chosen).split(/\s+/).sort()).toEqual(['and', 'at', 'dawn', 'night'])
})
