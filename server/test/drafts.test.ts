import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { run } from '../src/database/connect.ts'
import { drafting, entry } from './drafting.ts'
import { testNow } from './setup.ts'
import { serveWorkspace, type Caller, type Served } from './workspace.ts'

let served: Served
let mara: Caller
let tom: Caller
let greta: Caller
beforeAll(async () => {
  served = await serveWorkspace({ mapAtOnce: 20 })
  mara = await served.signIn('Mara Thiel')
  tom = await served.signIn('Tom Okafor')
  greta = await served.signIn('Greta Holm')
})
afterAll(async () => await served.close())

const { draft, change, publish, drop, document } = drafting(() => mara)

describe('a dropped draft', () => {
  it('can be taken back as it was for 30 days, by whoever might drop it', async () => {
    const edits = [{ path: ['statuses', 'st_open', 'title'], after: 'New' }]
    const made = await draft(edits, 'Better words')
    await drop(made.body.id)
    expect((await mara('GET', `/definitions/drafts/${made.body.id}`)).status).toBe(404)
    const dropped = async (): Promise<readonly { id: string }[]> =>
      (await mara('GET', '/definitions/dropped-drafts')).body.drafts
    expect((await dropped())[0]).toEqual({
      id: made.body.id,
      title: 'Better words',
      count: 1,
      by: 'Mara Thiel',
      at: testNow.toISOString(),
    })
    const address = `/definitions/dropped-drafts/${made.body.id}/take-back`
    expect((await tom('POST', address)).status).toBe(403)
    const back = await mara('POST', address)
    expect([back.status, back.body.title, back.body.changes]).toEqual([
      200,
      'Better words',
      made.body.changes,
    ])
    expect(await dropped()).not.toContainEqual(expect.objectContaining({ id: made.body.id }))
    expect((await mara('POST', address)).status).toBe(404)
    await drop(made.body.id)
    served.setNow(new Date('2026-12-26T10:00:00Z'))
    expect([(await dropped()).length, (await mara('POST', address)).status]).toEqual([0, 404])
    served.setNow(testNow)
  })
})

describe('several drafts', () => {
  it('stand side by side, each with its own changes and who made them', async () => {
    const [reply, two] = [
      await draft([{ path: ['statuses', 'st_open', 'title'], after: 'New' }], 'One'),
      await draft([{ path: ['statuses', 'st_hand', 'title'], after: 'At work' }], 'Two'),
    ]
    const { drafts } = (await mara('GET', '/definitions/drafts')).body
    expect(drafts.map((each: { title: string }) => each.title)).toEqual([
      'Say what counts as safety relevant',
      'One',
      'Two',
    ])
    expect(
      two.body.changes.map((each: { words: string; by: string }) => [each.words, each.by]),
    ).toEqual([['renames status “In hand” to “At work”', 'Mara Thiel']])
    await drop(reply.body.id)
    await drop(two.body.id)
  })

  it('based on an older edition is merged by identity', async () => {
    const [reply, two] = [
      await draft(
        [{ path: ['statuses', 'st_parts', 'description'], after: 'Nothing moves.' }],
        'One',
      ),
      await draft(
        [{ path: ['statuses', 'st_review', 'description'], after: 'Looked over.' }],
        'Two',
      ),
    ]
    expect((await publish(reply.body.id)).status).toBe(201)
    expect((await mara('GET', `/definitions/drafts/${two.body.id}`)).body.changes).toHaveLength(1)
    expect((await publish(two.body.id)).status).toBe(201)
    const { statuses } = await document()
    expect([statuses['st_parts']!.description, statuses['st_review']!.description]).toEqual([
      'Nothing moves.',
      'Looked over.',
    ])
  })

  it('that clash are shown side by side, and published once that is decided', async () => {
    const [reply, two] = [
      await draft([{ path: ['statuses', 'st_parts', 'title'], after: 'No parts' }]),
      await draft([
        { path: ['statuses', 'st_parts', 'title'], after: 'Parts missing' },
        { path: ['statuses', 'st_proof', 'description'], after: 'Shown.' },
      ]),
    ]
    await publish(reply.body.id)
    const seen = (await mara('GET', `/definitions/drafts/${two.body.id}`)).body
    expect(seen.clashes).toMatchObject([
      {
        path: ['statuses', 'st_parts', 'title'],
        mine: [{ after: 'Parts missing' }],
        theirs: [{ after: 'No parts' }],
      },
    ])
    const refused = await publish(two.body.id)
    expect([refused.status, refused.body.clashes.length]).toEqual([409, 1])
    const decided = await mara(
      'POST',
      `/definitions/drafts/${two.body.id}/rebase`,
      { choices: { [JSON.stringify(['statuses', 'st_parts', 'title'])]: 'theirs' } },
      { 'if-match': '*' },
    )
    expect(decided.body.changes.map((each: { path: string[] }) => each.path[1])).toEqual([
      'st_proof',
    ])
    expect((await publish(two.body.id)).status).toBe(201)
    expect((await document()).statuses['st_parts']!.title).toBe('No parts')
  })
})

