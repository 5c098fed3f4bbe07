import type { RouteRecordRaw } from 'vue-router'

/** The pages of this place, by their addresses. */
export const routes: readonly RouteRecordRaw[] = [
  {
    path: '/import',
    component: async () => await import('./ImportPage.vue'),
    meta: { place: 'work' },
  },
]
