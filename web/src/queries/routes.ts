import type { RouteRecordRaw } from 'vue-router'

/** The pages of this place, by their addresses. */
export const routes: readonly RouteRecordRaw[] = [
  {
    path: '/queries',
    component: async () => await import('./LibraryPage.vue'),
    meta: { place: 'queries' },
  },
  {
    path: '/queries/:id',
    component: async () => await import('./QueryPage.vue'),
    meta: { place: 'queries' },
  },
]
