import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { rows, run } from '../src/database/connect.ts'
import { runJobs } from './jobWorker.ts'
import { testNow } from './setup.ts'
import { serveWorkspace, type Caller, type Reply, type Served } from './workspace.ts'

let served: Served
let mara: Caller
let tom: Caller
let ida: Caller
let at = testNow
beforeAll(async () => {
  served = await serveWorkspace()
  mara = await served.signIn('Mara Thiel')
  tom = await served.signIn('Tom Okafor')
  ida = await served.signIn('Ida Lund')
})
afterAll(async () => await served.close())

const work = async (): Promise<void> => await runJobs(served, () => at)
/** Time goes on, so that what comes later is later. */
function later(): void {
  at = new Date(at.getTime() + 60_000)
  served.setNow(at)
}

const open = { filter: "project = 'YARD' AND phase = 'idle'" }
const preview = async (items: object, change: object, by = mara): Promise<Reply> =>
  await by('POST', '/items/bulk/preview', { items, change })
const begin = async (items: object, change: object, total: number, by = mara): Promise<Reply> =>
  await by('POST', '/items/bulk', { items, change, total })
const read = async (id: string, by = mara): Promise<Reply['body']> =>
  (await by('GET', `/bulk/${id}`)).body
const count = async (filter: string): Promise<number> =>
  (await mara('POST', '/items/search', { filter, limit: 1 })).body.total
const item = async (ref: string): Promise<Reply['body']> =>
  (await mara('GET', `/items/${ref}`)).body

async function carriedOut(items: object, change: object, by = mara): Promise<Reply['body']> {
  const seen = await preview(items, change, by)
  expect(seen.status, JSON.stringify(seen.body)).toBe(200)
  const begun = await begin(items, change, seen.body.total, by)
  expect(begun.status, JSON.stringify(begun.body)).toBe(202)
  await work()
  const done = await read(begun.body.id, by)
  expect(done).toMatchObject({ state: 'done', done: seen.body.total })
  expect({ changed: done.changed, same: done.same, refused: done.refused }).toEqual({
    changed: seen.body.changed,
    same: seen.body.same,
    refused: seen.body.refused,
  })
  later()
  return done
}

/** Every item as its columns hold it, but for when and by whom it was changed, which a taking back changes too. */
const held = async (): Promise<string[]> =>
  (
    await rows<{ item: string }>(
      served.database,
      `SELECT (to_jsonb(i) - 'row_from' - 'changed_at' - 'by_kind' - 'by_id')::text AS item FROM item i ORDER BY id`,
    )
  ).map((row) => row.item)

async function undone(id: string): Promise<Reply['body']> {
  const undoing = await mara('POST', `/bulk/${id}/undo`)
  expect(undoing.status, JSON.stringify(undoing.body)).toBe(202)
  await work()
  later()
  return await read(undoing.body.id)
}

