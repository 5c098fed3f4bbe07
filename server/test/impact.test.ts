import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { inTransaction, rows } from '../src/database/connect.ts'
import { closeGate } from '../src/sql/locks.ts'
import { runJobs } from './jobWorker.ts'
import { drafting, entry } from './drafting.ts'
import { testNow } from './setup.ts'
import { serveWorkspace, type Caller, type Reply, type Served } from './workspace.ts'

let served: Served
let mara: Caller
let tom: Caller
beforeAll(async () => {
  served = await serveWorkspace({ mapAtOnce: 20 })
  mara = await served.signIn('Mara Thiel')
  tom = await served.signIn('Tom Okafor')
})
afterAll(async () => await served.close())

const { draft, change, publish, drop, count } = drafting(() => mara)
const work = async (at = testNow): Promise<void> => await runJobs(served, () => at)

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
        other.body.needs.map((need: { key: string }) => [need.key, 'pi_convenient']),
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
        each.named.map((entry) => `${entry.kind} ${entry.title}`),
      ),
    ).toEqual([['view Yard morning board'], ['query Dear parts', 'measure Mean cost of parts']])
    await publish(made.body.id)
    for (const kind of ['queries', 'views', 'measures', 'dashboards', 'templates']) {
      const kept = (await mara('GET', `/${kind}`)).body[kind]
      expect(
        kept.flatMap((entry: { errors?: object[]; stale?: object[] }) => [...(entry.errors ?? [])]),
        kind,
      ).toEqual([])
    }
    expect(
      (await mara('GET', '/templates')).body.templates
        .filter((template: { stale: object[] }) => template.stale.length > 0)
        .map((template: { title: string }) => template.title),
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
