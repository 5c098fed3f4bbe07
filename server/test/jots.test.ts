import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { type Caller, type Reply, serveWorkspace, type Served } from './workspace.ts'

let served: Served
let mara: Caller
let tom: Caller
let viewer: Caller
let types: Readonly<Record<string, string>>
beforeAll(async () => {
  served = await serveWorkspace()
  mara = await served.signIn('Mara Thiel')
  tom = await served.signIn('Tom Okafor')
  viewer = await served.signIn('Ida Lund')
  const offers = await mara('GET', '/projects/YARD/offers')
  types = Object.fromEntries(
    offers.body.types.map(({ id, title }: { id: string; title: string }) => [title, id]),
  )
})
afterAll(async () => await served.close())

const jot = async (text: string, by = mara): Promise<Reply> => await by('POST', '/jots', { text })
const listed = async (by = mara): Promise<Reply['body'][]> => (await by('GET', '/jots')).body.jots
const file = async (jots: readonly object[], project = 'YARD', by = mara): Promise<Reply> =>
  await by('POST', '/jots/file', { project, jots })
async function dropAll(): Promise<void> {
  for (const { id } of await listed()) await mara('DELETE', `/jots/${id}`)
}

describe('jotting', () => {
  it('keeps lines as they were written, each below the one it stands below', async () => {
    await dropAll()
    const kept = await jot('Hull\n  Blast\n  Paint\nEngine')
    expect(kept.status).toBe(201)
    const [hull] = kept.body.jots
    expect(kept.body.jots).toMatchObject([
      { title: 'Hull', above: null },
      { title: 'Blast', above: hull.id },
      { title: 'Paint', above: hull.id },
      { title: 'Engine', above: null },
    ])
    expect(await listed()).toEqual(kept.body.jots)
  })

  it('is nobody else’s to see, change, drop or file', async () => {
    const [own] = (await jot('Ask for the tide tables')).body.jots
    expect(await listed(tom)).not.toContainEqual(expect.objectContaining({ id: own.id }))
    expect((await tom('PATCH', `/jots/${own.id}`, { title: 'x' })).status).toBe(404)
    expect((await tom('DELETE', `/jots/${own.id}`)).status).toBe(404)
    expect((await file([{ id: own.id, type: types['Job'] }], 'YARD', tom)).status).toBe(400)
  })

  it('is not for those who may only look', async () => {
    const answer = await viewer('GET', '/session')
    expect(answer.body.person.role).toBe('viewer')
    expect((await jot('x', viewer)).status).toBe(403)
  })

  it.each([
    ['nothing but marks', '- \n* ', 'no title'],
    ['a title too long', `short\n${'a'.repeat(301)}`, '301 characters'],
    ['too many lines', 'a\n'.repeat(501), '501 titles'],
  ])('refuses %s, and keeps nothing of it', async (_, text, told) => {
    const before = await listed()
    const answer = await jot(text)
    expect(answer.status).toBe(400)
    expect(answer.body.detail).toContain(told)
    expect(await listed()).toEqual(before)
  })

  it('is renamed and dropped; what stood below a dropped one stays', async () => {
    const [above, below] = (await jot('Refit\n  Anodes')).body.jots
    const renamed = await mara('PATCH', `/jots/${above.id}`, { title: ' Winter  refit ' })
    expect(renamed.body).toMatchObject({ id: above.id, title: 'Winter refit' })
    expect((await mara('DELETE', `/jots/${above.id}`)).status).toBe(204)
    const left = (await listed()).find(({ id }) => id === below.id)
    expect(left).toMatchObject({ title: 'Anodes', above: null })
  })
})

describe('filing', () => {
  it('makes items of jots, each below the item of the one above it', async () => {
    await dropAll()
    const [hull, blast, engine] = (await jot('Hull\n  Blast it\nEngine')).body.jots
    const filed = await file([
      { id: hull.id, type: types['Work package'] },
      { id: blast.id, type: types['Job'] },
    ])
    expect(filed.status, JSON.stringify(filed.body)).toBe(200)
    const [hullRef, blastRef] = filed.body.refs
    const item = (await mara('GET', `/items/${blastRef}`)).body
    expect(item).toMatchObject({ title: 'Blast it', type: { id: types['Job'] } })
    const above = (await mara('GET', `/items/${hullRef}`)).body
    expect(above.children.map(({ ref }: { ref: string }) => ref)).toEqual([blastRef])
    expect((await listed()).map(({ id }) => id)).toEqual([engine.id])
  })

  it('files all or none, and tells each line that cannot become what was asked', async () => {
    await dropAll()
    const [above, below] = (await jot('Small\n  Large')).body.jots
    const answer = await file([
      { id: above.id, type: types['Job'] },
      { id: below.id, type: types['Work package'] },
    ])
    expect(answer.status).toBeGreaterThanOrEqual(400)
    expect(answer.body.errors[0].pointer).toMatch(/^\/jots\/1/)
    expect(answer.body.detail).toContain('“Large”')
    expect(await listed()).toHaveLength(2)
    const made = await mara('POST', '/items/search', { filter: "title = 'Small'", limit: 1 })
    expect(made.body.total).toBe(0)
  })

  it('goes into no project that one may not see', async () => {
    const [own] = (await jot('Secret')).body.jots
    expect((await file([{ id: own.id, type: types['Job'] }], 'NONE')).status).toBe(400)
  })
})
