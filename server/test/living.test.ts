import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { rows } from '../src/database/connect.ts'
import { testNow } from './setup.ts'
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

const refs = async (filter: string): Promise<string[]> =>
  (await mara('POST', '/items/search', { filter, fields: 'ref', limit: 1000 })).body.items
    .map((item: { ref: string }) => item.ref)
    .sort()
const item = async (ref: string): Promise<Reply['body']> =>
  (await mara('GET', `/items/${ref}`)).body
const any = { 'if-match': '*' }
const make = async (type: string, more: object = {}, project = 'YARD', by = tom): Promise<Reply> =>
  await by('POST', '/items', { project, type, title: `A ${type}`, ...more })

const publish = async (...edits: object[]): Promise<void> => {
  const made = await mara('POST', '/definitions/drafts', { title: 'Ask', edits })
  const published = await mara('POST', `/definitions/drafts/${made.body.id}/publish`, {}, any)
  expect(published.status, JSON.stringify(published.body)).toBe(201)
}

describe('labels', () => {
  it('of near titles are made one: items, queries and templates hold the one, and nothing else changes', async () => {
    const [ramps, gear, all] = [
      await refs("A_OVERLAPS(labels, ('Ramps'))"),
      await refs("A_OVERLAPS(labels, ('ramp-gear'))"),
      await refs("A_OVERLAPS(labels, ('ramp', 'Ramps', 'ramp-gear'))"),
    ]
    expect(Math.min(ramps.length, gear.length)).toBeGreaterThan(0)
    const changed = async (): Promise<object[]> =>
      await rows(served.database, 'SELECT id, changed_at FROM item ORDER BY id')
    const before = await changed()
    const merged = await mara('POST', '/labels/merge', {
      into: 'la_free1',
      from: ['la_free2', 'la_free3'],
    })
    expect(merged.body).toEqual({ items: ramps.length + gear.length, left: 0, held: all.length })
    expect([
      await refs("A_CONTAINS(labels, ('ramp'))"),
      await refs("A_OVERLAPS(labels, ('Ramps', 'ramp-gear'))"),
    ]).toEqual([all, []])
    expect(await changed()).toEqual(before)
    const { body } = await mara('GET', '/queries/qu_ramps')
    expect([body.text, body.errors]).toEqual(["A_OVERLAPS(labels, ('ramp'))", []])
    const last = (await mara('GET', `/items/${ramps[0]}/history`)).body.versions.at(-1)
    expect([last.by.kind, JSON.stringify(last.words)]).toEqual([
      'merge',
      expect.stringContaining('took away labels'),
    ])
    const labels = (await mara('GET', '/labels')).body.labels.filter((label: { id: string }) =>
      ['la_free2', 'la_free3'].includes(label.id),
    )
    expect(labels.map((label: { retired: boolean }) => label.retired)).toEqual([true, true])
  })

  it('are renamed without breaking what asks for them', async () => {
    const before = await refs("A_CONTAINS(labels, ('gear: hydraulic'))")
    const query = await mara('POST', '/queries', {
      title: 'Hydraulics',
      shared: 'everyone',
      content: { filter: "A_CONTAINS(labels, ('gear: hydraulic'))", columns: ['ref'], order: [] },
    })
    expect((await mara('PATCH', '/labels/la_gear1', { title: 'Hydraulic gear' }, any)).status).toBe(
      200,
    )
    expect((await mara('GET', `/queries/${query.body.id}`)).body.text).toBe(
      "A_CONTAINS(labels, ('gear: Hydraulic gear'))",
    )
    expect(await refs("A_CONTAINS(labels, ('gear: Hydraulic gear'))")).toEqual(before)
    expect((await mara('PATCH', '/labels/la_gear1', { title: 'electric' }, any)).body.detail).toBe(
      'There is a label “electric” here already.',
    )
    expect(
      (await mara('PATCH', '/labels/la_gear1', { title: 'x' }, { 'if-match': '"1"' })).status,
    ).toBe(412)
  })

  it('are made by members where the family is open, and by its keepers where it is closed', async () => {
    expect((await greta('POST', '/labels', { title: 'needs a diver', family: null })).status).toBe(
      201,
    )
    expect((await greta('POST', '/labels', { title: '  Needs   a DIVER ' })).status).toBe(409)
    expect(
      (await greta('POST', '/labels', { title: 'half seen', family: 'fa_proof' })).body.detail,
    ).toContain('the family is closed')
    expect(
      (
        await (
          await served.signIn('Agnes Molnar')
        )('POST', '/labels', { title: 'half seen', family: 'fa_proof' })
      ).status,
    ).toBe(201)
    expect((await greta('POST', '/labels', { title: 'x', family: 'fa_lost' })).status).toBe(400)
    expect((await greta('POST', '/labels', { title: 'x', project: 'pr_crew' })).status).toBe(404)
    expect((await greta('PATCH', '/labels/la_free4', { title: 'x' }, any)).status).toBe(403)
    expect(
      (await greta('POST', '/labels/merge', { into: 'la_free4', from: ['la_free5'] })).status,
    ).toBe(403)
  })

  it('of a project stay in it, until one is lifted and its copies become one with it', async () => {
    const [yard, pier] = [
      await tom('POST', '/labels', { title: 'diver', project: 'pr_yard' }),
      await greta('POST', '/labels', { title: 'Divers', project: 'pr_pier' }),
    ]
    const held = await make('Defect', { labels: [yard.body.id] })
    expect(held.status).toBe(201)
    const there = await make('Defect', { labels: [pier.body.id] }, 'PIER', greta)
    expect((await make('Defect', { labels: [pier.body.id] })).body.detail).toContain(
      'belongs to another project',
    )
    expect((await tom('POST', `/labels/${yard.body.id}/lift`, { family: 'fa_gear' })).status).toBe(
      403,
    )
    expect(
      (
        await mara('POST', `/labels/${yard.body.id}/lift`, {
          family: 'fa_gear',
          copies: [pier.body.id],
        })
      ).body,
    ).toEqual({ items: 1, left: 0, held: 2 })
    for (const ref of [held.body.ref, there.body.ref])
      expect(
        (await item(ref)).labels.map((label: { id: string; family: string }) => [
          label.id,
          label.family,
        ]),
      ).toEqual([[yard.body.id, 'gear']])
  })

  it('of a pick-one family replace each other, and history says so; others cannot be merged into it', async () => {
    const made = await make('Defect', { labels: ['la_deck1'] })
    const put = await tom(
      'PATCH',
      `/items/${made.body.ref}`,
      { labels: ['la_deck1', 'la_deck2'] },
      any,
    )
    expect(put.body.labels.map((label: { title: string }) => label.title)).toEqual(['upper'])
    expect(
      JSON.stringify(
        (await mara('GET', `/items/${made.body.ref}/history`)).body.versions.at(-1).words,
      ),
    ).toMatch(/added labels.*upper.*took away labels.*car deck/)
    expect(
      (await mara('POST', '/labels/merge', { into: 'la_deck1', from: ['la_free4'] })).body.detail,
    ).toContain('is pick one')
    expect(
      (await mara('POST', '/labels/merge', { into: 'la_deck1', from: ['la_deck1'] })).status,
    ).toBe(400)
  })

  it('are offered by when one gave them last, and a retired one no more', async () => {
    served.setNow(new Date(testNow.getTime() + 60_000))
    await make('Defect', { labels: ['la_free8'] })
    expect((await tom('GET', '/labels/recent')).body.recent[0]).toBe('la_free8')
    await mara('PATCH', '/labels/la_free8', { retired: true }, any)
    expect((await tom('GET', '/labels/recent')).body.recent).not.toContain('la_free8')
    expect((await make('Defect', { labels: ['la_free8'] })).body.detail).toContain('is retired')
  })
})

