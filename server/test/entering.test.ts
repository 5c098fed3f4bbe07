import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { rows } from '../src/database/connect.ts'
import { serveWorkspace, type Caller, type Reply, type Served } from './workspace.ts'

let served: Served
let mara: Caller
let tom: Caller
beforeAll(async () => {
  served = await serveWorkspace()
  mara = await served.signIn('Mara Thiel')
  tom = await served.signIn('Tom Okafor')
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
          (comment: { body: string }) => comment.body,
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
    ).body.items.map((item: { fields: { harm: number } }) => item.fields.harm)
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
