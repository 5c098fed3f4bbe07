import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { type Caller, serveWorkspace, type Served } from './workspace.ts'

let served: Served
let mara: Caller
let tom: Caller
let lena: Caller
beforeAll(async () => {
  served = await serveWorkspace()
  mara = await served.signIn('Mara Thiel')
  tom = await served.signIn('Tom Okafor')
  lena = await served.signIn('Lena Ostrow')
})
afterAll(async () => await served.close())

const any = { 'if-match': '*' }
const refs = async (filter: string, by = mara): Promise<string[]> => {
  const { status, body } = await by('POST', '/items/search', { filter, limit: 500 })
  expect(status, JSON.stringify(body)).toBe(200)
  return body.items.map(({ ref }: { ref: string }) => ref)
}

describe('the remit of a team in a query', () => {
  it.each([
    ["in_remit('Shore crew')", "project = 'PIER'"],
    ["in_remit('Shore crew') AND type = 'Job'", "project = 'PIER' AND type = 'Job'"],
    ["NOT in_remit('Yard crew')", "NOT (project = 'YARD' AND type <> 'Inspection')"],
  ])('%s finds what %s does', async (asked, meant) => {
    expect(await refs(asked)).toEqual(await refs(meant))
  })

  it('is that of one’s own teams with my_teams()', async () => {
    const { teams } = (await tom('GET', '/teams')).body
    const session = (await tom('GET', '/session')).body.person.id
    const mine = teams.filter(({ people }: { people: string[] }) => people.includes(session))
    expect(mine.length).toBeGreaterThan(0)
    const named = mine.map(({ title }: { title: string }) => `in_remit('${title}')`).join(' OR ')
    expect(await refs('in_remit(my_teams())', tom)).toEqual(await refs(named, tom))
    expect((await refs('in_remit(my_teams())', tom)).length).toBeGreaterThan(0)
  })

  it('says which team there is none of, and that a name or my_teams() is taken', async () => {
    const check = async (filter: string): Promise<string> =>
      (await mara('POST', '/queries/check', { filter })).body.errors[0].message
    expect(await check("in_remit('Yard crw')")).toContain("Did you mean 'Yard crew'?")
    expect(await check('in_remit(me())')).toContain('my_teams()')
  })

  it('follows the remit as it changes, and counts one that cannot tell as no', async () => {
    const made = await mara('POST', '/teams', {
      title: 'Late crew',
      remit: "due < DATE('2001-01-01')",
    })
    expect(await refs("in_remit('Late crew')")).toEqual([])
    const everything = await refs('TRUE')
    expect(await refs("NOT in_remit('Late crew')")).toEqual(everything)
    await mara('PATCH', `/teams/${made.body.id}`, { remit: "type = 'Finding'" }, any)
    expect(await refs("in_remit('Late crew')")).toEqual(await refs("type = 'Finding'"))
  })

  it('shows nothing of items that may not be seen', async () => {
    await mara('POST', '/teams', { title: 'Rota crew', remit: "project = 'CREW'" })
    expect((await refs("in_remit('Rota crew')")).length).toBeGreaterThan(0)
    expect(await refs("in_remit('Rota crew')", lena)).toEqual([])
  })

  it.each([
    ["in_remit('Yard crew')", 'cannot look at the remit of a team'],
    ["A_CONTAINS(my_teams(), ('Yard crew'))", 'cannot ask who is looking'],
  ])('is not told by %s', async (remit, words) => {
    const answer = await mara('POST', '/teams', { title: 'In a circle', remit })
    expect(answer.status).toBe(400)
    expect(answer.body.detail).toContain(words)
  })

  it('keeps a team that a kept query asks for', async () => {
    const { body: team } = await mara('POST', '/teams', { title: 'Asked for', remit: 'TRUE' })
    const query = await mara('POST', '/queries', {
      title: 'Theirs',
      content: { filter: "in_remit('Asked for')", columns: ['ref'], order: [] },
    })
    expect(query.status, JSON.stringify(query.body)).toBe(201)
    const remove = async (): Promise<{ status: number; body: { detail: string } }> =>
      await mara('DELETE', `/teams/${team.id}`, undefined, any)
    const refusal = await remove()
    expect(refusal.status).toBe(409)
    expect(refusal.body.detail).toContain('asks for what is in the remit of “Asked for”')
    await mara('PATCH', `/teams/${team.id}`, { title: 'Renamed' }, any)
    expect((await remove()).body.detail).toContain('in the remit of “Renamed”')
    await mara('DELETE', `/queries/${query.body.id}`, undefined, any)
    expect((await remove()).status).toBe(204)
  })

  it('lets an item be made straight among its answers', async () => {
    const filter = {
      op: 'and',
      args: [
        { op: 'in_remit', args: ['tm_shore'] },
        { op: '=', args: [{ property: 'type' }, 'ty_job'] },
      ],
    }
    const { body } = await mara('POST', '/items/born', { filter })
    expect(body).toMatchObject({ project: 'pr_pier', type: 'ty_job', unmet: [] })
  })
})