describe('components', () => {
  it('give their keeper the items of theirs', async () => {
    expect((await make('Job', { components: ['Shore crane'] })).body.assignee.title).toBe(
      'Tom Okafor',
    )
    expect(
      (await make('Job', { components: ['Shore crane'], assignee: null })).body.assignee,
    ).toBeNull()
  })

  it('are the affair of their project’s keepers', async () => {
    expect(
      (await greta('POST', '/components', { project: 'pr_yard', title: 'Dinghy' })).status,
    ).toBe(403)
    expect((await greta('PATCH', '/components/co_yard1', { title: 'x' }, any)).status).toBe(403)
    const made = await tom('POST', '/components', {
      project: 'pr_yard',
      title: 'Dinghy',
      keeper: 'pe_02',
    })
    expect(made.status).toBe(201)
    expect((await tom('POST', '/components', { project: 'pr_yard', title: 'dinghy' })).status).toBe(
      409,
    )
    const held = await make('Job', { components: ['Dinghy'] })
    expect(
      (await tom('POST', '/components/merge', { into: 'co_yard1', from: [made.body.id] })).body,
    ).toEqual({ items: 1, held: (await refs("A_CONTAINS(components, ('MV Petrel'))")).length })
    expect(
      (await item(held.body.ref)).components.map((one: { title: string }) => one.title),
    ).toEqual(['MV Petrel'])
    expect(
      (await tom('POST', '/components/merge', { into: 'co_yard1', from: ['co_pier1'] })).body
        .detail,
    ).toContain('another project')
    expect(
      (await mara('GET', '/components')).body.components.find(
        (one: { id: string }) => one.id === 'co_yard6',
      ).keeper.title,
    ).toBe('Tom Okafor')
  })
})

