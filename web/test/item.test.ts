import { offeredType, offers, aDefect as item } from './answers.ts'
import type { OfferedType } from '@bluestem/core/projects'
import { describe, expect, it } from 'vitest'
import { isShown } from '@bluestem/core/work'
import { heldIds } from '../src/parts/heldIds.ts'
import HistoryWords from '../src/parts/HistoryWords.vue'
import HoldLine from '../src/work/HoldLine.vue'
import ItemClocks from '../src/work/ItemClocks.vue'
import FieldEditor from '../src/parts/FieldEditor.vue'
import ItemFields from '../src/work/ItemFields.vue'
import { show, choose } from './page.ts'

describe('the fields of an item', () => {
  it('stand as the form of the type has them, in its sections', async () => {
    const wrapper = await show(ItemFields, {
      props: { item, type: offeredType, priorities: offers.priorities },
    })
    expect(wrapper.findAll('dt').map((dt) => dt.text())).toEqual([
      'Priority',
      'Due',
      'Labels',
      'Cost of parts',
    ])
    expect(wrapper.findAll('h2').map((heading) => heading.text())).toEqual(['Particulars'])
    expect(wrapper.findAll('dd').map((dd) => dd.text())).toEqual([
      '2When convenient',
      '–',
      'wet',
      '12',
    ])
  })

  it('are edited in their place, and tell how to undo', async () => {
    const wrapper = await show(ItemFields, {
      props: { item, type: offeredType, priorities: offers.priorities },
    })
    await wrapper.get('button[aria-label="Change Priority"]').trigger('click')
    await choose(wrapper, 'Priority', 'Sailing stopped')
    expect(wrapper.emitted('change')?.[0]).toEqual([
      { priority: 'pi_stop' },
      { priority: 'pi_late' },
    ])
    await wrapper.get('button[aria-label="Change Cost of parts"]').trigger('click')
    const input = wrapper.get('input')
    ;(input.element as HTMLInputElement).value = '9'
    await input.trigger('change')
    expect(wrapper.emitted('change')?.[1]).toEqual([
      { fields: { cost: '9' } },
      { fields: { cost: 12 } },
    ])
  })

  it('of several values stay open, and count one’s own change as seen, in whatever order it comes back', async () => {
    const props = { item, type: offeredType, priorities: offers.priorities }
    const wrapper = await show(ItemFields, { props })
    await wrapper.get('button[aria-label="Change Labels"]').trigger('click')
    const editor = wrapper.getComponent(FieldEditor)
    editor.vm.$emit('change', ['la_wet', 'la_car'])
    const labels = [
      { id: 'la_car', title: 'car deck', mark: 2 },
      { id: 'la_wet', title: 'wet', mark: 3 },
    ]
    await wrapper.setProps({ ...props, item: { ...item, labels } })
    expect(editor.props('value')).toEqual(labels)
    editor.vm.$emit('change', ['la_car'])
    expect(wrapper.emitted('change')?.[1]).toEqual([
      { labels: ['la_car'] },
      { labels: ['la_car', 'la_wet'] },
    ])
  })

  it('offer a viewer nothing to change', async () => {
    const wrapper = await show(ItemFields, {
      props: { item, type: offeredType, priorities: offers.priorities },
      role: 'viewer',
    })
    expect(wrapper.findAll('button')).toHaveLength(0)
  })
})

describe('an item that is stuck', () => {
  it('says why, and can be taken off hold', async () => {
    const held = {
      ...item,
      on_hold: true,
      hold_reason: 'no calm day',
      holdSince: '2026-11-13T08:00:00Z',
    }
    const wrapper = await show(HoldLine, { props: { item: held } })
    expect(wrapper.text()).toMatch(/On hold since 13 Nov: no calm day\.\s+Take off hold/)
    await wrapper.get('button').trigger('click')
    expect(wrapper.emitted('change')?.[0]).toEqual([
      { on_hold: false },
      { on_hold: true, hold_reason: 'no calm day' },
    ])
  })

  it('is put on hold with a reason', async () => {
    const wrapper = await show(HoldLine, { props: { item } })
    await wrapper.get('button').trigger('click')
    await wrapper.get('input').setValue('breaker on order')
    await wrapper.get('form').trigger('submit')
    expect(wrapper.emitted('change')?.[0]).toEqual([
      { on_hold: true, hold_reason: 'breaker on order' },
      { on_hold: false },
    ])
  })
})

