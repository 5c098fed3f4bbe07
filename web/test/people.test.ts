import { flushPromises } from '@vue/test-utils'
import { describe, expect, it, vi } from 'vitest'
import CalendarForm from '../src/definitions/calendars/CalendarForm.vue'
import CalendarsChapter from '../src/definitions/calendars/CalendarsChapter.vue'
import Welcome from '../src/app/Welcome.vue'
import DirectorySheet from '../src/definitions/people/DirectorySheet.vue'
import InvitationSheet from '../src/definitions/people/InvitationSheet.vue'
import PeopleChapter from '../src/definitions/people/PeopleChapter.vue'
import ProjectsChapter from '../src/definitions/projects/ProjectsChapter.vue'
import { editsIn, living, shown } from './defined.ts'
import { choose, control, press, rows, serve, show } from './page.ts'

describe('calendars', () => {
  it('stand with the working week in few words', async () => {
    const { wrapper } = await shown(CalendarsChapter)
    expect(rows(wrapper)).toEqual([
      [
        'Office hours wherever no other is named',
        'Mon–Tue 08:00–17:00Sat 09:00–12:00',
        '1',
        'Fleet Yard, Yard crew',
      ],
    ])
    expect(wrapper.text()).toContain('Clocks in Fleet Yard, Yard crew are worked out by it')
  })

  it('show their days off on a small year, which a change in the form shows at once', async () => {
    const [calendar] = living.calendars
    const { wrapper, asked } = await shown(
      CalendarForm,
      { props: { calendar } },
      { 'PATCH /calendars/ca_standard': { body: calendar } },
    )
    expect(wrapper.findAll('rect.off title').map((node) => node.text())).toEqual([
      '2026-12-25: Midwinter',
    ])
    await control(wrapper, 'every year').setValue(true)
    await control(wrapper, 'Midwinter: until').setValue('2026-12-28')
    await control(wrapper, 'Midwinter: until').trigger('blur')
    await flushPromises()
    expect(wrapper.get('figcaption').text()).toContain('4 days off')
    await wrapper.get('[aria-label="The year after"]').trigger('click')
    expect(wrapper.findAll('rect.off')).toHaveLength(4)
    await wrapper.get('[role=dialog] form').trigger('submit')
    await flushPromises()
    expect(asked.find((request) => request.method === 'PATCH')!.body).toMatchObject({
      daysOff: [{ day: '2026-12-25', until: '2026-12-28', yearly: true, title: 'Midwinter' }],
    })
  })
})

