import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { serveWorkspace, type Caller, type Served } from './workspace.ts'

let served: Served
let mara: Caller
let tom: Caller
beforeAll(async () => {
  served = await serveWorkspace()
  mara = await served.signIn('Mara Thiel')
  tom = await served.signIn('Tom Okafor')
})
afterAll(async () => await served.close())

const makeDefect = async (
  title: string,
  more: object = {},
): Promise<{ ref: string; etag: string }> =>
  (await tom('POST', '/items', { project: 'YARD', type: 'Defect', title, ...more })).body

describe('items', () => {
  it('are made once for one intention', async () => {
    const make = async () =>
      await tom(
        'POST',
        '/items',
        { project: 'YARD', type: 'Defect', title: 'Twice pressed' },
        { 'idempotency-key': 'press-1' },
      )
    const [first, second] = [await make(), await make()]
    expect([first.status, second.status, second.body.ref]).toEqual([201, 200, first.body.ref])
  })

  it('need the version a change is meant for, and tell who was faster', async () => {
    const { ref, etag } = await makeDefect('Raced for')
    expect((await tom('PATCH', `/items/${ref}`, { title: 'x' })).status).toBe(428)
    expect(
      (await tom('PATCH', `/items/${ref}`, { estimate: 3 }, { 'if-match': etag })).status,
    ).toBe(200)
    const late = await mara('PATCH', `/items/${ref}`, { estimate: 5 }, { 'if-match': etag })
    expect(late.status).toBe(412)
    expect(late.body.changed[0]).toMatchObject({
      by: { title: 'Tom Okafor' },
      words: [[{ text: 'set estimate to ' }, { text: '3', value: true }]],
    })
    expect((await mara('GET', `/items/${ref}`)).body.estimate).toBe(3)
  })

  it('refuse a move off their flow with where they may go instead, and keep everything as it was', async () => {
    const { ref } = await makeDefect('Not so fast')
    const refused = await tom(
      'PATCH',
      `/items/${ref}`,
      { status: 'Signed off', title: 'Changed on the way' },
      { 'if-match': '*' },
    )
    expect(refused.status).toBe(409)
    expect(refused.body.detail).toBe(
      'A Defect does not go from Open to Signed off. From Open it may go to In hand, Waiting for parts or Withdrawn.',
    )
    expect(refused.body.allowed.map((entry: { id: string }) => entry.id)).toEqual([
      'st_hand',
      'st_parts',
      'st_withdrawn',
    ])
    expect((await tom('GET', `/items/${ref}`)).body.title).toBe('Not so fast')
  })

  it('tell every value that does not fit, each with its place and what would do', async () => {
    const { status, body } = await tom('POST', '/items', {
      project: 'YARD',
      type: 'Defect',
      title: '  ',
      due: '2026-02-30',
      estimate: 'much',
      fields: { berth: 'Nort Pier 1', lost: 1, hours_lost: '1.25' },
    })
    expect(status).toBe(400)
    expect(body.errors.map((error: { pointer: string }) => error.pointer).sort()).toEqual([
      '/due',
      '/estimate',
      '/fields/berth',
      '/fields/hours_lost',
      '/fields/lost',
      '/title',
    ])
    expect(body.errors.every((error: { expected?: string }) => error.expected)).toBe(true)
  })

  it('keep every state: history says who, when and what, and as-of shows it as it was', async () => {
    served.setNow(new Date('2026-11-26T09:00:00Z'))
    const { ref } = await makeDefect('With a past', { priority: 'Passenger nuisance' })
    served.setNow(new Date('2026-11-27T09:00:00Z'))
    await mara(
      'PATCH',
      `/items/${ref}`,
      { status: 'In hand', priority: 'Sailing stopped', labels: ['deck: hull'] },
      { 'if-match': '*' },
    )
    served.setNow(new Date('2026-11-28T09:00:00Z'))
    await tom(
      'PATCH',
      `/items/${ref}`,
      { labels: ['deck: hull', 'deck: saloon', 'ramp'] },
      { 'if-match': '*' },
    )
    await tom('POST', `/items/${ref}/comments`, { body: 'Looked at it.' })
    const { versions } = (await tom('GET', `/items/${ref}/history`)).body
    const lines = versions.map(
      (version: { by: { title: string }; words: { text: string }[][] }) =>
        `${version.by.title} ${version.words.map((line) => line.map((said) => said.text).join('')).join('; ')}`,
    )
    expect(lines).toEqual([
      'Tom Okafor raised it',
      'Mara Thiel moved it from Open to In hand; raised the priority from Passenger nuisance to Sailing stopped; added labels deck: hull',
      'Tom Okafor added labels deck: saloon, ramp; took away labels deck: hull',
      'Tom Okafor said something',
    ])
    for (const [index, version] of versions.slice(0, -1).entries())
      expect(version.to).toBe(versions[index + 1].from)
    const was = (
      await tom('POST', '/items/search', {
        filter: `ref = '${ref}'`,
        fields: 'status,labels',
        'as-of': '2026-11-26',
      })
    ).body
    expect(was.items[0].status.title).toBe('Open')
  })

  it('that are deleted answer no question any more, and keep their history', async () => {
    const { ref } = await makeDefect('Not wanted')
    expect((await tom('DELETE', `/items/${ref}`, undefined, { 'if-match': '*' })).status).toBe(204)
    expect((await tom('GET', `/items/${ref}`)).status).toBe(404)
    expect((await tom('POST', '/items/search', { filter: `ref = '${ref}'` })).body.total).toBe(0)
    expect((await tom('GET', `/items/${ref}/history`)).body.versions).toHaveLength(2)
  })

  it('stand only below a higher tier', async () => {
    const [defect, check] = [
      await makeDefect('Above'),
      (await tom('POST', '/items', { project: 'YARD', type: 'Check', title: 'Below' })).body,
    ]
    expect(
      (await tom('PATCH', `/items/${check.ref}`, { parent: defect.ref }, { 'if-match': '*' })).body
        .parent.id,
    ).toBe(defect.ref)
    expect(
      (await tom('PATCH', `/items/${defect.ref}`, { parent: check.ref }, { 'if-match': '*' }))
        .status,
    ).toBe(409)
  })

  it('come in pages of any order, each exactly once', async () => {
    for (const sort of [
      '-changed',
      'title',
      'due',
      '-due',
      'priority,ref',
      'assignee',
      'estimate,-created',
      'ref',
      'labels',
      'status',
      'on_hold',
      'position',
    ]) {
      const refs: string[] = []
      let cursor: string | null = ''
      while (cursor !== null) {
        const { status, body } = await tom('POST', '/items/search', {
          filter: "project = 'PIER'",
          sort,
          fields: 'ref',
          limit: 30,
          ...(cursor ? { cursor } : {}),
        })
        expect(status, `${sort} ${JSON.stringify(body)}`).toBe(200)
        refs.push(...body.items.map((item: { ref: string }) => item.ref))
        cursor = body.next
      }
      const whole = (
        await tom('POST', '/items/search', {
          filter: "project = 'PIER'",
          sort,
          fields: 'ref',
          limit: 1000,
        })
      ).body
      expect(refs, sort).toEqual(whole.items.map((item: { ref: string }) => item.ref))
      expect(new Set(refs).size).toBe(whole.total)
    }
  })
})