describe('a change of many items', () => {
  it('does what its preview counted, is told in history, and is undone by one act', async () => {
    const before = await held()
    const total = await count(open.filter)
    const done = await carriedOut(open, { set: { assignee: 'Tom Okafor', due: '2027-03-01' } })
    expect(done.total).toBe(total)
    expect(done.words).toEqual(['Assignee becomes “Tom Okafor”', 'Due becomes “1 Mar 2027”'])
    const all = `${open.filter} AND assignee = 'Tom Okafor' AND due = DATE('2027-03-01')`
    expect(await count(all)).toBe(total)
    const [entry] = (await mara('POST', '/items/search', { ...open, limit: 1 })).body.items
    const { versions } = (await mara('GET', `/items/${entry.ref}/history`)).body
    expect(versions.at(-1).by).toMatchObject({ kind: 'bulk job', title: 'Mara Thiel' })
    expect((await undone(done.id)).changed).toBe(done.changed)
    expect(await held()).toEqual(before)
    expect((await mara('POST', `/bulk/${done.id}/undo`)).status).toBe(409)
  })

  it('moves each item by its own flow: who may not go is left, with its reason', async () => {
    const before = await held()
    const done = await carriedOut(
      { filter: "project IN ('YARD', 'FARE')" },
      { set: { status: 'Signed off' } },
    )
    expect(done.refused.length).toBeGreaterThan(1)
    expect(done.changed).toBeGreaterThan(0)
    const told = done.refused.map((entry: { message: string }) => entry.message).join(' ')
    expect(told).toContain('does not go from')
    const refusedRef = done.refused[0].refs[0]
    expect((await item(refusedRef)).status.title).not.toBe('Signed off')
    await undone(done.id)
    expect(await held()).toEqual(before)
  })

  it('adds and takes away where several values are held, and keeps the others', async () => {
    const labels = (await mara('GET', '/labels')).body.labels
    const [entry, other] = labels.filter(
      (label: { family: unknown; project: unknown; retired: boolean }) =>
        !label.family && !label.project && !label.retired,
    )
    await carriedOut(open, { add: { labels: [entry.id] } })
    const both = await carriedOut(open, {
      add: { labels: [other.id] },
      remove: { labels: [entry.id] },
    })
    expect(both.changed).toBeGreaterThan(0)
    const all = (await mara('POST', '/items/search', { ...open, fields: 'labels', limit: 1000 }))
      .body
    for (const { labels: has } of all.items) {
      const ids = has.map((label: { id: string }) => label.id)
      expect(ids).toContain(other.id)
      expect(ids).not.toContain(entry.id)
    }
    const again = await preview(open, { add: { labels: [other.id] } })
    expect(again.body).toMatchObject({ changed: 0, same: all.total })
  })

  it('gives another type with a status of its flow, or says which ones there are', async () => {
    const defects = { filter: "project = 'YARD' AND type = 'Defect' AND phase = 'idle'" }
    const plain = await preview(defects, { set: { type: 'ty_inspection' } })
    const reasons = plain.body.refused.map((entry: { message: string }) => entry.message).join(' ')
    const [candidate] = (
      await mara('POST', '/items/search', { ...defects, fields: 'status', limit: 1 })
    ).body.items
    if (reasons.includes('is not in the flow')) {
      const mapped = await preview(defects, {
        set: { type: 'ty_inspection' },
        statuses: { [candidate.status.id]: 'st_planned' },
      })
      expect(mapped.body.changed).toBeGreaterThanOrEqual(plain.body.changed)
    }
    expect(plain.body.total).toBe(await count(defects.filter))
  })

  it('lets stand what others changed since when it is undone, and says so', async () => {
    const refs = ['YARD/1', 'YARD/2', 'YARD/3']
    const was = await Promise.all(refs.map(item))
    const done = await carriedOut({ refs }, { set: { estimate: 77, start: '2027-01-04' } })
    const changedAgain = await tom('PATCH', '/items/YARD/2', { estimate: 5 }, { 'if-match': '*' })
    expect(changedAgain.status).toBe(200)
    expect(
      (await tom('PATCH', '/items/YARD/3', { title: 'Another title' }, { 'if-match': '*' })).status,
    ).toBe(200)
    later()
    const undoing = await undone(done.id)
    expect(undoing).toMatchObject({ changed: 2, undoes: done.id })
    expect(undoing.refused).toEqual([
      { message: 'Changed again since: Estimate.', count: 1, refs: ['YARD/2'] },
    ])
    expect((await item('YARD/1')).estimate).toEqual(was[0].estimate)
    expect((await item('YARD/2')).estimate).toBe(5)
    expect(await item('YARD/3')).toMatchObject({ title: 'Another title', start: was[2].start })
  })

  it('sends to the bin and brings back', async () => {
    const before = await held()
    const total = await count(open.filter)
    const done = await carriedOut(open, { delete: true })
    expect([done.changed, await count(open.filter)]).toEqual([total, 0])
    await undone(done.id)
    expect(await held()).toEqual(before)
  })

  it('that is cancelled takes back what it did', async () => {
    const before = await held()
    const { body } = await preview(open, { set: { estimate: 13 } })
    const begun = await begin(open, { set: { estimate: 13 } }, body.total)
    // As if it were killed after its first half: that is changed, the rest waits.
    await work()
    await run(
      served.database,
      'UPDATE bulk_change SET finished_at = NULL, cancelled_at = NULL WHERE identity = $1',
      [begun.body.id],
    )
    later()
    expect((await mara('DELETE', `/bulk/${begun.body.id}`)).body.state).toBe('taking back')
    await run(served.database, 'UPDATE job SET finished_at = NULL WHERE subject = $1', [
      begun.body.id,
    ])
    await run(
      served.database,
      `SELECT graphile_worker.add_job('bulk', json_build_object('job', (SELECT max(id) FROM job WHERE subject = $1)))`,
      [begun.body.id],
    )
    await work()
    later()
    expect(await read(begun.body.id)).toMatchObject({
      state: 'cancelled',
      changed: 0,
      takenBack: body.changed,
    })
    expect(await held()).toEqual(before)
  })
})