describe('history', () => {
  it('reads as a sentence, with values in italics', async () => {
    const version = {
      from: '',
      to: null,
      by: { kind: 'person', id: '', title: 'Ilse Varga' },
      words: [
        [{ text: 'moved it from ' }, { text: 'Open', value: true as const }],
        [{ text: 'said something' }],
      ],
    }
    const wrapper = await show(HistoryWords, { props: { version } })
    expect(wrapper.text()).toBe('Ilse Varga moved it from Open; said something')
    expect(wrapper.findAll('em').map((em) => em.text())).toEqual(['Open'])
  })

  it('says that something changed where no words tell what', async () => {
    const version = {
      from: '',
      to: null,
      by: { kind: 'edition', id: '4', title: 'Edition 4' },
      words: [],
    }
    expect((await show(HistoryWords, { props: { version } })).text()).toBe('Edition 4 changed it')
  })
})

describe('the clocks of an item', () => {
  it.each<[string, boolean, string, string | null, string]>([
    ['running', false, 'runs', '2026-11-26T12:30:00Z', 'quiet'],
    ['running', true, 'runs', '2026-11-26T12:30:00Z', 'warn'],
    ['standing still', false, 'stands still', null, 'quiet'],
    ['passed', true, 'has passed', null, 'warn'],
    ['met', false, 'kept', null, 'well'],
    ['missed', false, 'was not kept', null, 'warn'],
    ['not begun', false, 'has not begun', null, 'quiet'],
  ])('%s (warning: %s) is told in words', async (state, warning, words, runsOut, tone) => {
    const wrapper = await show(ItemClocks, {
      props: {
        item: {
          ...item,
          limits: [
            {
              id: 'tl_1',
              title: 'Answer it',
              state,
              allowed: 240,
              used: 90,
              warning,
              runsOut,
              calendar: 'Yard shifts',
              team: 'Dive team',
            },
          ],
        },
      },
    })
    expect(wrapper.text()).toContain(`Answer it ${words}, 1.5 h of 4 h used`)
    expect(wrapper.findAll('li > span')[1]!.classes()).toContain(tone)
    expect(wrapper.text()).toContain('counted in Yard shifts, the calendar of Dive team')
    expect(wrapper.text().includes('runs out')).toBe(runsOut !== null)
  })

  it('take no room where there are none', async () => {
    expect((await show(ItemClocks, { props: { item } })).find('ul').exists()).toBe(false)
  })
})

describe('a field that waits for another', () => {
  it.each<[string, unknown, boolean]>([
    ['a choice', { id: 'op_a', title: 'A' }, true],
    ['another choice', { id: 'op_b', title: 'B' }, false],
    ['one of several', [{ id: 'op_b' }, { id: 'op_a' }], true],
    ['nothing', null, false],
    ['an identity', 'op_a', true],
    ['yes', true, true],
    ['no', false, false],
  ])('is shown by %s', (_, held, expected) => {
    expect(isShown({ field: 'fi_1', values: ['op_a', true] }, () => heldIds(held))).toBe(expected)
  })

  it('is shown on an item only then, and a computed one is only read', async () => {
    const waiting: OfferedType = {
      ...offeredType,
      item: [
        { field: 'priority', handle: 'priority', section: '', required: true },
        {
          field: 'fi_cost',
          handle: 'cost',
          section: '',
          required: false,
          shownWhen: { field: 'priority', values: ['pi_stop'] },
        },
      ],
    }
    const titles = async (priority: object) =>
      (
        await show(ItemFields, {
          props: { item: { ...item, priority }, type: waiting, priorities: offers.priorities },
        })
      )
        .findAll('dt')
        .map((dt) => dt.text())
    expect(await titles({ id: 'pi_late', title: 'When convenient' })).toEqual(['Priority*'])
    expect(await titles({ id: 'pi_stop', title: 'Sailing stopped' })).toEqual([
      'Priority*',
      'Cost of parts',
    ])
  })
})
