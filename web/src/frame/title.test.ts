import { mount } from '@vue/test-utils'
import { expect, test } from 'vitest'
import { defineComponent, h, nextTick } from 'vue'
import { router } from '@/router'
import { pageTitles, titleOf, usePageTitle } from './title'

test('a page is called by what it shows, else by its own name', async () => {
  expect(titleOf('Map', 'marshgauge')).toBe('Map · marshgauge · Juxtagram')
  expect(titleOf('')).toBe('Juxtagram')
  const File = defineComponent({
    props: { path: { type: String, required: true } },
    setup(p) {
      usePageTitle(() => p.path.split('/').at(-1)!)
      return () => h('div')
    },
  })
  const w = mount(File, { props: { path: 'firmware/sampler.c' } })
  expect(titleOf('Read', 'marshgauge')).toBe('sampler.c · marshgauge · Juxtagram')
  await w.setProps({ path: 'README.md' })
  await nextTick()
  expect(titleOf('Read', 'marshgauge')).toBe('README.md · marshgauge · Juxtagram')
  w.unmount()
  expect(titleOf('Read', 'marshgauge')).toBe('Read · marshgauge · Juxtagram')
})

test('every screen of a repository has a name', () => {
  const names = router.getRoutes().flatMap((r) => (r.path.startsWith('/r/') && r.name ? [String(r.name)] : []))
  expect(names.length).toBeGreaterThan(10)
  expect(names.filter((n) => !pageTitles[n])).toEqual([])
})
