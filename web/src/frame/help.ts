import { onUnmounted, reactive } from 'vue'

/** Keys that work now, by what they belong to. */
export interface KeySheet {
  title: string
  keys: readonly (readonly [keys: string, what: string])[]
}
const sheets = reactive<KeySheet[]>([])

/** All keys that work now, for the help sheet. */
export const keySheets: readonly KeySheet[] = sheets

/** Tells the help sheet of keys for as long as the calling component lives. */
export function describeKeys(title: string, keys: KeySheet['keys']) {
  const sheet = { title, keys }
  sheets.push(sheet)
  onUnmounted(() => {
    const i = sheets.findIndex((s) => s.title === title)
    if (i >= 0) sheets.splice(i, 1)
  })
}
