import fc from 'fast-check'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { type DefinitionsDocument, replaceAt, replay } from '@bluestem/core/definitions'
import { inTransaction, rows, run } from '../src/database/connect.ts'
import { closeGate } from '../src/sql/locks.ts'
import { pastMoves } from '../src/items/pastMoves.ts'
import { runJobs } from './jobWorker.ts'
import { testNow } from './setup.ts'
import { serveWorkspace, type Caller, type Reply, type Served } from './workspace.ts'

let served: Served
let mara: Caller
let tom: Caller
let greta: Caller
beforeAll(async () => {
  served = await serveWorkspace({ mapAtOnce: 20 })
  mara = await served.signIn('Mara Thiel')
  tom = await served.signIn('Tom Okafor')
  greta = await served.signIn('Greta Holm')
})
afterAll(async () => await served.close())

type Edit = { path: string[]; after?: unknown }
const draft = async (edits: Edit[], title = 'Try', by = mara): Promise<Reply> =>
  await by('POST', '/definitions/drafts', { title, edits })
const change = async (id: string, body: object, match = '*', by = mara): Promise<Reply> =>
  await by('PATCH', `/definitions/drafts/${id}`, body, { 'if-match': match })
const publish = async (id: string, body: object = {}, by = mara): Promise<Reply> =>
  await by('POST', `/definitions/drafts/${id}/publish`, body, { 'if-match': '*' })
const drop = async (id: string): Promise<void> =>
  void (await mara('DELETE', `/definitions/drafts/${id}`, undefined, { 'if-match': '*' }))
const count = async (filter: string): Promise<number> =>
  (await mara('POST', '/items/search', { filter, limit: 1 })).body.total
const document = async (): Promise<DefinitionsDocument> =>
  (await mara('GET', '/definitions')).body.document
const entry = (rulebook: string, key: string, after?: unknown): Edit => ({
  path: ['rulebooks', rulebook, 'entries', key],
  ...(after === undefined ? {} : { after }),
})
const work = async (at = testNow): Promise<void> => await runJobs(served, () => at)

describe('a dropped draft', () => {
  it('can be taken back as it was for 30 days, by whoever might drop it', async () => {
    const edits = [{ path: ['statuses', 'st_open', 'title'], after: 'New' }]
    const made = await draft(edits, 'Better words')
    await drop(made.body.id)
    expect((await mara('GET', `/definitions/drafts/${made.body.id}`)).status).toBe(404)
    const dropped = async (): Promise<readonly { id: string }[]> =>
      (await mara('GET', '/definitions/dropped-drafts')).body.drafts
    expect((await dropped())[0]).toEqual({
      id: made.body.id,
      title: 'Better words',
      count: 1,
      by: 'Mara Thiel',
      at: testNow.toISOString(),
    })
    const address = `/definitions/dropped-drafts/${made.body.id}/take-back`
    expect((await tom('POST', address)).status).toBe(403)
    const back = await mara('POST', address)
    expect([back.status, back.body.title, back.body.changes]).toEqual([
      200,
      'Better words',
      made.body.changes,
    ])
    expect(await dropped()).not.toContainEqual(expect.objectContaining({ id: made.body.id }))
    expect((await mara('POST', address)).status).toBe(404)
    await drop(made.body.id)
    served.setNow(new Date('2026-12-26T10:00:00Z'))
    expect([(await dropped()).length, (await mara('POST', address)).status]).toEqual([0, 404])
    served.setNow(testNow)
  })
})

