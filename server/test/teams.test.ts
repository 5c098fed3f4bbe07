import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { serveWorkspace, type Caller, type Reply, type Served } from './workspace.ts'

let served: Served
let mara: Caller
let tom: Caller
let greta: Caller
beforeAll(async () => {
  served = await serveWorkspace()
  mara = await served.signIn('Mara Thiel')
  tom = await served.signIn('Tom Okafor')
  greta = await served.signIn('Greta Holm')
})
afterAll(async () => await served.close())
const any = { 'if-match': '*' }
const make = async (type: string, more: object = {}, project = 'YARD', by = tom): Promise<Reply> =>
  await by('POST', '/items', { project, type, title: `A ${type}`, ...more })

const publish = async (...edits: object[]): Promise<void> => {
  const made = await mara('POST', '/definitions/drafts', { title: 'Ask', edits })
  const published = await mara('POST', `/definitions/drafts/${made.body.id}/publish`, {}, any)
  expect(published.status, JSON.stringify(published.body)).toBe(201)
}

describe('projects and calendars', () => {
  it('come with the edition that says which rulebook they follow', async () => {
    const before = (await mara('GET', '/definitions')).body.edition.number
    const made = await mara('POST', '/projects', {
      title: 'Rescue boats',
      code: 'RESC',
      rulebook: 'rb_yard',
      calendar: 'ca_yard',
    })
    expect([made.status, made.body.edition]).toEqual([201, before + 1])
    expect((await make('Defect', {}, 'RESC', mara)).body.ref).toBe('RESC/1')
    for (const [body, message] of [
      [{ code: 'yard' }, /two to ten capital/],
      [{ code: 'YARD' }, /Fleet Yard/],
      [{ code: 'NEWP', rulebook: 'rb_lost' }, /no such rulebook/],
      [{ code: 'NEWP', calendar: 'ca_lost' }, /no such calendar/],
    ] as const)
      expect(
        (await mara('POST', '/projects', { title: 'x', rulebook: 'rb_yard', ...body })).body.detail,
      ).toMatch(message)
    expect(
      (
        await mara(
          'PATCH',
          `/projects/${made.body.id}`,
          { title: 'Rescue', keepers: ['pe_02'] },
          any,
        )
      ).status,
    ).toBe(200)
    expect(
      (await tom('POST', '/components', { project: made.body.id, title: 'Boat 1' })).status,
    ).toBe(201)
  })

  it('say working hours and days off, and are refused with the place of what is wrong', async () => {
    const made = await mara('POST', '/calendars', {
      title: 'Nights',
      hours: { 1: [['22:00', '24:00']] },
      daysOff: [{ day: '2026-12-25', title: 'Feast' }],
    })
    expect(made.status).toBe(201)
    expect(
      (
        await mara(
          'PATCH',
          `/calendars/${made.body.id}`,
          {
            title: 'Nights',
            hours: { 1: [['22:00', '21:00']] },
            daysOff: [{ day: '2026-02-30', title: '' }],
          },
          any,
        )
      ).body.errors.map((error: { pointer: string }) => error.pointer),
    ).toEqual(['/hours/1/0', '/daysOff/0/day'])
    expect(
      (
        await mara(
          'PATCH',
          `/calendars/${made.body.id}`,
          { title: 'Late', hours: {}, daysOff: [] },
          { 'if-match': '"9"' },
        )
      ).status,
    ).toBe(412)
    expect(
      (await mara('GET', '/calendars')).body.calendars.map(
        (calendar: { title: string }) => calendar.title,
      ),
    ).toEqual(['Office hours', 'Inspection days', 'Nights', 'Yard shifts'])
    const off = async (daysOff: object[]) =>
      await mara(
        'PATCH',
        `/calendars/${made.body.id}`,
        { title: 'Early shift', hours: { 1: [['06:00', '14:00']] }, daysOff },
        any,
      )
    const yearly = { day: '2026-12-24', until: '2027-01-02', yearly: true, title: 'Closed' }
    expect((await off([yearly])).body.daysOff).toEqual([yearly])
    expect((await off([{ ...yearly, until: '2026-12-20' }])).body.errors[0]).toMatchObject({
      pointer: '/daysOff/0/until',
      message: '2026-12-20 lies before 2026-12-24.',
    })
    expect((await off([{ ...yearly, until: '2028-01-02' }])).status).toBe(400)
    expect((await mara('DELETE', `/calendars/${made.body.id}`, undefined, any)).status).toBe(204)
    for (const [id, status, message] of [
      ['ca_standard', 409, /own calendar stays/],
      [
        'ca_yard',
        409,
        /^Fleet Yard.* and Piers and Shore|Fleet Yard, Piers and Shore.* work by “Yard shifts”/,
      ],
      ['ca_inspection', 409, /^Inspectors works by/],
      [made.body.id, 404, /calendar/],
    ] as const) {
      const refused = await mara('DELETE', `/calendars/${id}`, undefined, any)
      expect([refused.status, refused.body.detail]).toEqual([
        status,
        expect.stringMatching(message),
      ])
    }
  })
})

