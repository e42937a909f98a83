import { createRouter, createWebHistory } from 'vue-router'
import { titleOf } from './frame/title'

/** Titles of the pages outside of a repository. */
const titles: Record<string, string> = {
  'sign-in': 'Sign in',
  invitation: 'Invitation',
  'take-in': 'Take in a repository',
  people: 'People of this installation',
  nowhere: 'Not found',
}

export const router = createRouter({
  history: createWebHistory(),
  scrollBehavior: (_to, _from, saved) => saved ?? { top: 0 },
  routes: [
    { path: '/', name: 'shelf', component: () => import('./shelf/Shelf.vue') },
    { path: '/sign-in', name: 'sign-in', component: () => import('./account/SignIn.vue'), meta: { bare: true } },
    { path: '/invitation/:token', name: 'invitation', component: () => import('./account/Invitation.vue'), meta: { bare: true } },
    { path: '/people', name: 'people', component: () => import('./account/People.vue') },
    { path: '/take-in', name: 'take-in', component: () => import('./shelf/TakeIn.vue') },
    {
      path: '/r/:repository(\\d+)',
      component: () => import('./frame/Repository.vue'),
      children: [
        { path: '', name: 'overview', component: () => import('./overview/Overview.vue') },
        { path: 'map', name: 'map', component: () => import('./map/Map.vue') },
        { path: 'pin', name: 'pin', component: () => import('./shelf/Pin.vue') },
        { path: 'read', name: 'read', component: () => import('./read/Read.vue') },
        { path: 'pair', name: 'pair', component: () => import('./read/Pair.vue') },
        { path: 'extract', name: 'extract', component: () => import('./read/Extract.vue') },
        { path: 'search', name: 'search', component: () => import('./read/Search.vue') },
        { path: 'history', name: 'history', component: () => import('./history/Log.vue') },
        { path: 'history/story', name: 'story', component: () => import('./history/Story.vue') },
        { path: 'history/compare', name: 'compare', component: () => import('./history/Compare.vue') },
        { path: 'history/hotspots', name: 'hotspots', component: () => import('./history/Hotspots.vue') },
        { path: 'history/who', name: 'who', component: () => import('./history/Who.vue') },
        { path: 'commit/:commit', name: 'commit', component: () => import('./history/Commit.vue') },
        { path: 'leads', name: 'leads', component: () => import('./leads/Leads.vue') },
        { path: 'leads/tagged', name: 'tagged', component: () => import('./leads/Tagged.vue') },
        { path: 'notes', name: 'notes', component: () => import('./notes/Notes.vue') },
        { path: 'plans', name: 'plans', component: () => import('./plans/Plans.vue') },
        { path: 'plans/draft', name: 'draft-plan', component: () => import('./plans/Drafting.vue') },
        { path: 'plans/:plan(\\d+)', name: 'guide', component: () => import('./plans/Guide.vue') },
        { path: 'plans/:plan(\\d+)/print', name: 'print-plan', component: () => import('./plans/Print.vue') },
        { path: 'plans/:plan(\\d+)/compose', name: 'compose', component: () => import('./plans/Composer.vue') },
        { path: 'settings', name: 'settings', component: () => import('./shelf/Settings.vue') },
      ],
    },
    { path: '/:rest(.*)*', name: 'nowhere', component: () => import('./frame/Nowhere.vue') },
  ],
})

router.afterEach((to) => {
  if (!to.params.repository) document.title = titleOf(titles[String(to.name)] ?? '')
})
