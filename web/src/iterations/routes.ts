import type { RouteRecordRaw } from 'vue-router'

/** The pages of this place, by their addresses. */
export const routes: readonly RouteRecordRaw[] = [
  {
    path: '/iterations',
    component: async () => await import('./IterationsPage.vue'),
    meta: { place: 'work' },
  },
  {
    path: '/iterations/:id',
    component: async () => await import('./IterationPage.vue'),
    meta: { place: 'work' },
  },
]
