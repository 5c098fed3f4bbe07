import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { testNow } from './setup.ts'
import { type Caller, type Reply, serveWorkspace, type Served } from './workspace.ts'

let served: Served
let mara: Caller
let tom: Caller
let at = testNow
beforeAll(async () => {
  served = await serveWorkspace()
  mara = await served.signIn('Mara Thiel')
  tom = await served.signIn('Tom Okafor')
})
afterAll(async () => await served.close())

function later(): void {
  at = new Date(at.getTime() + 60_000)
  served.setNow(at)
}

const make = async (parts: object, by = mara): Promise<Reply> =>
  await by('POST', '/iterations', {
    title: 'Later',
    team: 'tm_yard',
    start: '2027-03-01',
    end: '2027-03-12',
    ...parts,
  })
const made = async (parts: object): Promise<string> => {
  const answer = await make(parts)
  expect(answer.status, JSON.stringify(answer.body)).toBe(201)
  return answer.body.id
}
const plan = async (id: string): Promise<Reply['body']> =>
  (await mara('GET', `/iterations/${id}/plan`)).body
const put = async (ref: string, iteration: string | null): Promise<void> => {
  const answer = await mara('PATCH', `/items/${ref}`, { iteration }, { 'If-Match': '*' })
  expect(answer.status, JSON.stringify(answer.body)).toBe(200)
  later()
}
const openRefs = async (count: number): Promise<string[]> => {
  const { body } = await mara('POST', '/items/search', {
    filter: "project = 'YARD' AND phase IN ('idle', 'active') AND iteration IS NULL",
    limit: count,
  })
  return body.items.map(({ ref }: { ref: string }) => ref)
}
const held = async (ref: string): Promise<unknown> =>
  (await mara('GET', `/items/${ref}`)).body.iteration?.id

describe('making iterations', () => {
  it('makes a series that follows without a gap', async () => {
    const answer = await mara('POST', '/iterations/series', {
      name: 'Yard {n}',
      number: 4,
      team: 'tm_yard',
      first: '2027-01-04',
      weeks: 2,
      count: 3,
    })
    expect(answer.status, JSON.stringify(answer.body)).toBe(201)
    expect(answer.body.iterations).toMatchObject([
      { title: 'Yard 4', start: '2027-01-04', end: '2027-01-17', state: 'planned' },
      { title: 'Yard 5', start: '2027-01-18', end: '2027-01-31' },
      { title: 'Yard 6', start: '2027-02-01', end: '2027-02-14' },
    ])
    const { iterations } = (await mara('GET', '/iterations')).body
    expect(iterations.map(({ title }: { title: string }) => title)).toEqual(
      expect.arrayContaining(['Yard 4', 'Yard 5', 'Yard 6']),
    )
  })

  it.each([
    ['days that another has', { start: '2027-01-10', end: '2027-01-20' }, '/start', '“Yard 4”'],
    ['a title that another has', { title: 'yard 5' }, '/title', '“yard 5” already'],
    ['a last day before the first', { end: '2027-02-01' }, '/end', 'before the first'],
    ['a day that is none', { start: '2027-02-30' }, '/start', 'no day'],
    ['a team that is none', { team: 'tm_none' }, '/team', 'no such team'],
  ])('refuses %s', async (_, parts, pointer, words) => {
    const answer = await make(parts)
    expect(answer.status).toBe(400)
    expect(answer.body.errors[0]).toMatchObject({ pointer })
    expect(answer.body.detail).toContain(words)
  })

  it('refuses a series whose titles are the same', async () => {
    const answer = await mara('POST', '/iterations/series', {
      name: 'Yard',
      number: 1,
      first: '2029-01-01',
      weeks: 1,
      count: 2,
    })
    expect(answer.body.errors[0]).toMatchObject({ pointer: '/name' })
  })

  it('is for those who belong to the team, and for administrators', async () => {
    expect((await make({ title: 'Own', start: '2027-05-03', end: '2027-05-09' }, tom)).status).toBe(
      201,
    )
    expect((await make({ team: 'tm_apps' }, tom)).status).toBe(403)
    expect((await make({ team: null }, tom)).status).toBe(403)
  })

  it('changes only the version that was read, and deletes what nothing names', async () => {
    const id = await made({ title: 'Short', start: '2027-06-01', end: '2027-06-04' })
    const change = async (match: string): Promise<number> =>
      (await mara('PATCH', `/iterations/${id}`, { goal: 'All anodes' }, { 'If-Match': match }))
        .status
    expect(await change('"1"')).toBe(200)
    expect(await change('"1"')).toBe(412)
    expect((await mara('DELETE', `/iterations/${id}`, undefined, { 'If-Match': '*' })).status).toBe(
      204,
    )
    expect((await mara('GET', `/iterations/${id}/plan`)).status).toBe(404)
  })
})