describe('several drafts', () => {
  it('stand side by side, each with its own changes and who made them', async () => {
    const [one, two] = [
      await draft([{ path: ['statuses', 'st_open', 'title'], after: 'New' }], 'One'),
      await draft([{ path: ['statuses', 'st_hand', 'title'], after: 'At work' }], 'Two'),
    ]
    const { drafts } = (await mara('GET', '/definitions/drafts')).body
    expect(drafts.map((each: { title: string }) => each.title)).toEqual([
      'Say what counts as safety relevant',
      'One',
      'Two',
    ])
    expect(
      two.body.changes.map((each: { words: string; by: string }) => [each.words, each.by]),
    ).toEqual([['renames status “In hand” to “At work”', 'Mara Thiel']])
    await drop(one.body.id)
    await drop(two.body.id)
  })

  it('based on an older edition is merged by identity', async () => {
    const [one, two] = [
      await draft(
        [{ path: ['statuses', 'st_parts', 'description'], after: 'Nothing moves.' }],
        'One',
      ),
      await draft(
        [{ path: ['statuses', 'st_review', 'description'], after: 'Looked over.' }],
        'Two',
      ),
    ]
    expect((await publish(one.body.id)).status).toBe(201)
    expect((await mara('GET', `/definitions/drafts/${two.body.id}`)).body.changes).toHaveLength(1)
    expect((await publish(two.body.id)).status).toBe(201)
    const { statuses } = await document()
    expect([statuses['st_parts']!.description, statuses['st_review']!.description]).toEqual([
      'Nothing moves.',
      'Looked over.',
    ])
  })

  it('that clash are shown side by side, and published once that is decided', async () => {
    const [one, two] = [
      await draft([{ path: ['statuses', 'st_parts', 'title'], after: 'No parts' }]),
      await draft([
        { path: ['statuses', 'st_parts', 'title'], after: 'Parts missing' },
        { path: ['statuses', 'st_proof', 'description'], after: 'Shown.' },
      ]),
    ]
    await publish(one.body.id)
    const seen = (await mara('GET', `/definitions/drafts/${two.body.id}`)).body
    expect(seen.clashes).toMatchObject([
      {
        path: ['statuses', 'st_parts', 'title'],
        mine: [{ after: 'Parts missing' }],
        theirs: [{ after: 'No parts' }],
      },
    ])
    const refused = await publish(two.body.id)
    expect([refused.status, refused.body.clashes.length]).toEqual([409, 1])
    const decided = await mara(
      'POST',
      `/definitions/drafts/${two.body.id}/rebase`,
      { choices: { [JSON.stringify(['statuses', 'st_parts', 'title'])]: 'theirs' } },
      { 'if-match': '*' },
    )
    expect(decided.body.changes.map((each: { path: string[] }) => each.path[1])).toEqual([
      'st_proof',
    ])
    expect((await publish(two.body.id)).status).toBe(201)
    expect((await document()).statuses['st_parts']!.title).toBe('No parts')
  })
})

