import type { RouteRecordRaw } from 'vue-router'

/** The pages of this place, by their addresses. */
export const routes: readonly RouteRecordRaw[] = [
  { path: '/guide', redirect: '/guide/setting-up' },
  {
    path: '/guide/:page',
    component: async () => await import('./GuidePage.vue'),
  },
]
