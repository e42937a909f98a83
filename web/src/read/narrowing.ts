import { reactive } from 'vue'
import type { Narrowing } from './outline'

/** What outlines are narrowed by: it stays from file to file until it is cleared. */
export const narrowing = reactive<Narrowing>({ typed: '', kinds: [], reach: [], byName: false })