describe('who may change what', () => {
  it('a draft that is its maker’s alone opens for nobody else until it is shared', async () => {
    const own = await mara('POST', '/definitions/drafts', {
      title: 'Quietly',
      edits: [{ path: ['statuses', 'st_open', 'title'], after: 'New' }],
      shared: false,
    })
    const { id } = own.body
    const seen = async (by: Caller): Promise<boolean> =>
      (await by('GET', '/definitions/drafts')).body.drafts.some(
        (one: { id: string }) => one.id === id,
      )
    expect([own.body.shared, await seen(mara), await seen(tom)]).toEqual([false, true, false])
    for (const [method, path] of [
      ['GET', ''],
      ['GET', '/impact'],
      ['GET', '/replay'],
      ['DELETE', ''],
      ['PATCH', ''],
      ['POST', '/publish'],
    ])
      expect(
        (
          await tom(
            method!,
            `/definitions/drafts/${id}${path}`,
            method === 'GET' ? undefined : {},
            {
              'if-match': '*',
            },
          )
        ).status,
        `${method} ${path}`,
      ).toBe(404)
    await drop(id)
    const { drafts: droppedOnes } = (await tom('GET', '/definitions/dropped-drafts')).body
    expect(droppedOnes.some((one: { id: string }) => one.id === id)).toBe(false)
    expect((await tom('POST', `/definitions/dropped-drafts/${id}/take-back`)).status).toBe(404)
    await mara('POST', `/definitions/dropped-drafts/${id}/take-back`)
    expect((await change(id, { shared: true })).body.shared).toBe(true)
    expect(await seen(tom)).toBe(true)
    expect((await change(id, { shared: false }, '*', tom)).status).toBe(409)
    await drop(id)
  })

  it('a keeper changes and publishes their rulebook, and nothing that others share', async () => {
    const own = await draft(
      [entry('rb_yard', 'move:ty_defect:st_parts:st_open', {})],
      'Back to open',
      tom,
    )
    expect([own.status, own.body.mayPublish]).toEqual([201, true])
    expect((await publish(own.body.id, {}, tom)).status).toBe(201)
    for (const edits of [
      [{ path: ['statuses', 'st_open', 'title'], after: 'x' }],
      [entry('rb_safety', 'unit', { unit: 'days' })],
      [{ path: ['projects', 'pr_yard'], after: 'rb_everyone' }],
      [{ path: ['rulebooks', 'rb_yard', 'extends'], after: null }],
    ]) {
      expect((await draft(edits, 'Too far', tom)).status, JSON.stringify(edits)).toBe(403)
    }
    const hers = await draft([{ path: ['statuses', 'st_open', 'title'], after: 'New' }])
    expect((await publish(hers.body.id, {}, tom)).status).toBe(403)
    expect(
      (await tom('DELETE', `/definitions/drafts/${hers.body.id}`, undefined, { 'if-match': '*' }))
        .status,
    ).toBe(403)
    expect(
      (
        await change(
          hers.body.id,
          { edits: [{ path: ['statuses', 'st_open', 'title'], after: 'Newer' }] },
          '*',
          tom,
        )
      ).status,
    ).toBe(403)
    await drop(hers.body.id)
  })

  it('a member proposes, withdraws, and publishes nothing', async () => {
    const proposed = await greta('POST', '/definitions/proposals', {
      title: 'Say it plainly',
      edits: [{ path: ['fields', 'fi_berth', 'title'], after: 'Where she lies' }],
    })
    expect([proposed.status, proposed.body.proposed, proposed.body.mayPublish]).toEqual([
      201,
      true,
      false,
    ])
    const mineIn = async (who: Caller): Promise<boolean> =>
      (await who('GET', '/definitions/drafts')).body.drafts.find(
        (one: { id: string }) => one.id === proposed.body.id,
      ).mine
    expect([await mineIn(greta), await mineIn(mara)]).toEqual([true, false])
    expect((await publish(proposed.body.id, {}, greta)).status).toBe(403)
    expect(
      (
        await change(
          proposed.body.id,
          { edits: [{ path: ['fields', 'fi_berth', 'title'], after: 'x' }] },
          '*',
          greta,
        )
      ).status,
    ).toBe(403)
    expect(
      (
        await greta('DELETE', `/definitions/drafts/${proposed.body.id}`, undefined, {
          'if-match': '*',
        })
      ).status,
    ).toBe(204)
    const again = await greta('POST', '/definitions/proposals', {
      title: 'Say it plainly',
      edits: [{ path: ['fields', 'fi_berth', 'title'], after: 'Where she lies' }],
    })
    expect((await publish(again.body.id)).status).toBe(201)
    expect((await document()).fields['fi_berth']!.title).toBe('Where she lies')
  })

  it('keepers are set by administrators, and viewers cannot be any', async () => {
    expect(
      (await tom('PATCH', '/definitions/rulebooks/rb_yard/keepers', { keepers: [] })).status,
    ).toBe(403)
    expect(
      (
        await mara(
          'PATCH',
          '/definitions/rulebooks/rb_yard/keepers',
          { keepers: ['pe_03'] },
          { 'if-match': '*' },
        )
      ).body.errors[0].message,
    ).toBe('Ida Lund is a viewer, who changes nothing.')
    expect(
      (
        await mara(
          'PATCH',
          '/definitions/rulebooks/rb_digital/keepers',
          { keepers: ['pe_14'] },
          { 'if-match': '"0"' },
        )
      ).body.keepers,
    ).toEqual([{ id: 'pe_14', title: 'Greta Holm' }])
    expect(
      (await mara('PATCH', '/definitions/rulebooks/rb_digital/keepers', { keepers: [] })).status,
    ).toBe(428)
    expect(
      (
        await mara(
          'PATCH',
          '/definitions/rulebooks/rb_digital/keepers',
          { keepers: [] },
          { 'if-match': '"0"' },
        )
      ).body,
    ).toMatchObject({ status: 412, changed: { keepers: ['Greta Holm'] } })
    expect(
      (await mara('GET', '/definitions/rulebooks/rb_digital/keepers')).body.keepers,
    ).toHaveLength(1)
  })

  it('every act is in the audit, which only grows', async () => {
    const { acts, kinds } = (await mara('GET', '/audit?words=rb_digital')).body
    expect(acts[0]).toMatchObject({
      act: 'set keepers',
      by: 'Mara Thiel',
      subject: 'rulebook rb_digital',
    })
    expect(kinds).toEqual(
      expect.arrayContaining(['began a draft', 'dropped a draft', 'proposed', 'published']),
    )
    expect(
      (await mara('GET', '/audit?by=pe_02&act=published')).body.acts.map(
        (act: { by: string }) => act.by,
      ),
    ).toEqual(['Tom Okafor'])
    expect((await mara('GET', '/audit?from=2026-11-26')).body.acts).toEqual([])
    await expect(run(served.database, 'DELETE FROM audit')).rejects.toThrow('only grows')
  })
})

