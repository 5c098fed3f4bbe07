import type { NoticesAnswer } from '@bluestem/core/notices'
import { defineStore } from 'pinia'
import { ref } from 'vue'
import { call } from '../api/http.ts'

/** What others changed of what one follows or has. */
export const useNotices = defineStore('notices', () => {
  const news = ref<NoticesAnswer>()
  const count = ref(0)

  async function recount(): Promise<void> {
    count.value = (await call('GET /notices/count')).count
  }
  async function load(): Promise<void> {
    news.value = await call('GET /notices')
    count.value = news.value.total
  }
  /** Remembers that one looked at items; without refs, at everything that is new. */
  async function look(refs?: readonly string[]): Promise<void> {
    await call('POST /notices/looked', { body: refs ? { refs: [...refs] } : {} })
    await load()
  }
  return { news, count, recount, load, look }
})
