import { flushPromises } from '@vue/test-utils'
import { describe, expect, it } from 'vitest'
import GuidePage from '../src/guide/GuidePage.vue'
import { pages } from '../src/guide/pages.ts'
import { readPage } from '../src/guide/readPage.ts'
import { elementsOf } from '../src/parts/elements.ts'
import Explained from '../src/parts/Explained.vue'
import { meanings } from '../src/parts/meanings.ts'
import { show } from './page.ts'

describe('the guide', () => {
  it.each(pages.map((page) => [page.key, page] as const))(
    '%s is written and leads only to what there is',
    (_, page) => {
      const tokens = readPage(page.text)
      expect(page.title).not.toBe(page.key)
      expect(tokens[0]!.tag).toBe('h1')
      const links = tokens.flatMap(({ children }) => children ?? [])
      for (const link of links.filter(({ type }) => type === 'link_open'))
        expect([null, ...pages.map((page) => `/guide/${page.key}`)]).toContain(link.attrGet('href'))
    },
  )

  it('takes no HTML and no script of a page', async () => {
    const text = '<img src=x onerror=alert(1)> [a](javascript:alert(1))'
    const Read = (): ReturnType<typeof elementsOf> => elementsOf(readPage(text))
    const wrapper = await show({ render: Read })
    expect(wrapper.text()).toBe(text)
    expect(wrapper.find('img, a').exists()).toBe(false)
  })

  it('goes from page to page without leaving the application', async () => {
    const wrapper = await show(GuidePage)
    expect(wrapper.get('h1').text()).toBe('Setting up a workspace')
    await wrapper.get('article a[href="/guide/changing-what-others-share"]').trigger('click')
    await flushPromises()
    expect(wrapper.router.currentRoute.value.path).toBe('/guide/changing-what-others-share')
  })
})

describe('words that are explained', () => {
  it('open what they mean, in the form in which they stand', async () => {
    const wrapper = await show(Explained, {
      props: { text: 'Some *phases|phase*, a *queue*, and *nothing* else.' },
    })
    expect(wrapper.text().replaceAll(/\s+/g, ' ')).toBe('Some phases, a queue, and nothing else.')
    const words = wrapper.findAll('button')
    expect(words.map((word) => word.attributes('aria-label'))).toEqual([
      'What phase means',
      'What queue means',
    ])
    await words[0]!.trigger('click')
    await flushPromises()
    expect(document.body.textContent).toContain(meanings.phase)
    expect(words[0]!.attributes('aria-expanded')).toBe('true')
  })
})
