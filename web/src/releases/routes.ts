import type { RouteRecordRaw } from 'vue-router'

/** The pages of this place, by their addresses. */
export const routes: readonly RouteRecordRaw[] = [
  {
    path: '/releases',
    component: async () => await import('./ReleasesPage.vue'),
    meta: { place: 'work' },
  },
  {
    path: '/releases/:id',
    component: async () => await import('./ReleasePage.vue'),
    meta: { place: 'work' },
  },
]
