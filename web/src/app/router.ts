import { createRouter, createWebHistory } from 'vue-router'
import { whenSignedOut } from '../api/http.ts'
import { routes as definitions } from '../definitions/routes.ts'
import { routes as work } from '../work/routes.ts'
import { routes as tree } from '../tree/routes.ts'
import { routes as iterations } from '../iterations/routes.ts'
import { routes as releases } from '../releases/routes.ts'
import { routes as jots } from '../jots/routes.ts'
import { routes as notices } from '../notices/routes.ts'
import { routes as exchange } from '../exchange/routes.ts'
import { routes as queries } from '../queries/routes.ts'
import { routes as views } from '../views/routes.ts'
import { routes as dashboards } from '../dashboards/routes.ts'
import { routes as consistency } from '../consistency/routes.ts'
import { routes as guide } from '../guide/routes.ts'
import { asksBefore } from '../parts/unsaved.ts'
import { useSession } from '../session/session.store.ts'

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

const places = [
  ...definitions,
  ...work,
  ...tree,
  ...iterations,
  ...releases,
  ...jots,
  ...notices,
  ...exchange,
  ...queries,
  ...views,
  ...dashboards,
  ...consistency,
  ...guide,
]

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
    ...places,
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