describe('links', () => {
  const kinds = async (): Promise<Record<string, { title: string; refusesCircles?: boolean }>> =>
    (await mara('GET', '/definitions')).body.document.linkKinds

  it('stand on both items in their own words, close no circle, and end with a trace', async () => {
    const all = Object.entries(await kinds())
    const [kind] = all.find(([, entry]) => entry.refusesCircles) ?? all[0]!
    const [a, b] = [await makeDefect('A'), await makeDefect('B')]
    const body = { kind, direction: 'out', to: b.ref }
    const made = await tom('POST', `/items/${a.ref}/links`, body)
    expect(made.status, JSON.stringify(made.body)).toBe(201)
    const [there] = made.body.links
    const [back] = (await tom('GET', `/items/${b.ref}/links`)).body.links
    expect([there.ref, there.direction, back.ref, back.direction]).toEqual([
      b.ref,
      'out',
      a.ref,
      'in',
    ])
    expect(there.words).not.toBe(back.words)
    const circle = await tom('POST', `/items/${b.ref}/links`, { ...body, to: a.ref })
    expect(circle.status).toBe((await kinds())[kind]!.refusesCircles ? 409 : 201)
    expect((await tom('POST', `/items/${a.ref}/links`, { ...body, to: a.ref })).status).toBe(409)
    expect((await tom('DELETE', `/items/${b.ref}/links/${there.id}`)).status).toBe(204)
    expect((await tom('GET', `/items/${a.ref}/links`)).body.links).toEqual([])
    expect((await tom('DELETE', `/items/${a.ref}/links/${there.id}`)).status).toBe(404)
    const { versions } = (await tom('GET', `/items/${a.ref}/history`)).body
    expect(versions).toHaveLength(3)
  })
})
