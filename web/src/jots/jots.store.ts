import type { FileJots, JotAnswer } from '@bluestem/core/jots'
import { defineStore } from 'pinia'
import { computed, ref } from 'vue'
import { call } from '../api/http.ts'

/** What one jotted and did not file yet. */
export const useJots = defineStore('jots', () => {
  const jots = ref<readonly JotAnswer[]>()
  const count = computed(() => jots.value?.length ?? 0)

  async function load(): Promise<void> {
    jots.value = (await call('GET /jots')).jots
  }
  async function keep(text: string): Promise<readonly JotAnswer[]> {
    const { jots: kept } = await call('POST /jots', { body: { text } })
    jots.value = [...(jots.value ?? []), ...kept]
    return kept
  }
  async function rename(id: string, title: string): Promise<void> {
    const renamed = await call('PATCH /jots/{id}', { params: { id }, body: { title } })
    jots.value = jots.value?.map((jot) => (jot.id === id ? renamed : jot))
  }
  async function drop(ids: readonly string[]): Promise<void> {
    for (const id of ids) await call('DELETE /jots/{id}', { params: { id } })
    await load()
  }
  async function file(body: FileJots): Promise<readonly string[]> {
    const { refs } = await call('POST /jots/file', { body })
    await load()
    return refs
  }
  return { jots, count, load, keep, rename, drop, file }
})
