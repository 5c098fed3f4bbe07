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

describe('questions', () => {
  it('with errors are never run: each error with its place, what was found and the nearest spelling', async () => {
    const { status, body } = await tom(
      'GET',
      `/items?filter=${encodeURIComponent("stauts = 'Open'")}`,
    )
    expect([status, body.errors[0]]).toEqual([
      400,
      expect.objectContaining({ pointer: '/filter', from: 0, to: 6, nearest: 'status' }),
    ])
    expect((await tom('POST', '/queries/check', { filter: "stauts = 'Open'" })).status).toBe(200)
  })

  it('too long for an address are told to come as a body', async () => {
    const { status, body } = await tom('GET', `/items?filter=${'x'.repeat(8100)}`)
    expect([status, body.detail]).toEqual([414, expect.stringContaining('/api/v1/items/search')])
  })

  it('that name what is no property, cursor, moment or number are refused in words', async () => {
    for (const [field, value] of [
      ['sort', 'nothing'],
      ['fields', 'nothing'],
      ['cursor', 'e30'],
      ['as-of', 'yesterday'],
      ['limit', 5000],
    ] as const) {
      const { status, body } = await tom('POST', '/items/search', { filter: '', [field]: value })
      expect([status, body.errors[0].pointer]).toEqual([400, `/${field}`])
    }
    expect(
      (
        await tom('POST', '/items/search', {
          filter: '1e400 * 1e400 * 1e400 > 1'.replace(
            '> 1',
            `* ${'1e400 * '.repeat(400)}1 > estimate`,
          ),
        })
      ).status,
    ).toBe(400)
  })

  it('are kept by identity: a renamed status changes no meaning and shows its new name', async () => {
    const kept = (
      await tom('POST', '/queries', {
        title: 'In hand',
        content: { filter: "status = 'In hand'", columns: ['ref'], order: [] },
      })
    ).body
    const { total } = (
      await tom('POST', '/items/search', { filter: kept.content.filter, kept: true })
    ).body
    const draft = await mara('POST', '/definitions/drafts', { title: 'Words' })
    const edited = await mara(
      'PATCH',
      `/definitions/drafts/${draft.body.id}`,
      { edits: [{ path: ['statuses', 'st_hand', 'title'], after: 'Being done' }] },
      { 'if-match': draft.etag },
    )
    expect(edited.body.changes[0]).toMatchObject({
      words: 'renames status “In hand” to “Being done”',
      items: expect.any(Number),
      by: 'Mara Thiel',
    })
    expect(
      (
        await mara(
          'POST',
          `/definitions/drafts/${draft.body.id}/publish`,
          { note: 'Plainer' },
          { 'if-match': draft.etag },
        )
      ).status,
    ).toBe(412)
    expect(
      (
        await mara(
          'POST',
          `/definitions/drafts/${draft.body.id}/publish`,
          { note: 'Plainer' },
          { 'if-match': edited.etag },
        )
      ).body,
    ).toEqual({ edition: 5, mapping: 0 })
    expect((await tom('GET', `/queries/${kept.id}`)).body.text).toBe("status = 'Being done'")
    expect(
      (await tom('POST', '/items/search', { filter: "status = 'Being done'" })).body.total,
    ).toBe(total)
    expect(
      (await mara('GET', '/audit')).body.acts.some(
        (act: { act: string; subject: string }) =>
          act.act === 'published' && act.subject === 'edition 5',
      ),
    ).toBe(true)
  })
})
