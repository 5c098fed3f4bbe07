import type { RouteRecordRaw } from 'vue-router'

/** The pages of this place, by their addresses. */
export const routes: readonly RouteRecordRaw[] = [
  {
    path: '/views',
    component: async () => await import('./LibraryPage.vue'),
    meta: { place: 'views' },
  },
  {
    path: '/views/:id',
    component: async () => await import('./ViewPage.vue'),
    meta: { place: 'views' },
  },
]
