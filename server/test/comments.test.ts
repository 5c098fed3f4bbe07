import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { type Caller, type Reply, serveWorkspace, type Served } from './workspace.ts'

let served: Served
let mara: Caller
let tom: Caller
let ida: Caller
beforeAll(async () => {
  served = await serveWorkspace()
  mara = await served.signIn('Mara Thiel')
  tom = await served.signIn('Tom Okafor')
  ida = await served.signIn('Ida Lund')
})
afterAll(async () => await served.close())

let minutes = 0
/** A new item of the yard on which nothing was said yet. */
async function anItem(): Promise<string> {
  const { body } = await tom('POST', '/items', {
    project: 'YARD',
    type: 'ty_defect',
    title: 'Ramp hinge weeps',
  })
  return body.ref
}
/** Says something a minute after what was done last. */
async function later<T>(act: () => Promise<T>): Promise<T> {
  minutes += 1
  served.setNow(new Date(Date.parse('2026-11-25T10:00:00Z') + minutes * 60_000))
  return await act()
}
const say = async (ref: string, body: string, by = tom): Promise<Reply> =>
  await later(async () => await by('POST', `/items/${ref}/comments`, { body }))
const said = async (ref: string, by = tom) =>
  (await by('GET', `/items/${ref}/comments`)).body.comments
const words = async (ref: string): Promise<string[]> =>
  (await tom('GET', `/items/${ref}/history`)).body.versions.flatMap((version: any) =>
    version.words.map((line: any) => line.map(({ text }: any) => text).join('')),
  )
const answers = async (ref: string, filter: string, asOf?: string): Promise<number> => {
  const [code, number] = ref.split('/')
  const own = `${filter} AND ref = '${code}/${number}'`
  const then = asOf ? { 'as-of': asOf } : {}
  return (await tom('POST', '/items/search', { filter: own, ...then })).body.total
}

describe('something said about an item', () => {
  it('is said otherwise by whoever said it, and what it said before stays to be read', async () => {
    const ref = await anItem()
    const { body } = await say(ref, 'It wepts.')
    const [{ id }] = body.comments
    const before = new Date(Date.parse('2026-11-25T10:00:30Z') + minutes * 60_000).toISOString()
    const changed = await later(
      async () => await tom('PATCH', `/items/${ref}/comments/${id}`, { body: 'It weeps.' }),
    )
    expect(changed.body.comments).toMatchObject([
      { id, body: 'It weeps.', by: { title: 'Tom Okafor' }, earlier: [{ body: 'It wepts.' }] },
    ])
    expect(await words(ref)).toEqual(['raised it', 'said something', 'said something otherwise'])
    // Questions find what it says, and in the past what it said then.
    expect([await answers(ref, `words('weeps')`), await answers(ref, `words('wepts')`)]).toEqual([
      1, 0,
    ])
    expect(await answers(ref, `words('wepts')`, before)).toBe(1)
    expect(await answers(ref, 'comments = 1')).toBe(1)
  })

  it('is not changed by others, and not to nothing', async () => {
    const ref = await anItem()
    const [{ id }] = (await say(ref, 'Seen it.')).body.comments
    const change = async (by: Caller, body: string): Promise<number> =>
      (await by('PATCH', `/items/${ref}/comments/${id}`, { body })).status
    expect([await change(mara, 'No.'), await change(ida, 'No.'), await change(tom, '  ')]).toEqual([
      403, 403, 400,
    ])
    expect((await said(ref, mara))[0]).toMatchObject({ mayChange: false, mayTakeBack: true })
    expect((await said(ref, ida))[0]).toMatchObject({ mayChange: false, mayTakeBack: false })
    expect((await said(ref))[0].body).toBe('Seen it.')
  })

  it('is taken back with a trace, and nobody reads it any more', async () => {
    const ref = await anItem()
    const [{ id }] = (await say(ref, 'A secret.')).body.comments
    await later(async () => await tom('PATCH', `/items/${ref}/comments/${id}`, { body: 'Secret!' }))
    expect((await tom('DELETE', `/items/${ref}/comments/${id}`)).status).toBe(204)
    const [gone] = await said(ref, mara)
    expect(gone).toMatchObject({
      body: '',
      earlier: [],
      by: { title: 'Tom Okafor' },
      takenBack: { by: { title: 'Tom Okafor' } },
    })
    expect(JSON.stringify(await said(ref, mara))).not.toMatch(/secret/i)
    expect(await answers(ref, `words('secret')`)).toBe(0)
    expect(await answers(ref, 'comments = 0')).toBe(1)
    expect((await words(ref)).at(-1)).toBe('took back something said')
    const again = await tom('PATCH', `/items/${ref}/comments/${id}`, { body: 'Still.' })
    expect(again.status).toBe(404)
  })

  it('of others is taken back by the keepers of the project alone', async () => {
    const ref = await anItem()
    const [{ id }] = (await say(ref, 'Hm.', mara)).body.comments
    const lena = await served.signIn('Lena Ostrow')
    expect((await lena('DELETE', `/items/${ref}/comments/${id}`)).status).toBe(403)
    const [, { id: other }] = (await say(ref, 'Rude.')).body.comments
    expect((await mara('DELETE', `/items/${ref}/comments/${other}`)).status).toBe(204)
    expect((await said(ref))[1].takenBack.by.title).toBe('Mara Thiel')
  })

  it('is changed once by two who change it at the same moment, or twice, and loses nothing', async () => {
    const ref = await anItem()
    const [{ id }] = (await say(ref, 'One.')).body.comments
    await Promise.all(
      ['Two.', 'Three.'].map(
        async (body) => await tom('PATCH', `/items/${ref}/comments/${id}`, { body }),
      ),
    )
    const [now] = await said(ref)
    expect([now.body, ...now.earlier.map((entry: any) => entry.body)].sort()).toEqual([
      'One.',
      'Three.',
      'Two.',
    ])
  })

  it.each(['0', 'x', '999999999', '-1'])('is not found by %s', async (id) => {
    const ref = await anItem()
    expect((await tom('DELETE', `/items/${ref}/comments/${id}`)).status).toBe(404)
  })
})
