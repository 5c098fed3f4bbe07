import type { RouteRecordRaw } from 'vue-router'

/** The pages of this place, by their addresses. */
export const routes: readonly RouteRecordRaw[] = [
  {
    path: '/consistency',
    component: async () => await import('./ConsistencyPage.vue'),
    meta: { place: 'consistency' },
  },
  {
    path: '/consistency/jobs',
    component: async () => await import('./JobsPage.vue'),
    meta: { place: 'consistency' },
  },
]
