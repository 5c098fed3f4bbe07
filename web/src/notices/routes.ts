import type { RouteRecordRaw } from 'vue-router'

/** The pages of this place, by their addresses. */
export const routes: readonly RouteRecordRaw[] = [
  {
    path: '/notices',
    component: async () => await import('./NoticesPage.vue'),
    meta: { place: 'work' },
  },
]
