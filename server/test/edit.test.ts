import { afterAll, beforeAll, describe, expect, it, vi } from 'vitest'
import { rows } from '../src/database/connect.ts'
import { editMany } from '../src/work/editItem.ts'
import { testNow } from './setup.ts'
import { type Caller, personNamed, type Reply, serveWorkspace, type Served } from './workspace.ts'

let served: Served
let tom: Caller
beforeAll(async () => {
  served = await serveWorkspace({})
  tom = await served.signIn('Tom Okafor')
})
afterAll(async () => await served.close())

/** The first words of every statement between the beginning of a transaction and its end, both counted. */
async function statementsOf(edit: () => Promise<unknown>): Promise<string[]> {
  const asked = vi.spyOn(served.database, 'query')
  await edit()
  // What the stream of changes reads meanwhile is no part of the edit.
  const texts = asked.mock.calls
    .map(([sql]) => (typeof sql === 'string' ? sql : sql.query).trim())
    .filter((text) => !text.includes('FROM outbox'))
  asked.mockRestore()
  const begins = texts.findIndex((text) => text.startsWith('START TRANSACTION'))
  const ends = texts.findIndex((text) => text.startsWith('COMMIT'))
  return texts.slice(begins, ends + 1)
}

describe('an edit of one item', () => {
  it.each([
    ['a number', { estimate: 3 }],
    ['a person', { assignee: 'Tom Okafor' }],
    ['a day', { due: '2026-12-24' }],
    ['a priority', { priority: { id: 'pi_stopped' } }],
    ['a move with what is said', { status: 'In hand', comment: 'seen' }],
    ['its type and its parent', { type: 'Job', parent: null }],
    ['its title and its description', { title: 'Ramp hinge', description: 'squeaks' }],
    ['labels', { labels: ['ramp'] }],
    ['its place', { position: { after: 'YARD/3' } }],
    [
      'everything at once',
      {
        status: 'In hand',
        title: 'All',
        labels: ['ramp'],
        estimate: 2,
        position: { after: 'YARD/3' },
      },
    ],
  ])('takes at most five statements: %s', async (_, change) => {
    const made = await tom('POST', '/items', { project: 'YARD', type: 'Defect', title: 'Hinge' })
    const path = `/items/${made.body.ref}`
    const statements = await statementsOf(async () => {
      const { status, body } = await tom('PATCH', path, change, { 'if-match': '*' })
      expect(status, JSON.stringify(body)).toBe(200)
    })
    expect(statements[0]).toContain('START')
    expect(
      statements.length,
      statements.map((text) => text.slice(0, 40)).join('; '),
    ).toBeLessThanOrEqual(5)
  })

  it('is answered by nothing but its ETag where that is preferred', async () => {
    const made = await tom('POST', '/items', { project: 'YARD', type: 'Defect', title: 'Hinge' })
    const path = `/items/${made.body.ref}`
    const edit = async (estimate: number, match: string, prefer: string): Promise<Reply> =>
      await tom('PATCH', path, { estimate }, { 'if-match': match, prefer })
    const first = await edit(3, '*', 'return=minimal')
    expect(first).toMatchObject({ status: 204, body: '' })
    const second = await edit(5, first.etag, 'respond-async; wait=10, Return = "minimal"')
    expect(second.status).toBe(204)
    const same = await edit(5, second.etag, 'return=minimal')
    expect(same.etag).toBe(second.etag)
    expect((await edit(8, first.etag, 'return=minimal')).status).toBe(412)
    expect(await edit(5, second.etag, 'return=representation')).toMatchObject({
      status: 200,
      body: { estimate: 5, etag: second.etag },
    })
    expect((await tom('GET', path)).etag).toBe(second.etag)
  })

  it('writes different changes of three hundred items in as few statements, each with its history', async () => {
    const world = await served.worlds.now()
    const actor = { world, person: personNamed(world, 'Tom Okafor'), now: testNow }
    const items = await rows<{ number: number; estimate: string | null }>(
      served.database,
      `SELECT number, estimate FROM item
      WHERE project_id = 1 AND NOT deleted AND row_from < '2026-11-24' ORDER BY id LIMIT 300`,
    )
    const changes = items.map(({ number }, index) => ({
      ref: `YARD/${number}`,
      change:
        index % 3 === 0
          ? { estimate: index }
          : index % 3 === 1
            ? { title: `Title ${index}`, labels: ['ramp'] }
            : { status: 'st_nowhere' },
    }))
    let judged: Awaited<ReturnType<typeof editMany>>['judged'] = []
    const statements = await statementsOf(async () => {
      ;({ judged } = await editMany(served.database, actor, changes))
    })
    expect(statements.length).toBeLessThanOrEqual(5)
    const refused = changes.filter((_, index) => !judged[index]!.ok)
    expect(refused.every(({ change }) => 'status' in change)).toBe(true)
    const written = await rows<{ number: number; title: string; estimate: string | null }>(
      served.database,
      `SELECT i.number, t.title, i.estimate FROM item i
      JOIN item_text t ON t.item_id = i.id AND t.valid_to = 'infinity'
      JOIN item_version v ON v.id = i.id AND v.valid_to = i.row_from
      WHERE i.project_id = 1 AND i.row_from >= $1 AND i.number = ANY($2::int[])`,
      [testNow, items.map(({ number }) => number)],
    )
    const differing = changes.filter(({ change }, index) =>
      'estimate' in change ? Number(items[index]!.estimate ?? NaN) !== index : 'title' in change,
    )
    expect(written.length).toBe(differing.length)
    const byRef = new Map(written.map((row) => [`YARD/${row.number}`, row]))
    for (const { ref, change } of differing) {
      if ('estimate' in change) expect(Number(byRef.get(ref)!.estimate)).toBe(change.estimate)
      if ('title' in change) expect(byRef.get(ref)!.title).toBe(change.title)
    }
  })

  it('keeps a text that somebody else changed while it waited for the item', async () => {
    const made = await tom('POST', '/items', { project: 'YARD', type: 'Defect', title: 'Hinge' })
    const path = `/items/${made.body.ref}`
    const changes = [{ description: 'squeaks' }, { title: 'Hinge of the ramp' }, { estimate: 5 }]
    await Promise.all(
      changes.map(async (change) => await tom('PATCH', path, change, { 'if-match': '*' })),
    )
    const { body } = await tom('GET', path)
    expect(body).toMatchObject({
      title: 'Hinge of the ramp',
      description: 'squeaks',
      estimate: 5,
    })
  })
})
