import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { rows } from '../src/database/connect.ts'
import { runJobs } from './jobWorker.ts'
import { testNow } from './setup.ts'
import { type Caller, type Reply, serveWorkspace, type Served } from './workspace.ts'

let served: Served
let mara: Caller
let lena: Caller
let at = testNow
beforeAll(async () => {
  served = await serveWorkspace()
  mara = await served.signIn('Mara Thiel')
  lena = await served.signIn('Lena Ostrow')
})
afterAll(async () => await served.close())

function later(): void {
  at = new Date(at.getTime() + 60_000)
  served.setNow(at)
}

const preview = async (
  refs: readonly string[],
  change: object,
  by = mara,
): Promise<Reply['body']> =>
  (await by('POST', '/items/bulk/preview', { items: { refs }, change })).body
async function carriedOut(refs: readonly string[], change: object): Promise<Reply['body']> {
  const { body } = await mara('POST', '/items/bulk', {
    items: { refs },
    change,
    total: refs.length,
  })
  await runJobs(served, () => at)
  later()
  return (await mara('GET', `/bulk/${body.id}`)).body
}
const some = async (filter: string, limit: number): Promise<string[]> => {
  const { body } = await mara('POST', '/items/search', { filter, limit })
  return body.items.map(({ ref }: { ref: string }) => ref)
}
const item = async (ref: string): Promise<Reply> => await mara('GET', `/items/${ref}`)
/** Where an item is that had a ref before. */
const now = async (ref: string): Promise<string> => (await item(ref)).body.moved
const held = async (): Promise<string[]> =>
  (
    await rows<{ item: string }>(
      served.database,
      `SELECT (to_jsonb(i) - 'row_from' - 'changed_at' - 'by_kind' - 'by_id')::text AS item FROM item i ORDER BY id`,
    )
  ).map((row) => row.item)

