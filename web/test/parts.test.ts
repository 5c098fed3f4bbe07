import { flushPromises } from '@vue/test-utils'
import { describe, expect, it, vi } from 'vitest'
import Column from 'primevue/column'
import Ledger from '../src/parts/Ledger.vue'
import DayPicker from '../src/parts/DayPicker.vue'
import FieldEditor from '../src/parts/FieldEditor.vue'
import ColumnChoice from '../src/parts/ColumnChoice.vue'
import KeepAs from '../src/parts/KeepAs.vue'
import TypeMark from '../src/parts/TypeMark.vue'
import ValueText from '../src/parts/ValueText.vue'
import {
  agoWords,
  counted,
  dayWords,
  initials,
  numberWords,
  secondsAgoWords,
} from '../src/parts/words.ts'
import { valueOf } from '../src/parts/valueOf.ts'
import Sheet from '../src/parts/Sheet.vue'
import { asksBefore } from '../src/parts/unsaved.ts'
import {
  choose,
  control,
  offeredBy,
  press,
  type Searchable,
  serve,
  show,
  vocabulary,
} from './page.ts'

const property = (handle: string) =>
  vocabulary.properties.find((property) => property.handle === handle)!

describe('words', () => {
  const now = new Date('2026-11-25T10:00:00Z')
  it.each([
    ['Tom Okafor', 'TO'],
    ['Ana Maria Brandt', 'AM'],
    ['Cher', 'C'],
    ['', ''],
  ])('the initials of %s are %s', (name, letters) => {
    expect(initials(name)).toBe(letters)
  })

  it.each([
    ['2026-11-25T08:00:00Z', 'today'],
    ['2026-11-24T08:00:00Z', 'yesterday'],
    ['2026-11-18T08:00:00Z', '7 days ago'],
    ['2026-06-01T08:00:00Z', '1 Jun'],
    ['2025-06-01T08:00:00Z', '1 Jun 2025'],
  ])('%s was %s', (text, words) => {
    expect(agoWords(text, now)).toBe(words)
  })

  it.each([
    [5, '5 s ago'],
    [59, '59 s ago'],
    [90, '2 min ago'],
    [3569, '59 min ago'],
    [2305 * 4, '3 h ago'],
  ])('what was counted %i seconds ago was counted %s', (seconds, words) => {
    expect(secondsAgoWords(seconds)).toBe(words)
  })

  it.each([
    ['2026-12-08', '8 Dec'],
    ['2027-01-25', '25 Jan 2027'],
  ])('the day %s is written %s', (text, words) => {
    expect(dayWords(text, now)).toBe(words)
  })

  it.each([
    [0, '0 items'],
    [1, '1 item'],
    [2501, '2,501 items'],
  ])('%i is counted as %s', (count, words) => {
    expect(counted(count, 'item')).toBe(words)
  })

  it('has at most two decimals', () => {
    expect(numberWords(8.456)).toBe('8.46')
  })
})

describe('a value', () => {
  it.each<[string, unknown, string]>([
    ['title', 'Ramp', 'Ramp'],
    ['status', { id: 'st_hand', title: 'In hand', mark: 'active' }, 'In hand, active'],
    ['priority', { id: 'pi_stop', title: 'Sailing stopped', mark: 1 }, '1Sailing stopped'],
    ['priority', { id: 'pi_x', title: 'On no ladder', mark: null }, '–On no ladder'],
    ['labels', [{ id: 'la_car', title: 'car deck', mark: 2, family: 'deck' }], 'deckcar deck'],
    ['due', '2026-12-08', '8 Dec'],
    ['on_hold', true, 'yes'],
    ['safe', false, 'no'],
    ['cost', 1234.5, '1,234.5'],
    [
      'crew',
      [
        { id: 'pe_tom', title: 'Tom Okafor' },
        { id: 'pe_ilse', title: 'Ilse Varga' },
      ],
      'Tom Okafor, Ilse Varga',
    ],
    ['link', 'https://marrowmere.example/c', 'marrowmere.example/c'],
    ['parent', { id: 'YARD/3', title: 'YARD/3' }, 'YARD/3'],
    ['left_tl_mend', 12.34, '12.3 h'],
    ['left_tl_mend', -3, 'past by 3 h'],
    ['assignee', null, ''],
    ['labels', [], ''],
  ])('of %s reads well', async (handle, value, text) => {
    expect((await show(ValueText, { props: { handle, value } })).text()).toBe(text)
  })

  it('a date gone by is told in russet while work is open, and not once it is settled', async () => {
    expect(
      (await show(ValueText, { props: { handle: 'due', value: '2026-11-01' } })).classes(),
    ).toContain('warn')
    expect(
      (await show(ValueText, { props: { handle: 'due', value: '2026-12-01' } })).classes(),
    ).not.toContain('warn')
    expect(
      (
        await show(ValueText, { props: { handle: 'due', value: '2026-11-01', settled: true } })
      ).classes(),
    ).not.toContain('warn')
  })

  it('a web address leads away without telling from where', async () => {
    const link = (
      await show(ValueText, { props: { handle: 'link', value: 'https://marrowmere.example/c' } })
    ).get('a')
    expect(link.attributes()).toMatchObject({
      href: 'https://marrowmere.example/c',
      rel: 'noreferrer noopener',
    })
  })

  it('a type has as many lines under its letters as its tier', async () => {
    const mark = await show(TypeMark, { props: { mark: 'Wp3', title: 'Work package' } })
    expect([mark.text(), mark.findAll('i b').length, mark.attributes('aria-label')]).toEqual([
      'Wp',
      3,
      'Work package',
    ])
  })

  it('is found wherever an item carries it', () => {
    const item = {
      ref: 'YARD/1',
      title: 'x',
      type: { id: '', title: '' },
      on_hold: false,
      fields: { cost: 3 },
    }
    expect([valueOf(item, 'title'), valueOf(item, 'cost'), valueOf(item, 'due')]).toEqual([
      'x',
      3,
      undefined,
    ])
  })
})