describe('impact and mapping', () => {
  const present = async (filter: string): Promise<string[]> =>
    (await mara('POST', '/items/search', { filter, fields: 'ref', limit: 1000 })).body.items
      .map((item: { ref: string }) => item.ref)
      .sort()

  it('asks what items become, refuses while that is open, and changes exactly those it counted', async () => {
    const concerned = await present("status = 'In review' AND type = 'Change'")
    expect(concerned.length).toBeGreaterThan(0)
    const made = await draft([
      entry('rb_digital', 'status:ty_change:st_review'),
      entry('rb_digital', 'move:ty_change:st_hand:st_review'),
      entry('rb_digital', 'move:ty_change:st_review:st_hand'),
      entry('rb_digital', 'move:ty_change:st_review:st_signed'),
      entry('rb_digital', 'move:ty_change:st_hand:st_signed', {}),
    ])
    const [need] = made.body.needs
    expect([need.items, need.needed, made.body.open]).toEqual([concerned.length, true, [need.key]])
    const refused = await publish(made.body.id)
    expect([refused.status, refused.body.detail]).toEqual([
      409,
      expect.stringContaining('leaves open what a value in use becomes'),
    ])
    const before = await rows<{ number: number; changed_at: Date }>(
      served.database,
      "SELECT number, changed_at FROM item WHERE project_id = (SELECT id FROM project WHERE code = 'FARE') ORDER BY number",
    )
    await change(made.body.id, { choices: { [need.key]: 'st_hand' } })
    expect((await publish(made.body.id, { note: 'Nobody reviews alone.' })).status).toBe(201)
    if (concerned.length > 20) await work()
    expect([
      await count("status = 'In review'"),
      (await present("status = 'In hand' AND type = 'Change'")).filter((ref) =>
        concerned.includes(ref),
      ),
    ]).toEqual([0, concerned])
    expect(
      await rows(
        served.database,
        "SELECT number, changed_at FROM item WHERE project_id = (SELECT id FROM project WHERE code = 'FARE') ORDER BY number",
      ),
    ).toEqual(before)
    const { versions } = (await mara('GET', `/items/${concerned[0]}/history`)).body
    expect(versions.at(-1)).toMatchObject({
      by: { kind: 'edition' },
      words: [
        [{ text: 'moved it from ' }, { text: 'In review' }, { text: ' to ' }, { text: 'In hand' }],
      ],
    })
  })

  it('leaves many to a job, and counts them as their successors meanwhile', async () => {
    const concerned = await present("priority = 'Next'")
    expect(concerned.length).toBeGreaterThan(20)
    const made = await draft([{ path: ['ladders', 'ld_digital', 'rungs', 'pi_next'] }])
    const [need] = made.body.needs
    await change(made.body.id, { choices: { [need.key]: 'pi_later' } })
    const published = await publish(made.body.id)
    expect(published.body.mapping).toBe(need.items)
    const stored = async (): Promise<number> =>
      (
        await rows<{ count: number }>(
          served.database,
          `SELECT count(*) AS count FROM item WHERE NOT deleted AND priority_id = (SELECT number FROM priority WHERE identity = 'pi_next')`,
        )
      )[0]!.count
    expect(await stored()).toBe(need.items)
    // Not one is rewritten yet, and every question of the present answers as if all were.
    expect([
      await count("priority = 'Next'"),
      (await present("priority = 'Later'")).filter((ref) => concerned.includes(ref)).length,
    ]).toEqual([0, concerned.length])
    const [first, second] = concerned as [string, string]
    expect((await mara('GET', `/items/${first}`)).body.priority.title).toBe('Later')
    const groups = (
      await mara('POST', '/measures/evaluate', { measure: 'me_work', by: ['priority'] })
    ).body.groups.map((group: { key: ({ title: string } | null)[] }) => group.key[0]?.title)
    expect(groups).not.toContain('Next')
    // Whoever writes to one of them maps it first, and is refused nothing because of it.
    const read = await mara('GET', `/items/${second}`)
    expect(
      (
        await mara(
          'PATCH',
          `/items/${second}`,
          { title: 'Renamed meanwhile' },
          { 'if-match': read.etag },
        )
      ).status,
    ).toBe(200)
    const words = (await mara('GET', `/items/${second}/history`)).body.versions
      .slice(-2)
      .map((version: { by: { kind: string } }) => version.by.kind)
    expect(words).toEqual(['edition', 'person'])
    // Another draft that maps waits; one that does not is published.
    const other = await draft([{ path: ['ladders', 'ld_operations', 'rungs', 'pi_nuisance'] }])
    await change(other.body.id, {
      choices: Object.fromEntries(
        other.body.needs.map((one: { key: string }) => [one.key, 'pi_convenient']),
      ),
    })
    expect((await publish(other.body.id)).body.detail).toContain('still being rewritten')
    await drop(other.body.id)
    await work()
    expect([await stored(), await count("priority = 'Next'")]).toEqual([0, 0])
    const asOf = (
      await mara('POST', '/items/search', {
        filter: "priority = 'Next'",
        'as-of': '2026-11-24',
        limit: 1,
      })
    ).body.total
    expect(asOf).toBeGreaterThan(20)
  })

  it('changes the phase of a used status with its items', async () => {
    const items = await count("status = 'Ready'")
    const made = await draft([{ path: ['statuses', 'st_ready', 'phase'], after: 'active' }])
    expect((await publish(made.body.id)).status).toBe(201)
    await work()
    expect([
      await count("status = 'Ready' AND phase = 'active'"),
      await count("status = 'Ready' AND phase = 'idle'"),
    ]).toEqual([items, 0])
  })

  it('counts what retiring touches as the items do, and nothing retired is given any more', async () => {
    const items = await count("berth = 'Slipway'")
    const made = await draft([
      { path: ['fields', 'fi_berth', 'options', 'op_berth05', 'retired'], after: true },
      { path: ['priorities', 'pi_stopped', 'retired'], after: true },
    ])
    expect(made.body.changes.map((each: { items: number }) => each.items)).toEqual([
      items,
      await count("priority = 'Sailing stopped'"),
    ])
    expect(made.body.needs.filter((need: { needed: boolean }) => need.needed)).toEqual([])
    expect((await publish(made.body.id)).status).toBe(201)
    expect(await count("berth = 'Slipway'")).toBe(items)
    const refused = await tom('POST', '/items', {
      project: 'YARD',
      type: 'Defect',
      title: 'x',
      fields: { berth: 'Slipway' },
    })
    expect([refused.status, refused.body.detail]).toEqual([
      400,
      expect.stringContaining('“Slipway” is retired'),
    ])
    const holder = (await mara('POST', '/items/search', { filter: "berth = 'Slipway'", limit: 1 }))
      .body.items[0].ref
    expect(
      (
        await mara(
          'PATCH',
          `/items/${holder}`,
          { fields: { berth: 'Slipway' }, title: 'Still there' },
          { 'if-match': '*' },
        )
      ).status,
    ).toBe(200)
    await publish((await draft([{ path: ['priorities', 'pi_stopped', 'retired'] }])).body.id)
  })

  it('names what would be touched beside items, and breaks no query by a new name', async () => {
    const made = await draft([
      { path: ['statuses', 'st_signed', 'title'], after: 'Finished' },
      { path: ['fields', 'fi_cost', 'title'], after: 'Price' },
    ])
    expect(
      made.body.changes.map((each: { named: { kind: string; title: string }[] }) =>
        each.named.map((one) => `${one.kind} ${one.title}`),
      ),
    ).toEqual([['view Yard morning board'], ['query Dear parts', 'measure Mean cost of parts']])
    await publish(made.body.id)
    for (const kind of ['queries', 'views', 'measures', 'dashboards', 'templates']) {
      const kept = (await mara('GET', `/${kind}`)).body[kind]
      expect(
        kept.flatMap((one: { errors?: object[]; stale?: object[] }) => [...(one.errors ?? [])]),
        kind,
      ).toEqual([])
    }
    expect(
      (await mara('GET', '/templates')).body.templates
        .filter((one: { stale: object[] }) => one.stale.length > 0)
        .map((one: { title: string }) => one.title),
    ).toEqual(['New season of fares', 'Winter refit'])
  })

  it('places a new status on the boards chosen, in the same act', async () => {
    const made = await draft([
      {
        path: ['statuses', 'st_tested'],
        after: { order: 'z', title: 'On trial', phase: 'active', queue: false, description: '' },
      },
      entry('rb_yard', 'status:ty_defect:st_tested', { order: 'zz' }),
      entry('rb_yard', 'move:ty_defect:st_hand:st_tested', {}),
      entry('rb_yard', 'move:ty_defect:st_tested:st_signed', {}),
    ])
    expect(made.status, JSON.stringify(made.body)).toBe(201)
    await change(made.body.id, { boards: [{ view: 'vi_morning', status: 'st_tested' }] })
    expect((await publish(made.body.id)).status).toBe(201)
    expect((await mara('GET', '/views/vi_morning')).body.content.board.columns).toEqual([
      'st_open',
      'st_hand',
      'st_parts',
      'st_tested',
      'st_signed',
    ])
    expect((await mara('GET', '/definitions/boards')).body.unplaced).toContain('st_surveyor')
  })
})

