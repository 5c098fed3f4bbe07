import { flushPromises } from '@vue/test-utils'
import naughty from 'big-list-of-naughty-strings/blns.json' with { type: 'json' }
import { describe, expect, it } from 'vitest'
import type { CommentAnswer } from '@bluestem/core/work'
import { namingAt, withName } from '../src/parts/naming.ts'
import Prose from '../src/parts/Prose.vue'
import ProseEditor from '../src/parts/ProseEditor.vue'
import ItemComments from '../src/work/ItemComments.vue'
import { control, press, serve, show } from './page.ts'

const tom = { kind: 'person', id: 'pe_tom', title: 'Tom Okafor' }
const comment = (parts: Partial<CommentAnswer> = {}): CommentAnswer => ({
  id: 1,
  body: 'Seen it.',
  at: '2026-11-20T08:00:00Z',
  by: tom,
  earlier: [],
  takenBack: null,
  mayChange: false,
  mayTakeBack: false,
  ...parts,
})
const showComments = async (...comments: CommentAnswer[]) =>
  await show(ItemComments, { props: { itemRef: 'YARD/1', comments } })
const prose = async (text: string) => await show(Prose, { props: { text } })

describe('what somebody wrote', () => {
  it.each<[string, string]>([
    ['**calm** _water_ ~~now~~', '<p><strong>calm</strong> <em>water</em> <s>now</s></p>'],
    ['one\ntwo', '<p>one<br>two</p>'],
    ['- lift\n- lower', '<ul><li>lift</li><li>lower</li></ul>'],
    ['3. third', '<ol start="3"><li>third</li></ol>'],
    ['`x < 1`', '<p><code>x &lt; 1</code></p>'],
    ['a @Tom Okafor b', '<p>a <span class="named">@Tom Okafor</span> b</p>'],
    ['see YARD/128.', '<p>see <a href="/work/YARD/128" class="">YARD/128</a>.</p>'],
    ['[a YARD/1](/work/YARD/2)', '<p><a href="/work/YARD/2" class="">a YARD/1</a></p>'],
    ['`YARD/128`', '<p><code>YARD/128</code></p>'],
    ['PIER/3, pump.at 3 bar', '<p>PIER/3, pump.at 3 bar</p>'],
    [
      'https://lake.example/x',
      '<p><a href="https://lake.example/x" target="_blank" rel="noreferrer noopener">https://lake.example/x</a></p>',
    ],
    ['[x](javascript:alert(1))', '<p>[x](javascript:alert(1))</p>'],
    ['[x](//lake.example) [y](/api/v1)', '<p>[x](//lake.example) [y](/api/v1)</p>'],
    ['![x](https://lake.example/a.png)', null as never],
  ])('%s is read as Markdown', async (text, html) => {
    const wrapper = await prose(text)
    if (html !== null) expect(wrapper.get('.prose').element.innerHTML).toBe(html)
    expect(wrapper.find('img').exists()).toBe(false)
  })

  // The Big List of Naughty Strings 1.0.0 (MIT), a published list.
  it('runs nothing and breaks nothing, whatever it is', async () => {
    const harmless =
      'script, img, iframe, svg, style, object, embed, form, input, video, audio, math'
    for (const text of naughty) {
      const wrapper = await prose(text)
      expect(wrapper.find(harmless).exists(), text).toBe(false)
      for (const { element } of wrapper.findAll('*'))
        for (const { name, value } of element.attributes) {
          expect(name, text).not.toMatch(/^(on|style|src)/)
          if (name === 'href') expect(value, text).toMatch(/^(https?:|mailto:|\/work\/)/i)
        }
      wrapper.unmount()
    }
  })
})