describe('the editor of a value', () => {
  const edited = async (
    handle: string,
    value: unknown,
    act: (wrapper: Awaited<ReturnType<typeof show>>) => Promise<unknown>,
  ): Promise<unknown> => {
    const wrapper = await show(FieldEditor, { props: { property: property(handle), value } })
    await act(wrapper)
    return wrapper.emitted('change')?.at(-1)?.[0]
  }

  it('offers the values of a choice, and the empty one where it may be empty', async () => {
    const wrapper = await show(FieldEditor, {
      props: { property: property('assignee'), value: { id: 'pe_ilse', title: 'Ilse Varga' } },
    })
    expect(wrapper.get('[role=combobox]').text()).toBe('Ilse Varga')
    expect(await offeredBy(wrapper, 'Assignee')).toEqual(['–', 'Tom Okafor', 'Ilse Varga'])
    const status = await show(FieldEditor, { props: { property: property('status'), value: null } })
    expect(await offeredBy(status, 'Status')).toEqual(['Open', 'In hand', 'Signed off'])
  })

  it.each<[string, string, string, (string | undefined)[]]>([
    ['status', 'Status', '.status', ['status idle', 'status active', 'status done']],
    ['priority', 'Priority', '.priority b', ['1', '2']],
    ['assignee', 'Assignee', '.initials', ['TO', 'IV']],
  ])('draws the marks of %s beside its words', async (handle, label, mark, expected) => {
    const wrapper = await show(FieldEditor, { props: { property: property(handle), value: null } })
    await offeredBy(wrapper, label)
    const marks = wrapper.findAll(`[role=option] ${mark}`)
    expect(marks.map((mark) => mark.attributes('data-shown') ?? mark.classes().join(' '))).toEqual(
      expected,
    )
  })

  it.each<[string, unknown, string, unknown]>([
    ['assignee', null, 'Tom Okafor', 'pe_tom'],
    ['assignee', { id: 'pe_tom', title: 'Tom' }, '–', null],
    ['safe', null, 'yes', true],
    ['safe', true, '–', null],
  ])('gives %s as the API takes it', async (handle, value, chosen, expected) => {
    expect(
      await edited(
        handle,
        value,
        async (wrapper) => await choose(wrapper, property(handle).title, chosen),
      ),
    ).toBe(expected)
  })

  it.each([
    [null, 'yard/12', 'YARD/12'],
    [{ id: 'YARD/9', title: 'YARD/9' }, '', null],
  ])('gives a parent %j written as “%s”', async (held, written, expected) => {
    serve({ 'POST /items/search': { body: { items: [], total: 0, cannotTell: 0, next: null } } })
    const emitted = await edited('parent', held, async (wrapper) => {
      const box = control(wrapper, 'Parent')
      await box.setValue(written)
      await box.trigger('blur')
    })
    expect(emitted).toBe(expected)
  })

  it.each<[string, unknown, string, unknown]>([
    ['cost', 3, '2,5', '2.5'],
    ['cost', 3, '', null],
    ['title', 'a', 'b', 'b'],
  ])('gives %s written as text', async (handle, value, written, expected) => {
    expect(
      await edited(handle, value, async (wrapper) => {
        const input = wrapper.get('input')
        ;(input.element as HTMLInputElement).value = written
        await input.trigger('change')
      }),
    ).toBe(expected)
  })

  it('takes a day as one writes it, whatever the zone of the browser', async () => {
    const wrapper = await show(FieldEditor, { props: { property: property('due'), value: null } })
    const input = wrapper.get('input')
    await input.setValue('1 Dec 2026')
    await input.trigger('blur')
    expect(wrapper.emitted('change')?.at(-1)?.[0]).toBe('2026-12-01')
  })

  it('adds to several and takes away', async () => {
    const value = [{ id: 'la_wet', title: 'wet' }]
    const take = async (words: string): Promise<unknown> =>
      await edited('labels', value, async (wrapper) => await choose(wrapper, 'Labels', words))
    expect(await take('deckcar deck')).toEqual(['la_wet', 'la_car'])
    expect(await take('wet')).toEqual([])
  })

  it('has a name for every kind of control', async () => {
    for (const handle of ['assignee', 'safe', 'cost', 'due', 'trial', 'title', 'labels']) {
      const wrapper = await show(FieldEditor, {
        props: { property: property(handle), value: null },
      })
      expect(wrapper.html(), handle).toContain(`aria-label="${property(handle).title}`)
    }
  })
})