describe('who may change what', () => {
  it('a draft that is its maker’s alone opens for nobody else until it is shared', async () => {
    const own = await mara('POST', '/definitions/drafts', {
      title: 'Quietly',
      edits: [{ path: ['statuses', 'st_open', 'title'], after: 'New' }],
      shared: false,
    })
    const { id } = own.body
    const seen = async (by: Caller): Promise<boolean> =>
      (await by('GET', '/definitions/drafts')).body.drafts.some(
        (draft: { id: string }) => draft.id === id,
      )
    expect([own.body.shared, await seen(mara), await seen(tom)]).toEqual([false, true, false])
    for (const [method, path] of [
      ['GET', ''],
      ['GET', '/impact'],
      ['GET', '/replay'],
      ['DELETE', ''],
      ['PATCH', ''],
      ['POST', '/publish'],
    ])
      expect(
        (
          await tom(
            method!,
            `/definitions/drafts/${id}${path}`,
            method === 'GET' ? undefined : {},
            {
              'if-match': '*',
            },
          )
        ).status,
        `${method} ${path}`,
      ).toBe(404)
    await drop(id)
    const { drafts: droppedOnes } = (await tom('GET', '/definitions/dropped-drafts')).body
    expect(droppedOnes.some((entry: { id: string }) => entry.id === id)).toBe(false)
    expect((await tom('POST', `/definitions/dropped-drafts/${id}/take-back`)).status).toBe(404)
    await mara('POST', `/definitions/dropped-drafts/${id}/take-back`)
    expect((await change(id, { shared: true })).body.shared).toBe(true)
    expect(await seen(tom)).toBe(true)
    expect((await change(id, { shared: false }, '*', tom)).status).toBe(409)
    await drop(id)
  })

  it('a keeper changes and publishes their rulebook, and nothing that others share', async () => {
    const own = await draft(
      [entry('rb_yard', 'move:ty_defect:st_parts:st_open', {})],
      'Back to open',
      tom,
    )
    expect([own.status, own.body.mayPublish]).toEqual([201, true])
    expect((await publish(own.body.id, {}, tom)).status).toBe(201)
    for (const edits of [
      [{ path: ['statuses', 'st_open', 'title'], after: 'x' }],
      [entry('rb_safety', 'unit', { unit: 'days' })],
      [{ path: ['projects', 'pr_yard'], after: 'rb_everyone' }],
      [{ path: ['rulebooks', 'rb_yard', 'extends'], after: null }],
    ]) {
      expect((await draft(edits, 'Too far', tom)).status, JSON.stringify(edits)).toBe(403)
    }
    const hers = await draft([{ path: ['statuses', 'st_open', 'title'], after: 'New' }])
    expect((await publish(hers.body.id, {}, tom)).status).toBe(403)
    expect(
      (await tom('DELETE', `/definitions/drafts/${hers.body.id}`, undefined, { 'if-match': '*' }))
        .status,
    ).toBe(403)
    expect(
      (
        await change(
          hers.body.id,
          { edits: [{ path: ['statuses', 'st_open', 'title'], after: 'Newer' }] },
          '*',
          tom,
        )
      ).status,
    ).toBe(403)
    await drop(hers.body.id)
  })

  it('a member proposes, withdraws, and publishes nothing', async () => {
    const proposed = await greta('POST', '/definitions/proposals', {
      title: 'Say it plainly',
      edits: [{ path: ['fields', 'fi_berth', 'title'], after: 'Where she lies' }],
    })
    expect([proposed.status, proposed.body.proposed, proposed.body.mayPublish]).toEqual([
      201,
      true,
      false,
    ])
    const mineIn = async (who: Caller): Promise<boolean> =>
      (await who('GET', '/definitions/drafts')).body.drafts.find(
        (draft: { id: string }) => draft.id === proposed.body.id,
      ).mine
    expect([await mineIn(greta), await mineIn(mara)]).toEqual([true, false])
    expect((await publish(proposed.body.id, {}, greta)).status).toBe(403)
    expect(
      (
        await change(
          proposed.body.id,
          { edits: [{ path: ['fields', 'fi_berth', 'title'], after: 'x' }] },
          '*',
          greta,
        )
      ).status,
    ).toBe(403)
    expect(
      (
        await greta('DELETE', `/definitions/drafts/${proposed.body.id}`, undefined, {
          'if-match': '*',
        })
      ).status,
    ).toBe(204)
    const again = await greta('POST', '/definitions/proposals', {
      title: 'Say it plainly',
      edits: [{ path: ['fields', 'fi_berth', 'title'], after: 'Where she lies' }],
    })
    expect((await publish(again.body.id)).status).toBe(201)
    expect((await document()).fields['fi_berth']!.title).toBe('Where she lies')
  })

  it('keepers are set by administrators, and viewers cannot be any', async () => {
    expect(
      (await tom('PATCH', '/definitions/rulebooks/rb_yard/keepers', { keepers: [] })).status,
    ).toBe(403)
    expect(
      (
        await mara(
          'PATCH',
          '/definitions/rulebooks/rb_yard/keepers',
          { keepers: ['pe_03'] },
          { 'if-match': '*' },
        )
      ).body.errors[0].message,
    ).toBe('Ida Lund is a viewer, who changes nothing.')
    expect(
      (
        await mara(
          'PATCH',
          '/definitions/rulebooks/rb_digital/keepers',
          { keepers: ['pe_14'] },
          { 'if-match': '"0"' },
        )
      ).body.keepers,
    ).toEqual([{ id: 'pe_14', title: 'Greta Holm' }])
    expect(
      (await mara('PATCH', '/definitions/rulebooks/rb_digital/keepers', { keepers: [] })).status,
    ).toBe(428)
    expect(
      (
        await mara(
          'PATCH',
          '/definitions/rulebooks/rb_digital/keepers',
          { keepers: [] },
          { 'if-match': '"0"' },
        )
      ).body,
    ).toMatchObject({ status: 412, changed: { keepers: ['Greta Holm'] } })
    expect(
      (await mara('GET', '/definitions/rulebooks/rb_digital/keepers')).body.keepers,
    ).toHaveLength(1)
  })

  it('every act is in the audit, which only grows', async () => {
    const { acts, kinds } = (await mara('GET', '/audit?words=rb_digital')).body
    expect(acts[0]).toMatchObject({
      act: 'set keepers',
      by: 'Mara Thiel',
      subject: 'rulebook rb_digital',
    })
    expect(kinds).toEqual(
      expect.arrayContaining(['began a draft', 'dropped a draft', 'proposed', 'published']),
    )
    expect(
      (await mara('GET', '/audit?by=pe_02&act=published')).body.acts.map(
        (act: { by: string }) => act.by,
      ),
    ).toEqual(['Tom Okafor'])
    expect((await mara('GET', '/audit?from=2026-11-26')).body.acts).toEqual([])
    await expect(run(served.database, 'DELETE FROM audit')).rejects.toThrow('only grows')
  })
})