describe('teams', () => {
  it('have people and a remit, told as text and as a sentence', async () => {
    const { body } = await greta('GET', '/teams')
    expect(
      body.teams.map((team: { title: string; calendar: string | null; people: string[] }) => [
        team.title,
        team.calendar,
        team.people.length,
      ]),
    ).toEqual([
      ['Apps crew', null, 8],
      ['Inspectors', 'ca_inspection', 6],
      ['Shore crew', null, 7],
      ['Timetable desk', null, 6],
      ['Yard crew', null, 11],
    ])
    expect(body.teams[1].remit).toMatchObject({
      text: "type IN ('Inspection', 'Finding')",
      errors: [],
    })
  })

  it('work by their calendar: the clocks of the items in their remit run by it', async () => {
    const agnes = await served.signIn('Agnes Molnar')
    const made = await make('Finding', { labels: ['la_proof1'] }, 'SAFE', agnes)
    const clock = async (): Promise<{ calendar: string; team: string | null; runsOut: string }> =>
      (await agnes('GET', `/items/${made.body.ref}`)).body.limits[0]
    const [before, nights] = [
      await clock(),
      await mara('POST', '/calendars', {
        title: 'Sundays',
        hours: { 7: [['00:00', '24:00']] },
        daysOff: [],
      }),
    ]
    expect([before.calendar, before.team]).toEqual(['Inspection days', 'Inspectors'])
    const urgent = await mara('POST', '/teams', {
      title: 'An early team',
      remit: `ref = '${made.body.ref}'`,
      calendar: nights.body.id,
      people: ['pe_02'],
    })
    expect(urgent.status).toBe(201)
    const after = await clock()
    expect([
      after.calendar,
      after.team,
      new Date(after.runsOut).getUTCDay() <= 1,
      after.runsOut > before.runsOut,
    ]).toEqual(['Sundays', 'An early team', true, true])
    // A remit that can't tell counts as no, and one without a calendar leaves the project's.
    expect(
      (
        await mara(
          'PATCH',
          `/teams/${urgent.body.id}`,
          { remit: 'estimate > 3' },
          { 'if-match': '"1"' },
        )
      ).body,
    ).toMatchObject({ version: 2, people: ['pe_02'] })
    expect(await clock()).toEqual(before)
    await mara('PATCH', '/teams/tm_inspectors', { calendar: null }, any)
    expect([(await clock()).calendar, (await clock()).team]).toEqual(['Office hours', null])
    await mara('PATCH', '/teams/tm_inspectors', { calendar: 'ca_inspection' }, any)
    expect(
      (await mara('DELETE', `/teams/${urgent.body.id}`, undefined, { 'if-match': '"1"' })).status,
    ).toBe(412)
    expect((await mara('DELETE', `/teams/${urgent.body.id}`, undefined, any)).status).toBe(204)
    expect((await mara('GET', '/audit?act=deleted a team')).body.acts[0]).toMatchObject({
      subject: `team ${urgent.body.id}`,
      title: 'An early team',
    })
  })

  it('are refused with the place of what is wrong', async () => {
    for (const [body, pointer, message] of [
      [{ title: 'yard CREW' }, '/title', /There is a team/],
      [{ title: ' ' }, '/title', /needs a title/],
      [{ title: 'x', calendar: 'ca_lost' }, '/calendar', /no such calendar/],
      [{ title: 'x', people: ['pe_02', 'pe_lost'] }, '/people/1', /no such person/],
      [{ title: 'x', remit: 'assignee = me()' }, '/remit', /the same for everybody/],
      [{ title: 'x', remit: "statuss = 'Open'" }, '/remit', /status/],
    ] as const) {
      const { status, body: told } = await mara('POST', '/teams', body)
      expect([status, told.errors[0].pointer, told.errors[0].message]).toEqual([
        400,
        pointer,
        expect.stringMatching(message),
      ])
    }
    expect((await mara('PATCH', '/teams/tm_lost', { title: 'x' }, any)).status).toBe(404)
    expect(
      (await mara('PATCH', '/teams/tm_yard', { title: 'x' }, { 'if-match': '"7"' })).status,
    ).toBe(412)
    expect(
      (await mara('GET', '/teams')).body.teams.map((team: { title: string }) => team.title),
    ).not.toContain('x')
  })

  it('follow a rename, and count as a use of what their remit names', async () => {
    await publish({ path: ['types', 'ty_finding', 'title'], after: 'Shortcoming' })
    expect(
      (await mara('GET', '/teams')).body.teams.find(
        (team: { id: string }) => team.id === 'tm_inspectors',
      ).remit.text,
    ).toBe("type IN ('Inspection', 'Shortcoming')")
    expect((await mara('GET', '/definitions/usage')).body.named['ty_finding']).toContainEqual({
      kind: 'team',
      id: 'tm_inspectors',
      title: 'Inspectors',
    })
    await publish({ path: ['types', 'ty_finding', 'title'], after: 'Finding' })
    const [reply, other] = [
      await mara('POST', '/labels', { title: 'buoy' }),
      await mara('POST', '/labels', { title: 'floating mark' }),
    ]
    await mara('PATCH', '/teams/tm_desk', { remit: "A_CONTAINS(labels, ('floating mark'))" }, any)
    await mara('POST', '/labels/merge', { into: reply.body.id, from: [other.body.id] })
    expect(
      (await mara('GET', '/teams')).body.teams.find(
        (team: { id: string }) => team.id === 'tm_desk',
      ),
    ).toMatchObject({ remit: { text: "A_CONTAINS(labels, ('buoy'))" }, version: 3 })
  })
})
