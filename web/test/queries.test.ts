import { flushPromises } from '@vue/test-utils'
import { describe, expect, it } from 'vitest'
import LibraryPage from '../src/queries/LibraryPage.vue'
import QuerySentence from '../src/queries/QuerySentence.vue'
import { makeEditor } from '../src/queries/editor.ts'
import { openDefects as query } from './answers.ts'
import { serve, show, vocabulary } from './page.ts'

describe('the library of queries', () => {
  it('tells what each asks as a sentence, and marks one that no longer makes sense', async () => {
    serve({
      'GET /queries': {
        body: {
          queries: [
            query,
            {
              ...query,
              id: 'qu_2',
              title: 'Lost',
              errors: [
                { from: 0, to: 0, message: 'This query names a status that is no longer defined.' },
              ],
            },
          ],
        },
      },
    })
    const wrapper = await show(LibraryPage)
    const rows = wrapper.findAll('tbody tr').map((row) => row.findAll('td')[1]!.text())
    expect(rows).toEqual([
      'Items of type Defect',
      'This query names a status that is no longer defined.',
    ])
    await wrapper.get('input').setValue('nobody asks this')
    expect(wrapper.text()).toContain('No query has “nobody asks this”')
  })

  it('reads a sentence a clause a line, with its values marked', async () => {
    const wrapper = await show(QuerySentence, {
      props: {
        lines: [...query.sentence, { depth: 1, lead: 'or', parts: [{ text: 'due is empty' }] }],
      },
    })
    expect(wrapper.findAll('li').map((line) => line.text())).toEqual([
      'Itemsof type Defect',
      'ordue is empty',
    ])
    expect(wrapper.findAll('.value').map((value) => value.text())).toEqual(['Defect'])
    expect(wrapper.findAll('li')[1]!.classes()).toContain('d1')
  })
})

describe('the text of a query', () => {
  it('tells what was typed, takes what is set, and marks errors in their place', async () => {
    const host = document.body.appendChild(document.createElement('div'))
    let typed = ''
    const editor = makeEditor(
      host,
      "status = 'Open'",
      vocabulary,
      'Everything.',
      (text) => {
        typed = text
      },
      () => undefined,
    )
    expect(host.querySelector('.cm-content')!.textContent).toBe("status = 'Open'")
    expect(host.querySelector('.cm-content')!.getAttribute('aria-label')).toBe('The query as text')
    const marked = [...host.querySelectorAll('.cm-line [class^=query-]')]
    expect(marked.map((entry) => [entry.className, entry.textContent])).toEqual([
      ['query-name', 'status'],
      ['query-sign', '='],
      ['query-value', "'Open'"],
    ])
    editor.set('tier = 1')
    expect(typed).toBe('tier = 1')
    editor.mark([{ from: 0, to: 4, message: 'There is no property “tire”.', nearest: 'tier' }])
    await flushPromises()
    expect(host.querySelector('.cm-lintRange-error')!.textContent).toBe('tier')
    editor.close()
    expect(host.textContent).toBe('')
  })
})
