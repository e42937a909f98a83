import { onUnmounted, ref, toValue, watchEffect, type MaybeRefOrGetter } from 'vue'

/** What the page shows in particular: a file, a plan; "" is nothing. */
const part = ref('')

/** Names the page in the browser's tab, for as long as the calling component lives:
 * "sampler.c · marshgauge · Juxtagram". */
export function usePageTitle(of: MaybeRefOrGetter<string>) {
  watchEffect(() => (part.value = toValue(of)))
  onUnmounted(() => (part.value = ''))
}

/** What pages of a repository are called, by the names of their routes. */
export const pageTitles: Record<string, string> = {
  overview: 'Overview',
  map: 'Map',
  pin: 'Pin',
  read: 'Read',
  pair: 'Side by side',
  extract: 'Extract',
  search: 'Search',
  history: 'History',
  story: 'Story',
  compare: 'Compare',
  hotspots: 'Hotspots',
  who: 'Who to ask',
  commit: 'Commit',
  leads: 'Leads',
  tagged: 'Tagged comments',
  notes: 'Notes',
  plans: 'Plans',
  'draft-plan': 'Draft a plan',
  guide: 'Plan',
  'print-plan': 'Plan',
  compose: 'Compose a plan',
  settings: 'People and settings',
}

/** The whole title of a page. */
export function titleOf(page: string, repository = ''): string {
  return [part.value || page, repository, 'Juxtagram'].filter(Boolean).join(' · ')
}
