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
      (await item(held.body.ref)).components.map((component: { title: string }) => component.title),
    ).toEqual(['MV Petrel'])
    expect(
      (await tom('POST', '/components/merge', { into: 'co_yard1', from: ['co_pier1'] })).body
        .detail,
    ).toContain('another project')
    expect(
      (await mara('GET', '/components')).body.components.find(
        (component: { id: string }) => component.id === 'co_yard6',
      ).keeper.title,
    ).toBe('Tom Okafor')
  })
})