describe('planning and finishing', () => {
  it('remembers what was committed, and tells what came later, went out and is left', async () => {
    const [id, next] = [
      await made({ title: 'This', start: '2026-11-23', end: '2026-12-06' }),
      await made({ title: 'Next', start: '2026-12-07', end: '2026-12-20' }),
    ]
    const [stays, goes, comes, done] = await openRefs(4)
    for (const ref of [stays!, goes!, done!]) await put(ref, id)
    later()
    expect((await mara('POST', `/iterations/${id}/start`)).body).toMatchObject({ state: 'running' })
    expect((await mara('POST', `/iterations/${id}/start`)).status).toBe(409)
    later()
    await put(goes!, null)
    await put(comes!, id)
    const { outcome, next: places } = await plan(id)
    expect(outcome.committed.refs.toSorted()).toEqual([stays, goes, done].toSorted())
    expect(outcome.later.refs).toEqual([comes])
    expect(outcome.left.refs).toEqual([goes])
    expect(places).toContainEqual({ id: next, title: 'Next' })

    later()
    const finish = async (body: object): Promise<Reply> =>
      await mara('POST', `/iterations/${id}/finish`, body)
    const wrong = await finish({ to: 'it_none', others: [{ ref: goes, to: null }] })
    expect(wrong.body.errors.map(({ pointer }: { pointer: string }) => pointer)).toEqual([
      '/to',
      '/others/0/ref',
    ])
    expect((await plan(id)).iteration.state).toBe('running')

    const finished = await finish({ to: next, others: [{ ref: comes, to: null }] })
    expect(finished.body, JSON.stringify(finished.body)).toMatchObject({ state: 'finished' })
    expect([await held(stays!), await held(done!), await held(comes!)]).toEqual([
      next,
      next,
      undefined,
    ])
    later()
    const after = (await plan(id)).outcome
    expect(after.inside.refs.toSorted()).toEqual([stays, comes, done].toSorted())
    expect(after.open.refs).toHaveLength(3)
    expect((await finish({ to: null })).status).toBe(409)
    expect((await mara('DELETE', `/iterations/${id}`, undefined, { 'If-Match': '*' })).status).toBe(
      409,
    )
  })

  it('is started and finished once, however many try at the same moment, and also with nothing in it', async () => {
    const id = await made({ title: 'Raced', start: '2026-12-21', end: '2027-01-03' })
    const atOnce = async (act: string, body?: object): Promise<number[]> =>
      (
        await Promise.all(
          [1, 2, 3].map(async () => (await mara('POST', `/iterations/${id}/${act}`, body)).status),
        )
      ).toSorted((a, b) => a - b)
    const [started, ...notStarted] = await atOnce('start')
    expect(started).toBe(200)
    for (const status of notStarted) expect([409, 412]).toContain(status)
    later()
    const [finished, ...notFinished] = await atOnce('finish', { to: null })
    expect(finished).toBe(200)
    for (const status of notFinished) expect([409, 412]).toContain(status)
  })

  it('starts nothing that is over, and finishes nothing that was not started', async () => {
    const id = await made({ title: 'Past', start: '2026-01-05', end: '2026-01-16' })
    expect((await mara('POST', `/iterations/${id}/start`)).status).toBe(409)
    expect((await mara('POST', `/iterations/${id}/finish`, { to: null })).status).toBe(409)
  })

  it('asks by name and by offset what was planned', async () => {
    const id = await made({ title: 'Named', start: '2028-01-03', end: '2028-01-14' })
    const [ref] = await openRefs(1)
    await put(ref!, id)
    const found = await mara('POST', '/items/search', { filter: "iteration = 'Named'", limit: 5 })
    expect(found.body.items.map((item: { ref: string }) => item.ref)).toEqual([ref])
  })
})

describe('capacity and absences', () => {
  it('takes the days on which people are away from what they can work', async () => {
    const id = await made({ title: 'Away', start: '2027-09-06', end: '2027-09-17' })
    const before = (await plan(id)).capacity
    const person = before.people.find(({ title }: { title: string }) => title === 'Tom Okafor')
    const absence = await tom('POST', '/absences', {
      person: person.id,
      start: '2027-09-08',
      end: '2027-09-12',
      note: 'Course',
    })
    expect(absence.status, JSON.stringify(absence.body)).toBe(201)
    const after = (await plan(id)).capacity
    expect(after.workingDays).toBe(before.workingDays)
    expect(after.people.find(({ id }: { id: string }) => id === person.id)).toMatchObject({
      days: person.days - 3,
      away: 3,
    })
    expect(after.days).toBe(before.days - 3)
    expect((await tom('DELETE', `/absences/${absence.body.id}`)).status).toBe(204)
    expect((await plan(id)).capacity).toEqual(before)
    expect((await tom('DELETE', `/absences/${absence.body.id}`)).status).toBe(404)
    expect((await tom('DELETE', '/absences/nothing')).status).toBe(404)
  })

  it('is told by oneself or by an administrator, with days in order', async () => {
    const own = (await mara('GET', '/session')).body.person.id
    const tell = async (parts: object, by = mara): Promise<number> =>
      (
        await by('POST', '/absences', {
          person: own,
          start: '2027-01-04',
          end: '2027-01-05',
          ...parts,
        })
      ).status
    expect(await tell({}, tom)).toBe(403)
    expect(await tell({ end: '2027-01-03' })).toBe(400)
    expect(await tell({ person: 'pe_none' })).toBe(400)
    expect(await tell({})).toBe(201)
    const { absences } = (await tom('GET', '/absences')).body
    const [mine] = absences.filter(({ person }: { person: { id: string } }) => person.id === own)
    expect((await tom('DELETE', `/absences/${mine.id}`)).status).toBe(403)
  })
})
