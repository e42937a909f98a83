import { theme } from 'ant-design-vue'
import { useDark, useStorage } from '@vueuse/core'
import { computed, watchEffect } from 'vue'

/** What a person chose: follow the system, or always one of the two. */
export const choice = useStorage<'system' | 'light' | 'dark'>('juxtagram-theme', 'system')

const prefersDark = useDark({ selector: 'html', attribute: 'data-system', storageKey: null })

export const isDark = computed(() => (choice.value === 'system' ? prefersDark.value : choice.value === 'dark'))

watchEffect(() => {
  document.documentElement.dataset.theme = isDark.value ? 'dark' : 'light'
})

const light = {
  paper: '#faf7f0',
  sheet: '#fffefb',
  ink: '#22252b',
  soft: '#5b5f66',
  rule: '#ddd6c8',
  plum: '#6a3d7c',
  teal: '#0f6b66',
  fault: '#a3262a',
}
const dark = {
  paper: '#1b1d21',
  sheet: '#212429',
  ink: '#e8e4da',
  soft: '#a9a79f',
  rule: '#3a3d43',
  plum: '#b58ac8',
  teal: '#5fb8b1',
  fault: '#ef8a86',
}

/** The component library's tokens; the same colours as tokens.css. */
export const antTheme = computed(() => {
  const c = isDark.value ? dark : light
  return {
    algorithm: isDark.value ? theme.darkAlgorithm : theme.defaultAlgorithm,
    token: {
      colorPrimary: c.plum,
      colorInfo: c.teal,
      colorSuccess: c.teal,
      colorLink: c.teal,
      colorText: c.ink,
      colorTextSecondary: c.soft,
      colorTextPlaceholder: c.soft,
      colorBgBase: c.paper,
      colorBgContainer: c.sheet,
      colorBgElevated: c.sheet,
      colorBorder: c.rule,
      colorBorderSecondary: c.rule,
      colorError: c.fault,
      colorTextLightSolid: isDark.value ? c.paper : c.sheet,
      borderRadius: 3,
      boxShadow: 'none',
      boxShadowSecondary: `0 0 0 1px ${c.rule}`,
      fontFamily: "'Inter Variable', system-ui, sans-serif",
      fontSize: 13.5,
      controlHeight: 30,
      wireframe: false,
      motion: !matchMedia('(prefers-reduced-motion: reduce)').matches,
    },
  }
})
