import { createRouter, createWebHistory } from 'vue-router'
import { whenSignedOut } from '../api/http.ts'
import { asksBefore } from '../parts/unsaved.ts'
import { useSession } from './session.store.ts'

declare module 'vue-router' {
  interface RouteMeta {
    readonly open?: boolean
    readonly place?: string
    /** its chapters are turned to without being made anew */
    readonly isBook?: boolean
  }
}

/** Whether a navigation is one of the browser’s, Back or Forward; those of the pages come after what they saved. */
let isOfBrowser = false
// Before the router listens itself.
window.addEventListener('popstate', () => (isOfBrowser = true))

export const router = createRouter({
  history: createWebHistory(),
  routes: [
    { path: '/', component: async () => await import('./NothingHere.vue') },
    { path: '/sign-in', component: async () => await import('./SignIn.vue'), meta: { open: true } },
    {
      path: '/welcome',
      component: async () => await import('./Welcome.vue'),
      meta: { open: true },
    },
    { path: '/definitions', component: async () => await import('./NothingHere.vue') },
    {
      path: '/definitions/:chapter',
      component: async () => await import('../definitions/DefinitionsPage.vue'),
      meta: { place: 'definitions', isBook: true },
    },
    {
      path: '/work',
      component: async () => await import('../work/ProjectsPage.vue'),
      meta: { place: 'work' },
    },
    {
      path: '/work/:code',
      component: async () => await import('../work/ProjectPage.vue'),
      meta: { place: 'work' },
    },
    {
      path: '/work/:code/tree',
      component: async () => await import('../tree/TreePage.vue'),
      meta: { place: 'work' },
    },
    {
      path: '/work/:code/:number(\\d+)',
      component: async () => await import('../work/ItemPage.vue'),
      meta: { place: 'work' },
    },
    {
      path: '/iterations',
      component: async () => await import('../iterations/IterationsPage.vue'),
      meta: { place: 'work' },
    },
    {
      path: '/iterations/:id',
      component: async () => await import('../iterations/IterationPage.vue'),
      meta: { place: 'work' },
    },
    {
      path: '/releases',
      component: async () => await import('../releases/ReleasesPage.vue'),
      meta: { place: 'work' },
    },
    {
      path: '/releases/:id',
      component: async () => await import('../releases/ReleasePage.vue'),
      meta: { place: 'work' },
    },
    {
      path: '/jots',
      component: async () => await import('../jots/JotsPage.vue'),
      meta: { place: 'work' },
    },
    {
      path: '/notices',
      component: async () => await import('../notices/NoticesPage.vue'),
      meta: { place: 'work' },
    },
    {
      path: '/bin',
      component: async () => await import('../work/BinPage.vue'),
      meta: { place: 'work' },
    },
    {
      path: '/import',
      component: async () => await import('../exchange/ImportPage.vue'),
      meta: { place: 'work' },
    },
    {
      path: '/changes',
      component: async () => await import('../work/ChangesPage.vue'),
      meta: { place: 'work' },
    },
    {
      path: '/queries',
      component: async () => await import('../queries/LibraryPage.vue'),
      meta: { place: 'queries' },
    },
    {
      path: '/queries/:id',
      component: async () => await import('../queries/QueryPage.vue'),
      meta: { place: 'queries' },
    },
    {
      path: '/views',
      component: async () => await import('../views/LibraryPage.vue'),
      meta: { place: 'views' },
    },
    {
      path: '/views/:id',
      component: async () => await import('../views/ViewPage.vue'),
      meta: { place: 'views' },
    },
    {
      path: '/dashboards',
      component: async () => await import('../dashboards/LibraryPage.vue'),
      meta: { place: 'dashboards' },
    },
    {
      path: '/dashboards/measures',
      component: async () => await import('../dashboards/MeasuresPage.vue'),
      meta: { place: 'dashboards' },
    },
    {
      path: '/dashboards/:id',
      component: async () => await import('../dashboards/DashboardPage.vue'),
      meta: { place: 'dashboards' },
    },
    {
      path: '/consistency',
      component: async () => await import('../consistency/ConsistencyPage.vue'),
      meta: { place: 'consistency' },
    },
    {
      path: '/consistency/jobs',
      component: async () => await import('../consistency/JobsPage.vue'),
      meta: { place: 'consistency' },
    },
    { path: '/guide', redirect: '/guide/setting-up' },
    {
      path: '/guide/:page',
      component: async () => await import('../guide/GuidePage.vue'),
    },
    { path: '/:rest(.*)*', component: async () => await import('./NothingHere.vue') },
  ],
})

/** Where the places begin that have no page of their own: whoever sets up an empty workspace begins with the steps of that. */
const begins: Readonly<Record<string, (isSettingUp: boolean) => string>> = {
  '/': (isSettingUp) => (isSettingUp ? '/definitions/start' : '/dashboards'),
  '/definitions': (isSettingUp) => (isSettingUp ? '/definitions/start' : '/definitions/fields'),
}

router.beforeEach(async (to, from) => {
  const mayLose = isOfBrowser && to.path !== from.path
  isOfBrowser = false
  if (mayLose && asksBefore(() => void router.push(to))) return false
  const session = useSession()
  if (to.meta.open) return true
  if (!session.session && !(await session.load()))
    return { path: '/sign-in', query: { next: to.fullPath } }
  return begins[to.path]?.(session.isSettingUp) ?? true
})

whenSignedOut(
  () => void router.push({ path: '/sign-in', query: { next: router.currentRoute.value.fullPath } }),
)