describe('people and teams', () => {
  it('stand with how they sign in, what they may do, and the teams they are in', async () => {
    const { wrapper } = await shown(PeopleChapter)
    expect(rows(wrapper)).toEqual([
      ['Tom Okafor', 'tom.okafor@marrowmere.example', 'member', 'Yard crew'],
      ['Jon Wray', 'jon@x.example', 'may not sign in', '–'],
    ])
    await press(wrapper, '1 team')
    expect(rows(wrapper)).toEqual([['Yard crew', 'Items of type Defect', 'Office hours', '1']])
  })

  it('hand over the open work of somebody in one act, told before what it does', async () => {
    const bulk = {
      id: 'bk_1',
      words: [],
      by: 'Tom Okafor',
      at: '2026-11-25T10:00:00Z',
      undoes: null,
      state: 'done' as const,
      total: 7,
      done: 7,
      changed: 7,
      same: 0,
      refused: [],
      takenBack: 0,
      undoable: true,
    }
    const { wrapper, asked } = await shown(
      PeopleChapter,
      {},
      {
        'POST /items/bulk/preview': {
          body: { words: [], total: 7, changed: 7, same: 0, refused: [], besides: [] },
        },
        'POST /items/bulk': { status: 202, body: bulk },
      },
    )
    await wrapper.findAll('tbody tr')[1]!.trigger('click')
    await press(wrapper, 'Hand over …')
    expect(wrapper.get('[role=dialog]').text()).toContain('Jon Wray')
    await choose(wrapper, 'To', 'Tom Okafor')
    await vi.waitFor(() => expect(wrapper.text()).toContain('7 items change'))
    await press(wrapper, 'Hand over')
    await flushPromises()
    const carried = asked.find(({ path }) => path === '/items/bulk')!.body
    expect(carried).toMatchObject({ change: { set: { assignee: 'pe_tom' } }, total: 7 })
    expect(JSON.stringify(carried)).toContain('"phase"},["idle","active"]')
    expect(wrapper.find('[role=dialog]').exists()).toBe(false)
  })

  it('are added with a role and a first password', async () => {
    const { wrapper, asked } = await shown(
      PeopleChapter,
      {},
      { 'POST /people': { status: 201, body: { ...living.people[0]!, id: 'pe_new' } } },
    )
    await press(wrapper, 'Add a person')
    const dialog = wrapper.get('[role=dialog]')
    const [name, email, password] = dialog.findAll('input.p-inputtext')
    await name!.setValue('Nils Brandt')
    await email!.setValue('nils@marrowmere.example')
    await password!.setValue('reed and rope')
    await choose(wrapper, 'What they may do', 'viewer: looks at everything open')
    await dialog.get('form').trigger('submit')
    await flushPromises()
    expect(asked.find((request) => request.method === 'POST')?.body).toEqual({
      name: 'Nils Brandt',
      email: 'nils@marrowmere.example',
      role: 'viewer',
      password: 'reed and rope',
    })
    expect(wrapper.find('[role=dialog]').exists()).toBe(false)
  })

  it('without a password are invited by an address that is shown once', async () => {
    const added = { ...living.people[0]!, id: 'pe_new', name: 'Nils Brandt', hasPassword: false }
    const address = 'https://work.example/welcome#secret'
    const { wrapper, asked } = await shown(
      PeopleChapter,
      {},
      {
        'POST /people': { status: 201, body: added },
        'POST /people/pe_new/invitation': {
          status: 201,
          body: { address, until: '2026-12-02T10:00:00Z' },
        },
      },
    )
    await press(wrapper, 'Add a person')
    const [name, email] = wrapper.findAll('[role=dialog] input.p-inputtext')
    await name!.setValue('Nils Brandt')
    await email!.setValue('nils@marrowmere.example')
    await wrapper.get('[role=dialog] form').trigger('submit')
    await flushPromises()
    expect(
      asked.find(({ method, path }) => method === 'POST' && path === '/people')!.body,
    ).not.toHaveProperty('password')
    const shownOnce = wrapper.get<HTMLInputElement>('[aria-label="The invitation"]')
    expect(shownOnce.element.value).toBe(address)
    expect(wrapper.get('[role=dialog]').text()).toContain('holds until 2 Dec')
  })

  it('are asked first where an invitation would take the place of a password', async () => {
    const person = { ...living.people[0]!, hasPassword: true }
    const { wrapper, asked } = await shown(InvitationSheet, { props: { person } })
    expect(wrapper.text()).toContain('has a password')
    expect(asked.filter(({ method }) => method === 'POST')).toEqual([])
  })

  it('come from the directory as they are chosen; nobody goes unless they are', async () => {
    const who = (name: string) => ({ name, email: `${name}@x.example`, role: 'member' as const })
    const directory = {
      file: 'people.csv',
      joins: [who('oda'), who('tarek')],
      differs: [
        {
          id: 'pe_tom',
          email: 'tom@x.example',
          before: { name: 'Tom', role: 'viewer', active: false },
          after: { name: 'Thomas', role: 'member', active: true },
        },
      ],
      gone: [{ ...who('jon'), id: 'pe_jon' }],
      same: 3,
      problems: [{ line: 4, column: 'email', message: 'This is no e-mail address.' }],
    }
    const { wrapper, asked } = await shown(
      DirectorySheet,
      {},
      {
        'GET /directory': { body: directory },
        'POST /directory': {
          body: {
            added: [{ id: 'pe_oda', name: 'oda', address: 'https://work.example/welcome#oda' }],
            changed: 1,
            gone: 0,
          },
        },
      },
    )
    const text = wrapper.text()
    expect(text).toContain('is called Thomas, viewer becomes member, may sign in again')
    expect(text).toContain('Line 4: This is no e-mail address.')
    await wrapper.findAll('input[type=checkbox]')[1]!.setValue(false)
    await press(wrapper, 'Take over 2 people')
    expect(asked.find(({ method }) => method === 'POST')!.body).toEqual({
      joins: ['oda@x.example'],
      differs: ['pe_tom'],
      gone: [],
    })
    const invitation = wrapper.get<HTMLInputElement>('[aria-label="The invitation of oda"]')
    expect(invitation.element.value).toBe('https://work.example/welcome#oda')
  })

  it('who come by an invitation choose a password, or are told that it is over', async () => {
    const invited = { name: 'Oda', email: 'oda@x.example', workspace: 'Marrowmere Ferries' }
    const asked = serve({
      'POST /invitation': { body: invited },
      'POST /invitation/accepted': { status: 404, body: { detail: 'This invitation was used.' } },
    })
    const wrapper = await show(Welcome, { path: '/welcome#a-secret-of-some-length' })
    expect(wrapper.text()).toContain('Welcome, Oda.')
    await wrapper.get('input[type=password]').setValue('reed and rope')
    await wrapper.get('form').trigger('submit')
    await flushPromises()
    const secret = 'a-secret-of-some-length'
    expect(asked.at(-1)!.body).toEqual({ secret, password: 'reed and rope' })
    expect(wrapper.get('[role=alert]').text()).toBe('This invitation was used.')
  })

  it('keep their form open with the refusal at its field', async () => {
    const { wrapper } = await shown(
      PeopleChapter,
      {},
      {
        'PATCH /people/pe_tom': {
          status: 400,
          body: {
            detail: 'No.',
            errors: [{ pointer: '/email', message: 'Mara Thiel signs in by this address.' }],
          },
        },
      },
    )
    await wrapper.get('tbody tr').trigger('keydown', { key: 'Enter' })
    await wrapper.get('[role=dialog] form').trigger('submit')
    await flushPromises()
    expect(wrapper.get('[role=dialog] [role=alert]').text()).toBe(
      'Mara Thiel signs in by this address.',
    )
  })

  it('let a team work by another calendar, with the version that was read', async () => {
    const { wrapper, asked } = await shown(
      PeopleChapter,
      {},
      { 'PATCH /teams/tm_yard': { body: living.teams[0] } },
    )
    await press(wrapper, '1 team')
    await wrapper.get('tbody tr').trigger('keydown', { key: 'Enter' })
    await choose(wrapper, 'Works by', 'the calendar of each project')
    await wrapper.get('[role=dialog] fieldset input').setValue(false)
    await wrapper.get('[role=dialog] form').trigger('submit')
    await flushPromises()
    expect(asked.find((request) => request.method === 'PATCH')).toMatchObject({
      path: '/teams/tm_yard',
      headers: { 'If-Match': '"3"' },
      body: { title: 'Yard crew', remit: "type = 'Defect'", calendar: null, people: [] },
    })
  })
})