describe('entering a status', () => {
  it('takes what its requirement asks, and says what is missing', async () => {
    const {
      body: { ref },
    } = await make('Defect')
    await tom('PATCH', `/items/${ref}`, { status: 'In hand' }, any)
    const shown = (await item(ref)).moves.find(
      (move: { title: string }) => move.title === 'Awaiting surveyor',
    )
    expect([shown.missing, shown.says]).toEqual([
      ['Surveyor must be filled first.'],
      'Name the surveyor who is to see it.',
    ])
    const refused = await tom('PATCH', `/items/${ref}`, { status: 'Awaiting surveyor' }, any)
    expect([refused.status, refused.body.detail]).toEqual([
      409,
      'Name the surveyor who is to see it. A Defect does not enter Awaiting surveyor yet: Surveyor must be filled first.',
    ])
    expect(
      (
        await tom(
          'PATCH',
          `/items/${ref}`,
          { status: 'Awaiting surveyor', fields: { surveyor: 'Ilse Varga' } },
          any,
        )
      ).status,
    ).toBe(200)
  })

  it.each<[string, object, object, object, string | null]>([
    ['a role', { role: 'administrator' }, {}, {}, 'Only an administrator may do this.'],
    ['a keeper, who Tom is', { role: 'keeper of the project' }, {}, {}, null],
    [
      'the assignee, who it is not',
      { role: 'assignee' },
      {},
      {},
      'Only the one it is assigned to may do this.',
    ],
    ['the assignee', { role: 'assignee' }, { assignee: 'Tom Okafor' }, {}, null],
    ['a comment', { comment: true }, {}, {}, 'Something must be said about it first.'],
    ['a comment with the move', { comment: true }, {}, { comment: 'Rusted through.' }, null],
    ['a reason', { reason: true }, {}, {}, 'Say why, together with the move.'],
    ['a reason given', { reason: true }, {}, { comment: 'No parts left.' }, null],
    ['having been in hand', { been: ['st_hand'] }, {}, {}, 'It must have been in In hand before.'],
    ['a field given with the move', { filled: ['due'] }, {}, { due: '2026-12-01' }, null],
    [
      'a field that is empty',
      { filled: ['due', 'fi_found'] },
      {},
      {},
      'Due and Found by must be filled first.',
    ],
  ])('may ask for %s', async (_, requires, given, withMove, missing) => {
    const made = await mara('POST', '/definitions/drafts', {
      title: 'Ask',
      edits: [
        {
          path: ['rulebooks', 'rb_yard', 'entries', 'requirement:ty_defect:st_withdrawn'],
          after: { requires },
        },
      ],
    })
    const published = await mara('POST', `/definitions/drafts/${made.body.id}/publish`, {}, any)
    // The same may be asked already.
    expect([201, 'This draft changes nothing.']).toContain(
      published.status === 201 ? 201 : published.body.detail,
    )
    const {
      body: { ref },
    } = await make('Defect', given)
    const moved = await tom('PATCH', `/items/${ref}`, { status: 'Withdrawn', ...withMove }, any)
    expect([moved.status, moved.body.missing ?? null]).toEqual(
      missing ? [409, [missing]] : [200, null],
    )
    if ('comment' in withMove)
      expect(
        (await mara('GET', `/items/${ref}/comments`)).body.comments.map(
          (one: { body: string }) => one.body,
        ),
      ).toEqual([withMove.comment])
  })

  it('may wait for everything below', async () => {
    const made = await mara('POST', '/definitions/drafts', {
      title: 'Ask',
      edits: [
        {
          path: ['rulebooks', 'rb_yard', 'entries', 'requirement:ty_package:st_signed'],
          after: { requires: { belowDone: true } },
        },
      ],
    })
    await mara('POST', `/definitions/drafts/${made.body.id}/publish`, {}, any)
    const {
      body: { ref },
    } = await make('Work package')
    const below = await make('Check', { parent: ref })
    await tom('PATCH', `/items/${ref}`, { status: 'In hand' }, any)
    expect(
      (await tom('PATCH', `/items/${ref}`, { status: 'Signed off' }, any)).body.missing,
    ).toEqual(['One item below it is still open.'])
    await tom('PATCH', `/items/${below.body.ref}`, { status: 'Signed off' }, any)
    expect((await tom('PATCH', `/items/${ref}`, { status: 'Signed off' }, any)).status).toBe(200)
  })
})

