import type { RouteRecordRaw } from 'vue-router'

/** The pages of this place, by their addresses. */
export const routes: readonly RouteRecordRaw[] = [
  {
    path: '/definitions/:chapter',
    component: async () => await import('./DefinitionsPage.vue'),
    meta: { place: 'definitions', isBook: true },
  },
]