describe('projects', () => {
  it('leave for a rulebook of their own in one act', async () => {
    const { wrapper, asked } = await shown(ProjectsChapter)
    await press(wrapper, 'A rulebook of its own')
    await wrapper.get('[role=dialog] form').trigger('submit')
    await flushPromises()
    const [book, follows] = editsIn(asked)
    expect(book!.after).toMatchObject({ title: 'Fleet Yard’s own', extends: 'rb_all', entries: {} })
    expect(follows).toEqual({ path: ['projects', 'pr_yard'], after: book!.path[1] })
  })

  it('are closed to all but their members', async () => {
    const { wrapper, asked } = await shown(
      ProjectsChapter,
      {},
      { 'PATCH /projects/pr_yard': { body: { id: 'pr_yard', title: 'Fleet Yard', version: 2 } } },
    )
    await press(wrapper, 'Change')
    await control(wrapper, 'everybody may see it').setValue(false)
    await control(wrapper, 'Tom Okafor').setValue(true)
    await wrapper.get('[role=dialog] form').trigger('submit')
    await flushPromises()
    expect(asked.find((request) => request.method === 'PATCH')?.body).toMatchObject({
      open: false,
      members: ['pe_tom'],
    })
  })

  it('are told at the field what is wrong with them, and the form stays', async () => {
    const { wrapper } = await shown(
      ProjectsChapter,
      {},
      {
        'POST /projects': {
          status: 400,
          body: {
            detail: 'No.',
            errors: [{ pointer: '/code', message: 'The project “Fleet Yard” has this code.' }],
          },
        },
      },
    )
    await press(wrapper, 'New project')
    await wrapper.get('[role=dialog] form').trigger('submit')
    await flushPromises()
    const told = wrapper.get('[role=dialog] .code [role=alert]')
    expect(told.text()).toBe('The project “Fleet Yard” has this code.')
  })
})