describe('what definitions ask of an item that is made', () => {
  it('is told by its form, where the field is shown', async () => {
    await publish({
      path: ['rulebooks', 'rb_yard', 'entries', 'form:ty_job:make:fi_berth'],
      after: { order: 'zz', required: true, shownWhen: { field: 'fi_safety', values: [true] } },
    })
    expect((await make('Job', { fields: { safety_relevant: false } })).status).toBe(201)
    const refused = await make('Job', { fields: { safety_relevant: true } })
    expect([refused.status, refused.body.errors]).toEqual([
      400,
      [
        {
          pointer: '/fields/berth',
          message: 'Berth must be filled when Job is made.',
          expected: 'a value',
        },
      ],
    ])
    expect(
      (await make('Job', { fields: { safety_relevant: true, berth: 'Slipway' } })).status,
    ).toBe(201)
  })

  it('is a label of a family that its type needs', async () => {
    const agnes = await served.signIn('Agnes Molnar')
    expect((await make('Finding', {}, 'SAFE', agnes)).body.errors[0]).toMatchObject({
      pointer: '/labels',
      message: 'Finding needs a label of “proof”.',
    })
    const made = await make('Finding', { labels: ['la_proof1'] }, 'SAFE', agnes)
    expect(made.status).toBe(201)
    expect((await agnes('PATCH', `/items/${made.body.ref}`, { labels: [] }, any)).status).toBe(400)
    // Its defaults are worked out from the day it is made, and its clocks run.
    expect([
      made.body.fields.next_check,
      made.body.limits.map((limit: { title: string; state: string }) => [limit.title, limit.state]),
    ]).toEqual([
      '2027-02-23',
      [
        ['Answer a finding', 'running'],
        ['Remedy a finding', 'running'],
      ],
    ])
  })

  it('keeps within smallest, largest and pattern', async () => {
    expect((await make('Defect', { fields: { cost_of_parts: '-1' } })).body.detail).toBe(
      'Cost of parts is at least 0.',
    )
    expect((await make('Defect', { fields: { hours_lost: '401' } })).body.detail).toBe(
      'Hours of sailing lost is at most 400.',
    )
    expect(
      (await make('Defect', { fields: { class_certificate: 'https://elsewhere.example/1' } })).body
        .detail,
    ).toBe('Class certificate does not look as it should.')
  })

  it('stands only below what may be above it', async () => {
    await publish({ path: ['types', 'ty_programme', 'below'], after: ['ty_package'] })
    const {
      body: { ref },
    } = await make('Programme')
    expect((await make('Job', { parent: ref })).body.detail).toContain(
      'only Work package may stand, no Job',
    )
    expect((await make('Work package', { parent: ref })).status).toBe(201)
    await publish({ path: ['types', 'ty_programme', 'below'] })
  })
})

