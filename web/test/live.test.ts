// @vitest-environment happy-dom
import { flushPromises } from '@vue/test-utils'
import { beforeEach, describe, expect, it, vi } from 'vitest'
import { defineComponent, h, ref } from 'vue'
import { whenChanged } from '../src/api/whenChanged.ts'
import ItemTable from '../src/parts/ItemTable.vue'
import { serve, show, SpokenStream, vocabulary } from './page.ts'

beforeEach(() => {
  vi.stubGlobal('EventSource', SpokenStream)
  vi.useFakeTimers({ toFake: ['setTimeout', 'clearTimeout'] })
})

describe('a page that others change', () => {
  /** A page that counts how often it asks anew. */
  async function listening(): Promise<{
    readonly asked: () => number
    readonly leave: () => void
  }> {
    const asked = ref(0)
    const page = defineComponent({
      setup: () => {
        whenChanged(() => (asked.value += 1))
        return () => h('p')
      },
    })
    const wrapper = await show(page)
    return { asked: () => asked.value, leave: () => wrapper.unmount() }
  }

  it('asks anew once for much that changes at once', async () => {
    const { asked, leave } = await listening()
    for (const number of [1, 2, 3]) SpokenStream.tell('item', `YARD/${number}`)
    await vi.advanceTimersByTimeAsync(999)
    expect(asked()).toBe(0)
    await vi.advanceTimersByTimeAsync(1)
    expect(asked()).toBe(1)
    SpokenStream.tell('item', 'YARD/4')
    await vi.advanceTimersByTimeAsync(1000)
    expect(asked()).toBe(2)
    leave()
  })

  it('reads what things are called before it asks, within two seconds of an edition', async () => {
    const requests = serve({ 'GET /vocabulary': { body: vocabulary } })
    const { asked, leave } = await listening()
    SpokenStream.tell('item', 'YARD/1')
    SpokenStream.tell('edition', '4')
    await vi.advanceTimersByTimeAsync(2000)
    expect(asked()).toBe(1)
    expect(requests.filter(({ path }) => path === '/vocabulary')).toHaveLength(1)
    leave()
  })

  it('hears nothing of drafts, and nothing any more when it is left', async () => {
    const { asked, leave } = await listening()
    SpokenStream.tell('draft', 'dr_1')
    await vi.advanceTimersByTimeAsync(2000)
    SpokenStream.tell('item', 'YARD/1')
    leave()
    await vi.advanceTimersByTimeAsync(2000)
    expect(asked()).toBe(0)
    expect(SpokenStream.last).toBeUndefined()
  })
})

describe('a list that is asked anew', () => {
  it('asks again for what is in sight, in its place', async () => {
    let total = 2
    const requests = serve({
      'POST /items/search': () => ({ body: { items: [], total, cannotTell: 0, next: null } }),
    })
    const wrapper = await show(ItemTable, {
      props: {
        label: 'Answers',
        segments: [{ key: 'all', filter: true }],
        columns: ['ref', 'title'],
        order: [],
      },
    })
    total = 3
    wrapper.findComponent(ItemTable).vm.refresh()
    await flushPromises()
    expect(requests).toHaveLength(2)
    expect(requests[1]!.body).toEqual(requests[0]!.body)
    expect(wrapper.emitted('answered')!.at(-1)).toMatchObject([{ total: 3 }])
    wrapper.unmount()
  })
})