describe('items that go to another project', () => {
  it('get numbers and places there, lead there from their old refs, and come back as they were', async () => {
    const before = await held()
    const refs = await some("project = 'YARD' AND type = 'Defect' AND phase = 'idle'", 5)
    const last = (await some("project = 'PIER'", 1))[0]!
    expect(last).toContain('PIER/')
    const seen = await preview(refs, { project: 'pr_pier' })
    expect(seen).toMatchObject({ total: 5, changed: 5, refused: [] })
    expect(seen.words).toEqual(['They go to Piers and Shore'])
    const done = await carriedOut(refs, { project: 'pr_pier' })
    expect(done).toMatchObject({ changed: 5, refused: [] })

    const there = await Promise.all(refs.map(now))
    expect(new Set(there).size).toBe(5)
    for (const ref of there) expect(ref).toMatch(/^PIER\//)
    const gone = await item(refs[0]!)
    expect(gone.status).toBe(404)
    expect(gone.body.detail).toBe(`${refs[0]} went to another project; it is ${there[0]} now.`)
    const { versions } = (await mara('GET', `/items/${there[0]}/history`)).body
    expect(JSON.stringify(versions.at(-1).words)).toContain('Piers and Shore')

    const { body } = await mara('POST', `/bulk/${done.id}/undo`)
    await runJobs(served, () => at)
    later()
    expect((await mara('GET', `/bulk/${body.id}`)).body).toMatchObject({ changed: 5 })
    expect(await held()).toEqual(before)
    expect((await item(refs[0]!)).status).toBe(200)
    expect(await now(there[0]!)).toBe(refs[0])
  })

  it('were in their old project when asked as of an earlier moment', async () => {
    const [ref] = await some("project = 'YARD' AND type = 'Defect' AND phase = 'idle'", 1)
    const before = new Date(at.getTime() - 30_000).toISOString()
    await carriedOut([ref!], { project: 'pr_pier' })
    const { body } = await mara('POST', '/items/search', {
      filter: "project = 'YARD'",
      'as-of': before,
      limit: 500,
    })
    expect(body.items.map((item: { ref: string }) => item.ref)).toContain(ref)
    expect(await some(`project = 'PIER' AND ref = '${await now(ref!)}'`, 2)).toHaveLength(1)
  })

  it('keep only what the other project has, and are told before', async () => {
    const [ref] = await some("project = 'YARD' AND type = 'Defect' AND status = 'Open'", 1)
    const label = await mara('POST', '/labels', { title: 'yard only', project: 'pr_yard' })
    const components = await Promise.all(
      ['YARD', 'PIER'].map(
        async (code) =>
          (
            await mara('POST', '/components', {
              title: 'Common crane',
              project: `pr_${code.toLowerCase()}`,
            })
          ).body.id,
      ),
    )
    const own = await mara('POST', '/components', { title: 'Slipway only', project: 'pr_yard' })
    const release = await mara('POST', '/releases', { title: 'Refit 9', projects: ['pr_yard'] })
    const given = await mara(
      'PATCH',
      `/items/${ref}`,
      {
        labels: [label.body.id],
        components: [components[0], own.body.id],
        release: release.body.id,
      },
      { 'If-Match': '*' },
    )
    expect(given.status, JSON.stringify(given.body)).toBe(200)
    later()
    const { besides } = await preview([ref!], { project: 'pr_pier' })
    expect(besides.map(({ message }: { message: string }) => message)).toEqual(
      expect.arrayContaining([
        'Labels: “yard only” becomes nothing.',
        'Release: “Refit 9” becomes nothing.',
        'Components: “Common crane”, “Slipway only” becomes “Common crane”.',
      ]),
    )
    await carriedOut([ref!], { project: 'pr_pier' })
    const { body } = await item(await now(ref!))
    expect(body).toMatchObject({ labels: [], release: null, project: { id: 'pr_pier' } })
    expect(body.components.map(({ id }: { id: string }) => id)).toEqual([components[1]])
  })

  it('are refused where the other project has no such type or status, unless it is said what they become', async () => {
    const [finding] = await some("project = 'SAFE' AND type = 'Finding' AND phase = 'active'", 1)
    const refused = await preview([finding!], { project: 'pr_yard' })
    expect(refused).toMatchObject({ changed: 0 })
    expect(refused.refused[0].message).toContain('Fleet Yard has no items of type Finding')
    const types = { ty_finding: 'ty_defect' }
    const unplaced = await preview([finding!], { project: 'pr_yard', types })
    const change = { project: 'pr_yard', types, statuses: {} as Record<string, string> }
    if (unplaced.changed === 0) {
      expect(unplaced.refused[0].message).toContain('say which status it gets')
      const { body } = await item(finding!)
      change.statuses = { [body.status.id]: 'st_hand' }
    }
    expect(await carriedOut([finding!], change)).toMatchObject({ changed: 1 })
    const { body } = await item(await now(finding!))
    expect(body).toMatchObject({ type: { id: 'ty_defect' }, project: { id: 'pr_yard' } })
  })

  it('get a priority of the other ladder that is as urgent', async () => {
    const [ref] = await some(
      "project = 'YARD' AND type = 'Defect' AND status = 'Open' AND rung IS NOT NULL",
      1,
    )
    const told = await preview([ref!], { project: 'pr_fare' })
    expect(told, JSON.stringify(told.refused)).toMatchObject({ changed: 1 })
    expect(JSON.stringify(told.besides)).toContain('Priority: ')
    await carriedOut([ref!], { project: 'pr_fare' })
    const { body } = await item(await now(ref!))
    expect(await some(`ref = '${body.ref}' AND rung IS NOT NULL`, 2)).toHaveLength(1)
  })

  it('do not go where whoever takes them may not see', async () => {
    const [ref] = await some("project = 'YARD' AND type = 'Defect' AND phase = 'idle'", 1)
    const told = await preview([ref!], { project: 'pr_crew' }, lena)
    expect(told.refused).toEqual([
      { message: 'There is no such project, or you may not see it.', count: 1, refs: [ref] },
    ])
    await carriedOut([ref!], { project: 'pr_crew' })
    const gone = await lena('GET', `/items/${ref}`)
    expect(gone.status).toBe(404)
    expect(gone.body).not.toHaveProperty('moved')
  })

  it('go one beside the other when two take some at once, each with a number of its own', async () => {
    const refs = await some("project = 'YARD' AND type = 'Defect' AND phase = 'idle'", 40)
    const halves = [refs.slice(0, 20), refs.slice(20)]
    await Promise.all(
      halves.map(
        async (half) =>
          await mara('POST', '/items/bulk', {
            items: { refs: half },
            change: { project: 'pr_pier' },
            total: half.length,
          }),
      ),
    )
    await Promise.all([runJobs(served, () => at), runJobs(served, () => at)])
    later()
    const there = await Promise.all(refs.map(now))
    expect(new Set(there).size).toBe(refs.length)
  })
})