describe('computed fields', () => {
  it('are there at once when what they rest on changes, in filters, in order and on the item', async () => {
    const made = await make('Defect', {
      priority: 'Sailing stopped',
      fields: { hours_lost: '12.5' },
    })
    expect(made.body.fields.harm).toBe(62.5)
    const [brute] = await rows<{ refs: number }>(
      served.database,
      `SELECT count(*) AS refs FROM item i JOIN priority p ON p.number = i.priority_id JOIN item_type t ON t.number = i.type_id JOIN project o ON o.id = i.project_id WHERE NOT deleted AND p.identity IN ('pi_stopped', 'pi_now') AND t.identity = 'ty_defect' AND o.code IN ('YARD', 'PIER')`,
    )
    expect((await refs('harm >= 50')).length).toBeGreaterThanOrEqual(brute!.refs)
    // Only forms of defects at the yard and on the shore have it; elsewhere it is empty, however urgent.
    expect(
      await refs("harm IS NOT NULL AND (type <> 'Defect' OR project NOT IN ('YARD', 'PIER'))"),
    ).toEqual([])
    const top = (
      await mara('POST', '/items/search', {
        filter: "project = 'YARD'",
        sort: '-harm',
        fields: 'ref,harm',
        limit: 5,
      })
    ).body.items.map((one: { fields: { harm: number } }) => one.fields.harm)
    expect(top).toEqual([...top].sort((a, b) => b - a))
    expect(
      (await tom('PATCH', `/items/${made.body.ref}`, { fields: { harm: 1 } }, any)).body.detail,
    ).toBe('Harm is computed, so it cannot be given.')
  })

  it('roll up everything below, at any depth', async () => {
    const top = await make('Programme')
    const pack = await make('Work package', { parent: top.body.ref })
    const jobs = await Promise.all(
      [3, 5].map(async (estimate) => await make('Job', { parent: pack.body.ref, estimate })),
    )
    await tom('PATCH', `/items/${jobs[0]!.body.ref}`, { status: 'In hand' }, any)
    await tom('PATCH', `/items/${jobs[0]!.body.ref}`, { status: 'Signed off' }, any)
    expect([
      (await item(top.body.ref)).fields.estimated_below,
      (await item(pack.body.ref)).fields.done_below,
      (await item(top.body.ref)).fields.done_below,
    ]).toEqual([8, 50, 33.3])
    expect(await refs('estimated_below = 8')).toEqual(
      expect.arrayContaining([pack.body.ref, top.body.ref]),
    )
  })
})