describe('long questions', () => {
  it('are let out before tables change, and new ones wait at the gate while others are answered', async () => {
    const course = (): Promise<Reply> =>
      mara('POST', '/measures/evaluate', {
        filter: "phase = 'done'",
        figure: { kind: 'count' },
        by: [],
        over: { from: '2026-10-01', to: '2026-11-01', step: 'week' },
      })
    let open: (() => void) | undefined
    const closed = inTransaction(served.database, async () => {
      await closeGate(served.database, 1000)
      await new Promise<void>((done) => {
        open = done
      })
    })
    while (!open) await new Promise((done) => setTimeout(done, 5))
    let answered = false
    const waiting = course().then((reply) => {
      answered = true
      return reply
    })
    expect(
      (
        await mara('POST', '/measures/evaluate', {
          filter: "phase = 'done'",
          figure: { kind: 'count' },
          by: [],
        })
      ).status,
    ).toBe(200)
    expect(answered).toBe(false)
    open()
    await closed
    expect((await waiting).body.total).toHaveLength(5)
  })
})

describe('a score', () => {
  it('shows the order it would give to open work before it is kept, and is computed so afterwards', async () => {
    const preview = await tom('POST', '/definitions/scores/preview', {
      formula: 'estimate * 2 + hours_lost',
      empty: 1,
    })
    const scores = preview.body.items.map((item: { score: number }) => item.score)
    expect(scores).toEqual([...scores].sort((a, b) => b - a))
    expect([scores.length, preview.body.without, preview.body.errors]).toEqual([8, 0, []])
    const top = (await tom('GET', `/items/${preview.body.items[0].ref}`)).body
    expect(scores[0]).toBe((top.estimate ?? 1) * 2 + (top.fields.hours_lost ?? 1))
    const strict = await mara('POST', '/definitions/scores/preview', {
      formula: 'hours_lost * 1',
      empty: null,
    })
    expect(strict.body.without).toBe(
      await count("phase IN ('idle', 'active') AND hours_lost IS NULL"),
    )
    expect(
      (await tom('POST', '/definitions/scores/preview', { formula: 'hours_lots + 1' })).body
        .errors[0],
    ).toMatchObject({ nearest: 'hours_lost' })
  })
})

