import type { RouteRecordRaw } from 'vue-router'

/** The pages of this place, by their addresses. */
export const routes: readonly RouteRecordRaw[] = [
  {
    path: '/work',
    component: async () => await import('./ProjectsPage.vue'),
    meta: { place: 'work' },
  },
  {
    path: '/work/:code',
    component: async () => await import('./ProjectPage.vue'),
    meta: { place: 'work' },
  },
  {
    path: '/work/:code/:number(\\d+)',
    component: async () => await import('./ItemPage.vue'),
    meta: { place: 'work' },
  },
  {
    path: '/bin',
    component: async () => await import('./BinPage.vue'),
    meta: { place: 'work' },
  },
  {
    path: '/changes',
    component: async () => await import('./ChangesPage.vue'),
    meta: { place: 'work' },
  },
]