describe('templates', () => {
  it('are told in their list what no longer fits, and mended', async () => {
    const [refit] = (await mara('GET', '/templates')).body.templates.filter(
      (one: { id: string }) => one.id === 'te_refit',
    )
    expect(refit.stale).toEqual([
      {
        pointer: '/children/2/fields/berth',
        message: '“Old Harbour” is no longer offered in “Where she lies”.'.replace(
          'Where she lies',
          'Berth',
        ),
        mend: 'take the value out',
      },
    ])
    expect((await greta('POST', '/templates/te_refit/mend', {}, any)).status).toBe(403)
    const mended = await tom('POST', '/templates/te_refit/mend', {}, any)
    expect([mended.status, mended.body.stale]).toEqual([200, []])
  })

  it('make an item with everything below it, links among them, days and blanks worked out', async () => {
    const made = await tom('POST', '/templates/te_refit/make', {
      project: 'YARD',
      blanks: { vessel: 'MV Petrel' },
    })
    expect([made.status, made.body.refs.length, made.body.left]).toEqual([201, 6, []])
    const top = await item(made.body.ref)
    expect([
      top.title,
      top.labels.map((label: { title: string }) => label.title),
      top.children.map((child: { title: string }) => child.title),
    ]).toEqual([
      'Winter refit of MV Petrel',
      ['winter refit'],
      ['Hull of MV Petrel', 'Engine of MV Petrel', 'Sea trial of MV Petrel'],
    ])
    // Five working days from Wednesday by the yard's calendar, which works on Saturdays.
    const layUp = await item(made.body.refs[3])
    expect([layUp.title, layUp.due, layUp.estimate, layUp.parent.id]).toEqual([
      'Lay up MV Petrel',
      '2026-12-01',
      16,
      made.body.refs[1],
    ])
    const [links] = await rows<{ count: number }>(
      served.database,
      `SELECT count(*) AS count FROM link WHERE valid_to = 'infinity'`,
    )
    expect(links!.count).toBe(2)
    expect(
      (await item(made.body.refs[4])).links.map((one: { title: string }) => one.title),
    ).toEqual(['waits for'])
  })

  it('are offered where they may be used, and a filled form may say otherwise', async () => {
    const offered = async (code: string): Promise<string[]> =>
      (await tom('GET', `/projects/${code}/offers`)).body.templates
        .map((one: { id: string }) => one.id)
        .sort()
    expect([await offered('YARD'), await offered('SAFE')]).toEqual([
      ['te_quick', 'te_refit'],
      ['te_month'],
    ])
    const made = await tom('POST', '/templates/te_quick/make', {
      project: 'YARD',
      blanks: { What: 'Hinge', vessel: 'MV Heron' },
      over: { estimate: 5, fields: { found_by: null }, project: 'FARE', type: 'ty_job' },
    })
    const one = await item(made.body.ref)
    expect([
      one.title,
      one.type.id,
      one.project.id,
      one.estimate,
      one.fields.found_by,
      one.fields.safety_relevant,
    ]).toEqual(['Hinge mended on MV Heron', 'ty_defect', 'pr_yard', 5, null, false])
  })

  it('fail whole, and not half way', async () => {
    const before = await rows(served.database, 'SELECT count(*) AS count FROM item')
    const content = {
      item: { title: 'Top', type: 'ty_package', values: {}, fields: {} },
      children: [
        { key: 'a', title: 'A', type: 'ty_job', values: {}, fields: {} },
        { key: 'b', title: 'B', type: 'ty_job', values: {}, fields: {} },
      ],
      links: [
        { kind: 'lk_waits', from: 'a', to: 'b' },
        { kind: 'lk_waits', from: 'b', to: 'a' },
      ],
    }
    const made = await tom('POST', '/templates', {
      title: 'In a circle',
      project: 'pr_yard',
      content,
    })
    expect(made.status).toBe(201)
    expect(
      (await tom('POST', `/templates/${made.body.id}/make`, { project: 'YARD' })).body.detail,
    ).toContain('would close a circle of “waits for”')
    expect(
      (await tom('POST', '/templates/te_refit/make', { project: 'FARE' })).body.detail,
    ).toContain('does not fit Fares and Passenger Apps')
    expect(await rows(served.database, 'SELECT count(*) AS count FROM item')).toEqual(before)
  })

  it('fill what is empty on an item, or replace, with a look before', async () => {
    const {
      body: { ref },
    } = await make('Defect', { estimate: 4, priority: 'When convenient' })
    const look = await tom('POST', '/templates/te_quick/apply', { ref, how: 'fill', keep: false })
    expect([look.body.values, look.body.fields, look.body.kept]).toEqual([
      { assignee: 'pe_02' },
      { found_by: 'op_found01', safety_relevant: false },
      false,
    ])
    expect((await item(ref)).assignee).toBeNull()
    expect(
      (await tom('POST', '/templates/te_quick/apply', { ref, how: 'replace', keep: true })).status,
    ).toBe(428)
    await tom('POST', '/templates/te_quick/apply', { ref, how: 'replace', keep: true }, any)
    const after = await item(ref)
    expect([
      after.assignee.id,
      after.priority.title,
      after.estimate,
      after.fields.found_by.title,
    ]).toEqual(['pe_02', 'Passenger nuisance', 1, 'Crew on board'])
  })

  it('are made from an item that exists, with what stands below it', async () => {
    const top = await make('Work package', { priority: 'Sailing at risk', labels: ['la_free4'] })
    await make('Job', { parent: top.body.ref, estimate: 7 })
    const { content } = (
      await tom('POST', '/templates/from', { ref: top.body.ref, children: true })
    ).body
    expect(content).toEqual({
      item: {
        title: 'A Work package',
        type: 'ty_package',
        values: { priority: 'pi_risk', labels: ['la_free4'] },
        fields: {},
      },
      children: [
        {
          key: 'c1',
          title: 'A Job',
          type: 'ty_job',
          values: { priority: 'pi_convenient', estimate: 7 },
          fields: {},
        },
      ],
      links: [],
    })
    const made = await tom('POST', '/templates', {
      title: 'As it was',
      project: 'pr_yard',
      content,
    })
    expect([
      made.status,
      (await greta('POST', '/templates', { title: 'x', rulebook: 'rb_yard', content })).status,
    ]).toEqual([201, 403])
    expect((await tom('POST', '/templates', { title: 'x', content })).status).toBe(400)
  })
})

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
      ).body.errors.map((one: { pointer: string }) => one.pointer),
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
      (await mara('GET', '/calendars')).body.calendars.map((one: { title: string }) => one.title),
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
    const [one, other] = [
      await mara('POST', '/labels', { title: 'buoy' }),
      await mara('POST', '/labels', { title: 'floating mark' }),
    ]
    await mara('PATCH', '/teams/tm_desk', { remit: "A_CONTAINS(labels, ('floating mark'))" }, any)
    await mara('POST', '/labels/merge', { into: one.body.id, from: [other.body.id] })
    expect(
      (await mara('GET', '/teams')).body.teams.find(
        (team: { id: string }) => team.id === 'tm_desk',
      ),
    ).toMatchObject({ remit: { text: "A_CONTAINS(labels, ('buoy'))" }, version: 3 })
  })
})