describe('the choice of columns', () => {
  it('adds, moves and takes away, and never leaves none', async () => {
    const wrapper = await show(ColumnChoice, { props: { modelValue: ['ref', 'title'] } })
    const last = (): unknown => wrapper.emitted('update:modelValue')?.at(-1)?.[0]
    await wrapper.get('button').trigger('click')
    await flushPromises()
    await wrapper.get('button[aria-label="Ref further to the right"]').trigger('click')
    expect(last()).toEqual(['title', 'ref'])
    await wrapper.get('button[aria-label="Take Title away"]').trigger('click')
    expect(last()).toEqual(['ref'])
    await wrapper.get('input').setValue('cost')
    expect(wrapper.findAll('ul button').map((button) => button.text())).toEqual(['Cost of parts'])
    await wrapper.get('ul button').trigger('click')
    expect(last()).toEqual(['ref', 'cost'])
    await wrapper.setProps({ modelValue: ['ref'] })
    expect(wrapper.get('button[aria-label="Take Ref away"]').attributes('disabled')).toBeDefined()
  })
})

describe('keeping something', () => {
  it('gives title, description and sharing, and says why it was refused', async () => {
    const kept: unknown[] = []
    const keep = (given: unknown): Promise<void> => {
      kept.push(given)
      return Promise.reject(new Error('This view would be blank for others.'))
    }
    const wrapper = await show(KeepAs, {
      props: { what: 'view', title: '', description: '', shared: 'me', keep },
    })
    await wrapper.get('input[type=text]').setValue('Mondays')
    await wrapper.get('input[value=everyone]').setValue()
    await wrapper.get('form').trigger('submit')
    await flushPromises()
    expect(kept).toEqual([{ title: 'Mondays', description: '', shared: 'everyone' }])
    expect(wrapper.get('[role=alert]').text()).toBe('This view would be blank for others.')
  })
})

describe('calling the API', () => {
  it('tells the server’s words, counts what is under way, and says so when nobody answers', async () => {
    const { call, ApiProblem } = await import('../src/api/http.ts')
    serve({
      'GET /items': {
        status: 400,
        body: {
          detail: 'There is no property “x”.',
          errors: [{ pointer: '/filter', message: 'm' }],
          allowed: [1],
        },
      },
    })
    const refused = await call('GET /items').catch((error: unknown) => error)
    expect(refused).toBeInstanceOf(ApiProblem)
    expect(refused).toMatchObject({
      status: 400,
      message: 'There is no property “x”.',
      errors: [{ pointer: '/filter' }],
      more: { allowed: [1] },
    })
    expect(document.documentElement.dataset['requests']).toBe('0')
    vi.stubGlobal('fetch', () => Promise.reject(new TypeError('refused')))
    await expect(call('GET /items')).rejects.toThrow(
      'Bluestem does not answer. Your work here is kept',
    )
  })
})