/** Every move people made since a moment, from the states of each item looked through one by one. */
async function everyMove(since = new Date(0)): Promise<string[]> {
  const world = await served.worlds.now()
  type State = {
    id: number
    number: number
    project_id: number
    status_id: number
    by_kind: number
    by_id: number
    assignee_id: number | null
    surveyor: number | null
    comment_count: number
    valid_from: Date
    valid_to: Date
    phase: number
    parent_id: number | null
    deleted: boolean
  }
  const states = await rows<State>(
    served.database,
    `SELECT id, number, project_id, status_id, by_kind, by_id, assignee_id, f${world.numbers.of('field', 'fi_surveyor')} AS surveyor, comment_count, valid_from, valid_to, phase, parent_id, deleted FROM item_state ORDER BY id, valid_from`,
  )
  const comments = await rows<{ item_id: number; at: Date }>(
    served.database,
    'SELECT item_id, at FROM comment',
  )
  return states.flatMap((state, index) => {
    const before = states[index - 1]
    if (
      before?.id !== state.id ||
      before.status_id === state.status_id ||
      state.by_kind !== 0 ||
      state.valid_from < since
    )
      return []
    const earlier = states.slice(0, index).filter((one) => one.id === state.id)
    const other = earlier.findLast((one) => one.status_id !== before.status_id)
    const status = (number: number): string => world.numbers.identity('status', number)!
    const project = world.projects.find((one) => one.number === state.project_id)!
    const administrator =
      world.people.find((one) => one.number === state.by_id)!.role === 'administrator'
    return [
      [
        `${project.code}/${state.number}`,
        status(before.status_id),
        status(state.status_id),
        state.surveyor !== null,
        state.assignee_id !== null,
        states.some(
          (one) =>
            one.parent_id === state.id &&
            one.valid_from <= state.valid_from &&
            one.valid_to > state.valid_from &&
            one.phase < 2 &&
            !one.deleted,
        ),
        comments.some(
          (one) =>
            one.item_id === state.id &&
            one.at < state.valid_from &&
            (!other || one.at >= other.valid_to),
        ),
        state.comment_count > before.comment_count,
        earlier.some((one) => status(one.status_id) === 'st_parts'),
        state.assignee_id === state.by_id,
        administrator,
        administrator || project.keepers.has(state.by_id),
      ].join(),
    ]
  })
}

describe('replay', () => {
  it('equals looking at every past move of the database by itself', async () => {
    const world = await served.worlds.now()
    const everything = world.projects.map((project) => project.number)
    const everywhere = new Set(Object.keys(world.document.statuses))
    const parts = [
      'filled:fi_surveyor',
      'filled:assignee',
      'open below',
      'commented',
      'reasoned',
      'been:st_parts',
      'role:assignee',
      'role:administrator',
      'role:keeper of the project',
    ]
    const past = await pastMoves(
      served.database,
      world,
      new Map(parts.map((part) => [part, everywhere])),
      everything,
      new Date(0),
    )
    const found = past.flatMap((one) =>
      one.refs.map((ref) =>
        [
          ref,
          one.from,
          one.to,
          one.filled('fi_surveyor'),
          one.filled('assignee'),
          one.openBelow > 0,
          one.commented,
          one.reasoned,
          one.been('st_parts'),
          ...['assignee', 'administrator', 'keeper of the project'].map((role) =>
            one.roles.includes(role as never),
          ),
        ].join(),
      ),
    )
    expect(found.sort()).toEqual((await everyMove()).sort())
    // Every move was allowed by the flows of its time, which the demo has not changed; what a document forbids is what replay counts.
    const forbidden: DefinitionsDocument = replaceAt(
      world.document,
      ['rulebooks', 'rb_everyone', 'entries', 'move:ty_check:st_open:st_signed'],
      undefined,
    )
    const kind = (one: { type: string; from: string; to: string }): boolean =>
      one.type === 'ty_check' && one.from === 'st_open' && one.to === 'st_signed'
    expect(replay(forbidden, past).refused.find(kind)?.moves).toBe(
      past.filter(kind).reduce((sum, one) => sum + one.refs.length, 0),
    )
  })

  it('of the last days equals replay of everything, less what was before', async () => {
    const world = await served.worlds.now()
    const since = new Date(testNow.getTime() - 60 * 86_400_000)
    const asked = new Map([
      ['commented', new Set(['st_signed', 'st_hand'])],
      ['been:st_parts', new Set(['st_hand'])],
    ])
    const past = await pastMoves(
      served.database,
      world,
      asked,
      world.projects.map((project) => project.number),
      since,
    )
    const found = past.flatMap((one) =>
      one.refs.map((ref) => [ref, one.from, one.to, one.commented, one.been('st_parts')].join()),
    )
    const asks = (to: string, status: string[], value: string): boolean =>
      status.includes(to) && value === 'true'
    expect(found.sort()).toEqual(
      (await everyMove(since))
        .map((line) => line.split(','))
        .map(([ref, from, to, , , , commented, , been]) =>
          [
            ref,
            from,
            to,
            asks(to!, ['st_signed', 'st_hand'], commented!),
            asks(to!, ['st_hand'], been!),
          ].join(),
        )
        .sort(),
    )
  })

  it('tells what a draft would have refused, with the items', async () => {
    const made = await draft([
      entry('rb_everyone', 'move:ty_check:st_open:st_hand'),
      entry('rb_safety', 'requirement:ty_finding:st_hand', { requires: { filled: ['assignee'] } }),
    ])
    const { body } = await mara('GET', `/definitions/drafts/${made.body.id}/replay?days=600`)
    const found = body.refused.filter(
      (one: { before: number; moves: number }) => one.moves > one.before,
    )
    expect(
      found.map(
        (one: { type: string; from: string; to: string; why: string }) =>
          `${one.type} ${one.from} ${one.to} ${one.why}`,
      ),
    ).toEqual(expect.arrayContaining(['ty_check st_open st_hand flow']))
    expect(found[0].refs.length).toBe(found[0].items)
    expect((await mara('GET', `/definitions/drafts/${made.body.id}/replay?days=x`)).status).toBe(
      400,
    )
    await drop(made.body.id)
  })
})