describe('who may change many', () => {
  it('changes what they see alone, and finds no change of others', async () => {
    expect((await preview(open, { set: { estimate: 1 } }, ida)).status).toBe(403)
    expect((await preview({ refs: ['NOPE/1'] }, { set: { estimate: 1 } })).status).toBe(404)
    const { body } = await begin({ refs: ['YARD/5'] }, { set: { estimate: 2 } }, 1)
    expect((await tom('GET', `/bulk/${body.id}`)).status).toBe(404)
    expect((await tom('POST', `/bulk/${body.id}/undo`)).status).toBe(404)
    await work()
    later()
  })

  it('is told that other items answer by now than were looked at', async () => {
    const { body } = await preview(open, { set: { estimate: 3 } })
    const refused = await begin(open, { set: { estimate: 3 } }, body.total + 1)
    expect(refused.status).toBe(409)
    expect(refused.body.detail).toContain('look at what would change again')
  })
})

describe('the bin', () => {
  const link = async (): Promise<unknown> =>
    await rows(served.database, 'SELECT * FROM link ORDER BY id')

  it('gives a deleted item back as it was, with links and what stands below it', async () => {
    const [parent] = await rows<{ ref: string }>(
      served.database,
      `SELECT p.code || '/' || i.number AS ref FROM item i JOIN project p ON p.id = i.project_id
      WHERE NOT i.deleted AND EXISTS (SELECT FROM item c WHERE c.parent_id = i.id AND NOT c.deleted) ORDER BY i.id LIMIT 1`,
    )
    const [before, links, whole] = [await held(), await link(), await item(parent!.ref)]
    expect(
      (await mara('DELETE', `/items/${parent!.ref}`, undefined, { 'if-match': '*' })).status,
    ).toBe(204)
    later()
    expect((await mara('GET', `/items/${parent!.ref}`)).status).toBe(404)
    const bin = (await mara('GET', `/bin?words=${parent!.ref}`)).body
    expect(bin.items).toMatchObject([{ ref: parent!.ref, by: 'Mara Thiel' }])
    const back = await mara('POST', '/bin/bring-back', { refs: [parent!.ref] })
    expect(back.body.refs).toEqual([parent!.ref])
    expect([await held(), await link()]).toEqual([before, links])
    expect((await item(parent!.ref)).children).toEqual(whole.children)
    expect((await mara('POST', '/bin/bring-back', { refs: [parent!.ref] })).status).toBe(404)
  })

  it('gives nothing back after 30 days, and shows nothing of what one may not see', async () => {
    await mara('DELETE', '/items/YARD/1', undefined, { 'if-match': '*' })
    const now = at
    at = new Date(now.getTime() + 31 * 86_400_000)
    served.setNow(at)
    expect((await mara('POST', '/bin/bring-back', { refs: ['YARD/1'] })).status).toBe(404)
    expect((await mara('GET', '/bin?words=YARD/1')).body.total).toBe(0)
    at = now
    served.setNow(at)
    expect((await ida('POST', '/bin/bring-back', { refs: ['YARD/1'] })).status).toBe(403)
    expect((await mara('POST', '/bin/bring-back', { refs: ['YARD/1'] })).status).toBe(200)
  })
})