describe('naming somebody', () => {
  it.each<[string, string | undefined]>([
    ['@', ''],
    ['ask @to', 'to'],
    ['(@Tom O', 'Tom O'],
    ['mail tom@lake', undefined],
    ['@Tom, and', undefined],
    ['nobody', undefined],
  ])('after %s', (text, words) => {
    expect(namingAt(text, text.length)?.words).toBe(words)
  })

  it('puts the whole name where it was begun', () => {
    const naming = namingAt('ask @to today', 7)!
    expect(withName('ask @to today', naming, 'Tom Okafor')).toEqual({
      text: 'ask @Tom Okafor today',
      caret: 16,
    })
  })

  it('is offered by keyboard while one writes', async () => {
    const wrapper = await show(ProseEditor, {
      props: {
        modelValue: '',
        label: 'Write a comment',
        'onUpdate:modelValue': (text: string) => void wrapper.setProps({ modelValue: text }),
      },
    })
    const field = wrapper.get('textarea')
    await field.setValue('Thanks @okafor')
    field.element.setSelectionRange(14, 14)
    await field.trigger('input')
    expect(wrapper.findAll('[role=option]').map((node) => node.text())).toEqual(['Tom Okafor'])
    expect(field.attributes('aria-activedescendant')).toBe(
      wrapper.get('[role=option]').attributes('id'),
    )
    await field.trigger('keydown', { key: 'Enter' })
    await flushPromises()
    expect(wrapper.emitted('update:modelValue')?.at(-1)).toEqual(['Thanks @Tom Okafor '])
    await press(wrapper, 'see what it becomes')
    expect(wrapper.get('.named').text()).toBe('@Tom Okafor')
    await field.trigger('keydown', { key: 'Enter', ctrlKey: true })
    expect(wrapper.emitted('send')).toHaveLength(1)
  })
})

describe('comments', () => {
  it('take a new one; one half written is there again', async () => {
    const asked = serve({ 'POST /items/YARD/1/comments': { status: 201, body: { comments: [] } } })
    const before = await showComments()
    await before.get('textarea').setValue('Seen it.')
    before.unmount()
    const wrapper = await showComments()
    expect(wrapper.get('textarea').element.value).toBe('Seen it.')
    await wrapper.get('form').trigger('submit')
    await flushPromises()
    expect(asked).toMatchObject([{ method: 'POST', body: { body: 'Seen it.' } }])
    expect(wrapper.emitted('changed')).toHaveLength(1)
    expect(wrapper.get('textarea').element.value).toBe('')
    expect(localStorage.length).toBe(0)
  })

  it('are edited where they stand', async () => {
    const asked = serve({
      'PATCH /items/YARD/1/comments/1': { body: { comments: [comment({ body: 'Seen it!' })] } },
    })
    const wrapper = await showComments(comment({ mayChange: true, mayTakeBack: true }))
    await press(wrapper, 'edit')
    await control(wrapper, 'Edit the comment').setValue('Seen it!')
    await press(wrapper, 'Keep')
    expect(asked).toMatchObject([{ method: 'PATCH', body: { body: 'Seen it!' } }])
    expect(wrapper.emitted('changed')).toHaveLength(1)
  })

  it('show their earlier wordings, on demand', async () => {
    const wrapper = await showComments(
      comment({ earlier: [{ body: 'Sen it.', until: '2026-11-21T08:00:00Z' }] }),
    )
    expect(wrapper.text()).not.toContain('Sen it.')
    await press(wrapper, 'edited')
    expect(wrapper.text()).toContain('Sen it.')
  })

  it('are deleted, and a line stays', async () => {
    const asked = serve({ 'DELETE /items/YARD/1/comments/1': { status: 204 } })
    const wrapper = await showComments(comment({ mayChange: true, mayTakeBack: true }))
    await press(wrapper, 'delete')
    expect(asked).toHaveLength(1)
    const mara = { kind: 'person', id: 'pe_mara', title: 'Mara Thiel' }
    const at = '2026-11-21T08:00:00Z'
    const own = await showComments(comment({ body: '', takenBack: { at, by: tom } }))
    expect(own.text()).toContain('It was deleted on 21 Nov')
    const others = await showComments(comment({ body: '', takenBack: { at, by: mara } }))
    expect(others.text()).toContain('Mara Thiel deleted it on 21 Nov')
  })

  it('offer nothing where nothing may be done', async () => {
    const wrapper = await showComments(comment())
    expect(wrapper.find('button').exists()).toBe(false)
  })
})
