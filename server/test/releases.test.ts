import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { testNow } from './setup.ts'
import { type Caller, type Reply, serveWorkspace, type Served } from './workspace.ts'

let served: Served
let mara: Caller
let tom: Caller
let lena: Caller
let at = testNow
beforeAll(async () => {
  served = await serveWorkspace()
  mara = await served.signIn('Mara Thiel')
  tom = await served.signIn('Tom Okafor')
  lena = await served.signIn('Lena Ostrow')
})
afterAll(async () => await served.close())

function later(): void {
  at = new Date(at.getTime() + 60_000)
  served.setNow(at)
}

const make = async (parts: object, by = mara): Promise<Reply> =>
  await by('POST', '/releases', { title: 'Refit 1', projects: ['pr_yard'], ...parts })
const made = async (parts: object): Promise<string> => {
  const answer = await make(parts)
  expect(answer.status, JSON.stringify(answer.body)).toBe(201)
  return answer.body.id
}
const plan = async (id: string, by = mara): Promise<Reply> =>
  await by('GET', `/releases/${id}/plan`)
const give = async (ref: string, release: string | null): Promise<Reply> => {
  const answer = await mara('PATCH', `/items/${ref}`, { release }, { 'If-Match': '*' })
  later()
  return answer
}
const openOf = async (project: string, count: number): Promise<string[]> => {
  const { body } = await mara('POST', '/items/search', {
    filter: `project = '${project}' AND phase IN ('idle', 'active') AND release IS NULL`,
    limit: count,
  })
  return body.items.map(({ ref }: { ref: string }) => ref)
}
const found = async (filter: string): Promise<string[]> => {
  const { body } = await mara('POST', '/items/search', { filter, limit: 50 })
  return body.items.map(({ ref }: { ref: string }) => ref)
}
const wrongAt = ({ body }: Reply): string[] =>
  body.errors.map(({ pointer }: { pointer: string }) => pointer)

describe('making releases', () => {
  it('makes a series by a rule, of several projects', async () => {
    const answer = await mara('POST', '/releases/series', {
      name: 'Berths {n}',
      number: 7,
      projects: ['pr_yard', 'pr_pier'],
      first: '2027-01-04',
      weeks: 13,
      count: 2,
    })
    expect(answer.status, JSON.stringify(answer.body)).toBe(201)
    expect(answer.body.releases).toMatchObject([
      { title: 'Berths 7', start: '2027-01-04', end: '2027-04-04', state: 'planned' },
      { title: 'Berths 8', start: '2027-04-05', end: '2027-07-04' },
    ])
    const { releases } = (await mara('GET', '/releases')).body
    const berths = releases.find(({ title }: { title: string }) => title === 'Berths 7')
    expect(berths.projects.map(({ code }: { code: string }) => code).toSorted()).toEqual([
      'PIER',
      'YARD',
    ])
  })

  it.each([
    ['a title that one of the same projects has', { title: 'berths 8' }, '/title'],
    ['a project that is none', { projects: ['pr_yard', 'pr_none'] }, '/projects/1'],
    ['a last day before the first', { start: '2027-03-01', end: '2027-02-01' }, '/end'],
    ['a day that is none', { end: '2027-02-30' }, '/end'],
  ])('refuses %s', async (_, parts, pointer) => {
    const answer = await make({ title: 'Wrong', ...parts })
    expect(answer.status).toBe(400)
    expect(wrongAt(answer)).toContain(pointer)
  })

  it('takes the title of a release of other projects, and no days at all', async () => {
    const id = await made({ title: 'Berths 7', projects: ['pr_safe'] })
    expect((await plan(id)).body.release).toMatchObject({ start: null, end: null })
  })

  it('is for those who keep every one of its projects, and for administrators', async () => {
    expect((await make({ title: 'Own' }, tom)).status).toBe(201)
    expect((await make({ title: 'Both', projects: ['pr_yard', 'pr_pier'] }, tom)).status).toBe(403)
    const id = await made({ title: 'Of both', projects: ['pr_yard', 'pr_pier'] })
    expect((await plan(id, tom)).body).toMatchObject({ mayPlan: false })
    expect((await tom('POST', `/releases/${id}/start`)).status).toBe(403)
  })

  it('changes only the version that was read, and deletes what nothing names', async () => {
    const id = await made({ title: 'Short' })
    const change = async (match: string): Promise<number> =>
      (await mara('PATCH', `/releases/${id}`, { goal: 'All anodes' }, { 'If-Match': match })).status
    expect(await change('"1"')).toBe(200)
    expect(await change('"1"')).toBe(412)
    const gone = await mara('DELETE', `/releases/${id}`, undefined, { 'If-Match': '*' })
    expect(gone.status).toBe(204)
    expect((await plan(id)).status).toBe(404)
  })
})