describe('editions', () => {
  it('are compared in words, and gone back to as a draft', async () => {
    const { body } = await mara('GET', '/definitions/editions/1/compare/3')
    expect(body.changes.map((each: { words: string }) => each.words)).toEqual(
      expect.arrayContaining([
        'adds field “Wind window”',
        'renames status “Stuck” to “Waiting for parts”',
      ]),
    )
    const back = await mara('POST', '/definitions/editions/2/draft')
    expect(back.body.changes.map((each: { words: string }) => each.words)).toEqual(
      expect.arrayContaining(['retires field “Wind window”']),
    )
    expect(back.body.problems).toEqual([])
    await drop(back.body.id)
    expect((await mara('GET', '/definitions/editions/999')).status).toBe(404)
  })

  it('are published at a set time by a job, or told why not', async () => {
    const made = await draft([
      { path: ['statuses', 'st_withdrawn', 'description'], after: 'Not to be done.' },
    ])
    expect((await publish(made.body.id, { at: '2026-11-25T09:00:00Z' })).status).toBe(400)
    const set = await publish(made.body.id, { at: '2026-11-25T12:00:00Z', note: 'At noon.' })
    expect([set.status, set.body.schedule]).toEqual([
      202,
      { at: '2026-11-25T12:00:00.000Z', by: 'Mara Thiel', note: 'At noon.' },
    ])
    await work()
    expect((await mara('GET', `/definitions/drafts/${made.body.id}`)).status).toBe(200)
    await work(new Date('2026-11-25T12:00:01Z'))
    expect((await mara('GET', '/definitions')).body.edition).toMatchObject({
      note: 'At noon.',
      by: 'Mara Thiel',
    })
    const broken = await draft([
      { path: ['statuses', 'st_withdrawn', 'description'], after: 'Not.' },
    ])
    await publish(broken.body.id, { at: '2026-11-25T13:00:00Z' })
    await change(broken.body.id, { edits: [entry('rb_everyone', 'type:ty_check', {})] })
    await work(new Date('2026-11-25T13:00:01Z'))
    expect((await mara('GET', `/definitions/drafts/${broken.body.id}`)).body).toMatchObject({
      schedule: null,
      failed: expect.stringContaining('cannot be published yet') as string,
    })
    await drop(broken.body.id)
  })

  it('say what each entry was changed by last, and how much it is used', async () => {
    const { body } = await mara('GET', '/definitions/usage?options=fi_berth')
    expect(body.changed['fi_tide']).toMatchObject({
      edition: 3,
      by: 'Mara Thiel',
      note: 'The crane crew needs to know the wind it can work in.',
    })
    expect([body.items['st_open'], body.items['op_berth01'], body.items['la_free1']]).toEqual([
      await count("status = 'Open'"),
      await count("berth = 'North Pier 1'"),
      await count("A_CONTAINS(labels, ('ramp'))"),
    ])
    expect(Date.parse(body.last['fi_cost'])).toBeLessThanOrEqual(testNow.getTime())
  })
})

