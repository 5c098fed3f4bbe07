import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { rows } from '../src/database/connect.ts'
import { testNow } from './setup.ts'
import { type Caller, serveWorkspace, type Served } from './workspace.ts'

let served: Served
let mara: Caller
let greta: Caller
beforeAll(async () => {
  served = await serveWorkspace()
  mara = await served.signIn('Mara Thiel')
  greta = await served.signIn('Greta Holm')
})
afterAll(async () => await served.close())

const any = { 'if-match': '*' }
const others = ['la_free2', 'la_free3']
const merge = async (): Promise<number> => {
  const done = await mara('POST', '/labels/merge', { into: 'la_free1', from: others })
  expect(done.status, JSON.stringify(done.body)).toBe(200)
  return (await mara('GET', '/merges')).body.merges[0].id
}
const held = async (column: 'labels' | 'components'): Promise<object[]> =>
  await rows(served.database, `SELECT id, ${column}, changed_at FROM item ORDER BY id`)
const text = async (query: string): Promise<string> =>
  (await mara('GET', `/queries/${query}`)).body.text

describe('a merge that is undone', () => {
  it('leaves items, what is saved and the labels as they were', async () => {
    const [items, query] = [await held('labels'), await text('qu_ramps')]
    const id = await merge()
    expect([await held('labels'), await text('qu_ramps')]).not.toEqual([items, query])
    const undone = await mara('POST', `/merges/${id}/undo`)
    expect(undone.body).toMatchObject({ changedSince: 0 })
    expect(undone.body.items).toBeGreaterThan(0)
    expect([await held('labels'), await text('qu_ramps')]).toEqual([items, query])
    const labels = (await mara('GET', '/labels')).body.labels
    expect(
      labels.filter(
        (label: { id: string; retired: boolean }) => others.includes(label.id) && label.retired,
      ),
    ).toEqual([])
    expect((await mara('GET', '/merges')).body.merges).toEqual([])
    expect((await mara('POST', `/merges/${id}/undo`)).body.detail).toContain('undone already')
  })

  it('keeps what was changed since on items and in what is saved', async () => {
    const [before] = await rows<{ ref: string }>(
      served.database,
      `SELECT p.code || '/' || i.number AS ref FROM item i JOIN project p ON p.id = i.project_id
      WHERE i.labels @> ARRAY[(SELECT id FROM label WHERE identity = 'la_free2')] AND NOT i.deleted LIMIT 1`,
    )
    const titles = async (): Promise<string[]> =>
      (await mara('GET', `/items/${before!.ref}`)).body.labels.map(
        (label: { title: string }) => label.title,
      )
    const was = await titles()
    const id = await merge()
    const now = (await mara('GET', `/items/${before!.ref}`)).body.labels
    const given = [...now.map((entry: { id: string }) => entry.id), 'la_free6']
    expect((await mara('PATCH', `/items/${before!.ref}`, { labels: given }, any)).status).toBe(200)
    const asked = await mara('PATCH', '/queries/qu_ramps', { title: 'Ramps, all of them' }, any)
    expect(asked.status, JSON.stringify(asked.body)).toBe(200)
    const content = { filter: "A_CONTAINS(labels, ('ramp'))", columns: ['ref'], order: [] }
    expect((await mara('PATCH', '/queries/qu_ramps', { content }, any)).status).toBe(200)
    expect((await mara('POST', `/merges/${id}/undo`)).body.changedSince).toBeGreaterThan(0)
    expect(await text('qu_ramps')).toBe("A_CONTAINS(labels, ('ramp'))")
    const added = (await mara('GET', '/labels')).body.labels.find(
      (label: { id: string }) => label.id === 'la_free6',
    )
    expect((await titles()).toSorted()).toEqual([...was, added.title].toSorted())
  })

  it('is no matter of those who may not change the labels, and ends with the next edition', async () => {
    const id = await merge()
    expect((await greta('GET', '/merges')).body.merges).toEqual([])
    expect((await greta('POST', `/merges/${id}/undo`)).status).toBe(403)
    const made = await mara('POST', '/definitions/drafts', {
      title: 'Another word',
      edits: [{ path: ['statuses', 'st_open', 'title'], before: 'Open', after: 'To do' }],
    })
    const published = await mara('POST', `/definitions/drafts/${made.body.id}/publish`, {}, any)
    expect(published.status, JSON.stringify(published.body)).toBe(201)
    expect((await mara('GET', '/merges')).body.merges).toEqual([])
    expect((await mara('POST', `/merges/${id}/undo`)).body.detail).toContain(
      'An edition was published since',
    )
    expect((await mara('POST', '/merges/99999999999/undo')).status).toBe(404)
  })

  it('is of the later one first, where two have something in common', async () => {
    await mara('PATCH', '/labels/la_free2', { retired: false }, any)
    await mara('PATCH', '/labels/la_free3', { retired: false }, any)
    const items = await held('labels')
    const ids: number[] = []
    for (const [place, from] of others.entries()) {
      served.setNow(new Date(testNow.getTime() + (place + 1) * 60_000))
      await mara('POST', '/labels/merge', { into: 'la_free1', from: [from] })
      ids.push((await mara('GET', '/merges')).body.merges[0].id)
    }
    const offered = (await mara('GET', '/merges')).body.merges
    expect(offered.map(({ id }: { id: number }) => id)).toEqual([ids[1]])
    expect((await mara('POST', `/merges/${ids[0]}/undo`)).body.detail).toContain('undo that first')
    for (const id of ids.toReversed())
      expect((await mara('POST', `/merges/${id}/undo`)).status).toBe(200)
    expect(await held('labels')).toEqual(items)
  })

  it('does the same for components', async () => {
    const items = await held('components')
    const made = await mara('POST', '/components/merge', {
      into: 'co_yard1',
      from: ['co_yard2'],
    })
    expect(made.body.items).toBeGreaterThan(0)
    const [merged] = (await mara('GET', '/merges')).body.merges
    expect(merged).toMatchObject({ kind: 'components', into: { id: 'co_yard1' } })
    expect((await mara('POST', `/merges/${merged.id}/undo`)).body.items).toBe(made.body.items)
    expect(await held('components')).toEqual(items)
  })
})
