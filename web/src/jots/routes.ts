import type { RouteRecordRaw } from 'vue-router'

/** The pages of this place, by their addresses. */
export const routes: readonly RouteRecordRaw[] = [
  {
    path: '/jots',
    component: async () => await import('./JotsPage.vue'),
    meta: { place: 'work' },
  },
]