describe('definitions as files', () => {
  it('come back as they went, and one rulebook brings all it names', async () => {
    const whole = await document()
    expect((await mara('GET', '/definitions/file')).body).toEqual(whole)
    // Whoever does not see a project gets a file without it, and bringing that back takes nothing away.
    const his = (await tom('GET', '/definitions/file')).body
    expect(his.projects).toEqual(
      Object.fromEntries(Object.entries(whole.projects).filter(([id]) => id !== 'pr_crew')),
    )
    expect((await mara('POST', '/definitions/import', his)).body).toEqual({
      draft: null,
      changes: 0,
    })
    expect((await mara('POST', '/definitions/import', whole)).body).toEqual({
      draft: null,
      changes: 0,
    })
    const file = (await mara('GET', '/definitions/rulebooks/rb_digital')).body
    expect(Object.keys(file.definitions.rulebooks).sort()).toEqual(['rb_digital', 'rb_everyone'])
    expect((await mara('POST', '/definitions/differences', file)).body.changes).toEqual([])
  })

  it('show their differences before anything is kept, and then open a draft', async () => {
    const changed = replaceAt(
      replaceAt(await document(), ['statuses', 'st_open', 'title'], 'Fresh'),
      ['priorities', 'pi_now'],
      undefined,
    )
    const before = (await mara('GET', '/definitions/drafts')).body.drafts.length
    expect((await mara('POST', '/definitions/differences', changed)).body.changes).toMatchObject([
      { path: ['priorities', 'pi_now', 'retired'], after: true, words: 'retires priority “Now”' },
      {
        path: ['statuses', 'st_open', 'title'],
        after: 'Fresh',
        words: 'renames status “Open” to “Fresh”',
      },
    ])
    expect((await mara('GET', '/definitions/drafts')).body.drafts).toHaveLength(before)
    const made = await mara('POST', '/definitions/import', changed)
    expect([made.status, made.body.changes]).toEqual([201, 2])
    await drop(made.body.draft.id)
  })

  it.each<[string, (whole: DefinitionsDocument) => unknown, string]>([
    [
      'a wrong type',
      (whole) => replaceAt(whole, ['types', 'ty_job', 'tier'], 'high'),
      '/types/ty_job/tier',
    ],
    ['no object', () => [1, 2], ''],
    ['an unknown part', (whole) => ({ ...whole, moods: {} }), '/moods'],
    [
      'a duplicate handle',
      (whole) =>
        replaceAt(whole, ['fields', 'fi_again'], {
          ...whole.fields['fi_note'],
          title: 'Again',
          handle: 'berth',
        }),
      '/fields/fi_again/handle',
    ],
    [
      'an unknown identity',
      (whole) =>
        replaceAt(whole, ['rulebooks', 'rb_yard', 'entries', 'status:ty_defect:st_lost'], {
          order: 'z',
        }),
      '/rulebooks/rb_yard/entries/status:ty_defect:st_lost',
    ],
    [
      'a circle of extension',
      (whole) => replaceAt(whole, ['rulebooks', 'rb_everyone', 'extends'], 'rb_yard'),
      '/rulebooks/rb_everyone/extends',
    ],
    [
      'a flow that cannot be left',
      (whole) =>
        ['st_signed', 'st_open'].reduce(
          (all, to) =>
            replaceAt(
              all,
              ['rulebooks', 'rb_everyone', 'entries', `move:ty_check:st_hand:${to}`],
              undefined,
            ),
          whole,
        ),
      '/rulebooks/rb_everyone/entries/status:ty_check:st_hand',
    ],
  ])(
    'with %s are told with a pointer and what was expected, and nothing is kept',
    async (_, spoil, pointer) => {
      const [edition, drafts] = [
        (await mara('GET', '/definitions')).body.edition.number,
        (await mara('GET', '/definitions/drafts')).body.drafts.length,
      ]
      for (const path of ['/definitions/differences', '/definitions/import']) {
        const { status, body } = await mara('POST', path, spoil(await document()))
        expect(status).toBe(400)
        expect(
          body.errors.find((one: { pointer: string }) => one.pointer === pointer),
        ).toMatchObject({ message: expect.any(String), expected: expect.any(String) })
      }
      expect([
        (await mara('GET', '/definitions')).body.edition.number,
        (await mara('GET', '/definitions/drafts')).body.drafts.length,
      ]).toEqual([edition, drafts])
    },
  )

  it('never are a defect, whatever is in them', async () => {
    await fc.assert(
      fc.asyncProperty(
        fc.jsonValue({ maxDepth: 3 }),
        fc.constantFrom('types', 'fields', 'rulebooks', 'limits', 'projects', 'format'),
        async (junk, section) => {
          const whole = await document()
          for (const body of [junk, { ...whole, [section]: junk }])
            expect(
              (await mara('POST', '/definitions/differences', body ?? {})).status,
            ).toBeLessThan(500)
        },
      ),
      { numRuns: 25 },
    )
  })
})