describe('who sees a release', () => {
  it('tells nothing of one whose projects are all closed to whoever asks', async () => {
    const hidden = await made({ title: 'Secret rota', projects: ['pr_crew'] })
    const half = await made({ title: 'Half seen', projects: ['pr_crew', 'pr_yard'] })
    expect((await plan(hidden, lena)).status).toBe(404)
    expect((await plan(half, lena)).body.release.projects).toEqual([
      { id: 'pr_yard', title: 'Fleet Yard', code: 'YARD' },
    ])
    const told = JSON.stringify([
      (await lena('GET', '/releases')).body,
      (await lena('GET', '/vocabulary')).body,
    ])
    expect(told).not.toContain('Secret rota')
    expect(told).toContain('Half seen')
  })
})

describe('what is in a release', () => {
  it('takes only items of its projects', async () => {
    const id = await made({ title: 'Yard only' })
    const [pier] = await openOf('PIER', 1)
    const answer = await give(pier!, id)
    expect(answer.status).toBe(400)
    expect(answer.body.detail).toContain('“Yard only” is a release of other projects')
    const [own] = await openOf('YARD', 1)
    expect((await give(own!, id)).status).toBe(200)
    const both = await mara(
      'PATCH',
      `/releases/${id}`,
      { projects: ['pr_pier'] },
      { 'If-Match': '*' },
    )
    expect(both.status).toBe(409)
    expect(both.body.detail).toContain('Items of Fleet Yard are in “Yard only”')
  })

  it('lies differently far in each of its projects', async () => {
    const first = await made({ title: 'S 1', projects: ['pr_safe'], end: '2027-01-10' })
    const shared = await made({
      title: 'S 2',
      projects: ['pr_safe', 'pr_crew'],
      end: '2027-02-10',
    })
    const [safe] = await openOf('SAFE', 1)
    const [crew] = await openOf('CREW', 1)
    const offsetOf = async (ref: string): Promise<unknown> =>
      (await mara('GET', `/items/${ref}?fields=ref,release_offset`)).body.release_offset
    await give(safe!, shared)
    await give(crew!, shared)
    expect([await offsetOf(safe!), await offsetOf(crew!)]).toEqual([1, 0])
    expect(await found("project = 'CREW' AND release_offset = 0")).toEqual([crew])
    expect(await found("project = 'SAFE' AND release_offset = 1")).toEqual([safe])
    expect(await found(`release = 'S 1'`)).toEqual([])
    expect((await plan(first)).body.next).toContainEqual({ id: shared, title: 'S 2' })
  })

  it('remembers what was committed, and finishes all or nothing', async () => {
    const [id, next] = [
      await made({ title: 'Now', end: '2026-12-20' }),
      await made({ title: 'Then', end: '2027-03-20' }),
    ]
    const [stays, comes] = await openOf('YARD', 2)
    await give(stays!, id)
    expect((await mara('POST', `/releases/${id}/start`)).body).toMatchObject({ state: 'running' })
    later()
    await give(comes!, id)
    const { outcome } = (await plan(id)).body
    expect(outcome.committed.refs).toEqual([stays])
    expect(outcome.later.refs).toEqual([comes])
    const safe = await made({ title: 'Elsewhere', projects: ['pr_safe'] })
    const finish = async (to: string | null): Promise<Reply> =>
      await mara('POST', `/releases/${id}/finish`, { to })
    const wrong = await finish(safe)
    expect(wrong.status).toBe(409)
    expect(wrong.body.detail).toContain('is a release of other projects')
    expect((await plan(id)).body.release.state).toBe('running')
    expect((await finish(next)).body).toMatchObject({ state: 'finished', items: 2 })
    expect((await plan(next)).body.outcome.inside.refs.toSorted()).toEqual(
      [stays, comes].toSorted(),
    )
    const gone = await mara('DELETE', `/releases/${id}`, undefined, { 'If-Match': '*' })
    expect(gone.status).toBe(409)
  })
})
