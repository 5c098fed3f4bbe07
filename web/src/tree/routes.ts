import type { RouteRecordRaw } from 'vue-router'

/** The pages of this place, by their addresses. */
export const routes: readonly RouteRecordRaw[] = [
  {
    path: '/work/:code/tree',
    component: async () => await import('./TreePage.vue'),
    meta: { place: 'work' },
  },
]