describe('what is written in a dialog', () => {
  const Form = {
    components: { Sheet },
    emits: ['close'],
    template: `<Sheet title="New" @close="$emit('close')"><input aria-label="Title" /><input type="search" aria-label="Narrow" /></Sheet>`,
  }
  const escape = async (): Promise<void> => {
    document.body.dispatchEvent(new KeyboardEvent('keydown', { key: 'Escape', bubbles: true }))
    await flushPromises()
  }
  const questions = (wrapper: Searchable): number => wrapper.findAll('[role=alert]').length

  it('is not left by Escape without a question, which Escape takes back', async () => {
    const wrapper = await show(Form)
    await control(wrapper, 'Narrow').setValue('a')
    await control(wrapper, 'Title').setValue('Half a sentence')
    await escape()
    expect([questions(wrapper), wrapper.emitted('close')]).toEqual([1, undefined])
    await escape()
    expect(questions(wrapper)).toBe(0)
    await escape()
    await press(wrapper, 'Go on writing')
    expect([questions(wrapper), wrapper.emitted('close')]).toEqual([0, undefined])
    await escape()
    await press(wrapper, 'Leave it')
    expect(wrapper.emitted('close')).toHaveLength(1)
  })

  it('asks nothing where only a list was narrowed', async () => {
    const wrapper = await show(Form)
    await control(wrapper, 'Narrow').setValue('a')
    await escape()
    expect([questions(wrapper), wrapper.emitted('close')?.length]).toEqual([0, 1])
  })

  it('holds whoever goes elsewhere, and lets them go on once it is left', async () => {
    const wrapper = await show(Form)
    const went = vi.fn()
    expect(asksBefore(went)).toBe(false)
    await control(wrapper, 'Title').setValue('Half a sentence')
    expect(asksBefore(went)).toBe(true)
    const reload = new Event('beforeunload', { cancelable: true })
    window.dispatchEvent(reload)
    expect([reload.defaultPrevented, went.mock.calls.length]).toEqual([true, 0])
    await flushPromises()
    await press(wrapper, 'Leave it')
    expect([went.mock.calls.length, asksBefore(went)]).toEqual([1, false])
  })
})

describe('a day', () => {
  const written = async (words: string, props: object = {}): Promise<unknown> => {
    const wrapper = await show(DayPicker, { props: { modelValue: null, label: 'Due', ...props } })
    const input = wrapper.get('input')
    input.element.value = words
    await input.trigger('blur')
    return wrapper.emitted('update:modelValue')?.at(-1)?.[0]
  }

  it.each([
    ['tomorrow', '2026-11-26'],
    ['+10 working days', '2026-12-09'],
    ['friday', '2026-11-27'],
  ])('may be written as %s', async (words, day) => {
    expect(await written(words)).toBe(day)
  })

  it('after the latest is not taken, nor words that name none', async () => {
    expect(await written('tomorrow', { latest: '2026-11-25' })).toBeUndefined()
    expect(await written('some day')).toBeUndefined()
  })
})

describe('a ledger of very many rows', () => {
  const rows_ = Array.from({ length: 450 }, (_, index) => ({ id: `pe_${index}` }))
  const Many = {
    components: { Ledger, Column },
    data: () => ({ rows: rows_, selected: undefined as string | undefined }),
    template: `<Ledger v-model:selected="selected" :rows="rows" label="People"><Column header="Name" field="id" /></Ledger>`,
  }

  it('makes the first, more when asked, and whatever the keys go to', async () => {
    const wrapper = await show(Many)
    const made = (): number => wrapper.findAll('tbody tr').length
    expect(made()).toBe(24)
    await press(wrapper, 'Show more: 426 rows of 450 are left')
    expect(made()).toBe(48)
    await wrapper.get('tbody tr').trigger('keydown', { key: 'End' })
    await flushPromises()
    expect([made(), document.activeElement?.textContent?.trim()]).toEqual([450, 'pe_449'])
    expect(wrapper.text()).not.toContain('Show more')
  })

  it('is ordered as a whole, not only what is made of it, and comes back to how it was', async () => {
    const wrapper = await show({
      ...Many,
      template: Many.template.replace('field="id"', 'field="id" sortable'),
    })
    const first = (): string => wrapper.get('tbody tr').text()
    const turn = async (): Promise<void> => {
      await wrapper.get('th[role=columnheader], th').trigger('click')
      await flushPromises()
    }
    await turn()
    expect(first()).toBe('pe_0')
    await turn()
    expect(first()).toBe('pe_449')
    await turn()
    expect(first()).toBe('pe_0')
  })
})
