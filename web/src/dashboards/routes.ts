import type { RouteRecordRaw } from 'vue-router'

/** The pages of this place, by their addresses. */
export const routes: readonly RouteRecordRaw[] = [
  {
    path: '/dashboards',
    component: async () => await import('./LibraryPage.vue'),
    meta: { place: 'dashboards' },
  },
  {
    path: '/dashboards/measures',
    component: async () => await import('./MeasuresPage.vue'),
    meta: { place: 'dashboards' },
  },
  {
    path: '/dashboards/:id',
    component: async () => await import('./DashboardPage.vue'),
    meta: { place: 'dashboards' },
  },
]
