import type { TreeRow } from '@bluestem/core/tree'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { rows, run } from '../src/database/connect.ts'
import { testNow } from './setup.ts'
import { type Caller, type Reply, serveWorkspace, type Served } from './workspace.ts'

let served: Served
let mara: Caller
let tom: Caller
beforeAll(async () => {
  served = await serveWorkspace()
  mara = await served.signIn('Mara Thiel')
  tom = await served.signIn('Tom Okafor')
})
afterAll(async () => await served.close())

const tree = async (query = '', by = mara, code = 'YARD'): Promise<Reply> =>
  await by('GET', `/projects/${code}/tree${query}`)
const treeRows = async (query = '', by = mara): Promise<readonly TreeRow[]> =>
  (await tree(query, by)).body.rows

/** All items that are there, by their refs, as the table holds them. */
interface Held {
  readonly ref: string
  readonly parent: string | null
  readonly phase: number
  readonly estimate: number | null
  readonly project: string
}
const held = async (): Promise<Held[]> =>
  await rows<Held>(
    served.database,
    `SELECT p.code || '/' || i.number AS ref, a.code || '/' || above.number AS parent, i.phase, i.estimate::float8 AS estimate, p.code AS project
    FROM item i JOIN project p ON p.id = i.project_id LEFT JOIN item above ON above.id = i.parent_id
    LEFT JOIN project a ON a.id = above.project_id WHERE NOT i.deleted`,
  )
/** All items that were there at a moment, by their refs, as the table of states holds them. */
const heldAt = async (moment: string): Promise<(Held & { title: string; status: string })[]> =>
  await rows(
    served.database,
    `WITH held AS (SELECT * FROM item_state WHERE valid_from <= $1 AND valid_to > $1 AND NOT deleted)
    SELECT p.code || '/' || i.number AS ref, a.code || '/' || above.number AS parent, i.phase, i.estimate::float8 AS estimate,
      p.code AS project, t.title, s.identity AS status
    FROM held i JOIN project p ON p.id = i.project_id JOIN status s ON s.number = i.status_id
    JOIN item_text t ON t.item_id = i.id AND t.valid_from <= $1 AND t.valid_to > $1
    LEFT JOIN held above ON above.id = i.parent_id LEFT JOIN project a ON a.id = above.project_id`,
    [moment],
  )
function everythingBelow<One extends Held>(items: readonly One[], ref: string): One[] {
  const direct = items.filter(({ parent }) => parent === ref)
  return direct.flatMap((entry) => [entry, ...everythingBelow(items, entry.ref)])
}

describe('the tree of a project', () => {
  it('has roll-ups that equal a count and a sum by hand, at every level', async () => {
    const [items, found] = [await held(), await treeRows('?depth=5&finished=shown')]
    expect(found.length).toBe(items.filter(({ project }) => project === 'YARD').length)
    for (const { ref, below, directly } of found) {
      const under = everythingBelow(items, ref)
      const estimated = under.filter(({ estimate }) => estimate !== null)
      const sum = (some: readonly Held[]): number =>
        some.reduce((all, held) => all + held.estimate!, 0)
      expect(below, ref).toEqual({
        items: under.length,
        done: under.filter(({ phase }) => phase === 2).length,
        estimates: estimated.length
          ? [
              {
                unit: 'hours',
                all: sum(estimated),
                done: sum(estimated.filter(({ phase }) => phase === 2)),
              },
            ]
          : [],
      })
      expect(directly, ref).toBe(items.filter(({ parent }) => parent === ref).length)
    }
    expect(found.some(({ below }) => below.items > 3)).toBe(true)
  })

  it.each([30, 150, 400])(
    'as of %i days ago stands as the states of then tell, by hand',
    async (days) => {
      const moment = new Date(testNow.getTime() - days * 86_400_000).toISOString()
      const [items, found] = [
        await heldAt(moment),
        await treeRows(`?depth=5&finished=shown&as-of=${moment}`),
      ]
      expect(found.map(({ ref }) => ref).sort()).toEqual(
        items
          .filter(({ project }) => project === 'YARD')
          .map(({ ref }) => ref)
          .sort(),
      )
      for (const { ref, title, status, parent, below, directly } of found) {
        const item = items.find((item) => item.ref === ref)!
        expect({ title, status: status.id, parent }).toEqual({
          title: item.title,
          status: item.status,
          parent: item.parent,
        })
        const under = everythingBelow(items, ref)
        expect([below.items, below.done, directly]).toEqual([
          under.length,
          under.filter(({ phase }) => phase === 2).length,
          items.filter((item) => item.parent === ref).length,
        ])
        expect(below.estimates[0]?.all ?? 0).toBe(
          under.reduce((all, { estimate }) => all + (estimate ?? 0), 0),
        )
      }
    },
  )

  it('as of a moment lets folded what was finished long before it', async () => {
    const moment = new Date(testNow.getTime() - 150 * 86_400_000).toISOString()
    const [folded, whole] = [
      (await tree(`?depth=1&as-of=${moment}`)).body,
      (await tree(`?depth=1&finished=shown&as-of=${moment}`)).body,
    ]
    expect(folded.rows.length + folded.folded).toBe(whole.rows.length)
    expect(folded.folded).toBeGreaterThan(0)
    expect((await tree('?as-of=soon')).body.errors[0].pointer).toBe('/as-of')
  })

  it('folds what was finished long ago, but not where something is open below', async () => {
    const [folded, whole] = [
      (await tree('?depth=1')).body,
      (await tree('?depth=1&finished=shown')).body,
    ]
    expect(folded.folded).toBe(whole.rows.length - folded.rows.length)
    expect(folded.folded).toBeGreaterThan(0)
    expect(whole.folded).toBe(0)
  })

  it('tells the levels below one item as it tells them within the whole', async () => {
    const whole = await treeRows('?depth=5&finished=shown')
    const [branch] = whole.filter(({ parent, directly }) => parent === null && directly > 1)
    const below = await treeRows(`?depth=1&finished=shown&above=${branch!.ref}`)
    expect(below).toEqual(whole.filter(({ parent }) => parent === branch!.ref))
    expect(below).toHaveLength(branch!.directly)
  })

  it('moves a branch, refuses a circle and a tier that does not fit, and keeps the hand order', async () => {
    const whole = await treeRows('?depth=5&finished=shown')
    const [above] = whole.filter(({ parent, directly }) => parent === null && directly > 1)
    const [first, second] = whole.filter(({ parent }) => parent === above!.ref)
    const patch = async (ref: string, body: object): Promise<number> =>
      (await mara('PATCH', `/items/${ref}`, body, { 'If-Match': '*' })).status
    expect(await patch(second!.ref, { position: { before: first!.ref } })).toBe(200)
    const after = (await treeRows('?depth=2&finished=shown')).filter(
      ({ parent }) => parent === above!.ref,
    )
    expect(after.slice(0, 2).map(({ ref }) => ref)).toEqual([second!.ref, first!.ref])
    expect(await patch(above!.ref, { parent: first!.ref })).toBeGreaterThanOrEqual(400)
    expect(await patch(first!.ref, { parent: null, position: { after: above!.ref } })).toBe(200)
    expect((await treeRows('?depth=1&finished=shown')).map(({ ref }) => ref)).toContain(first!.ref)
  })

  it('tells nothing of a project that may not be seen, above, below or by links', async () => {
    await run(served.database, `UPDATE project SET open = false WHERE code = 'SAFE'`)
    expect((await tree('', tom, 'SAFE')).status).toBe(404)
    expect((await tree('', tom, 'NONE')).status).toBe(404)
    const [safe] = await rows<{ ref: string }>(
      served.database,
      `SELECT 'SAFE/' || number AS ref FROM item JOIN project p ON p.id = project_id WHERE p.code = 'SAFE' LIMIT 1`,
    )
    expect((await tree(`?above=${safe!.ref}`, tom)).status).toBe(404)
    const [top] = (await treeRows('?depth=1', tom)).filter(({ below }) => below.items > 0)
    const count = top!.below.items
    await run(
      served.database,
      `UPDATE item SET parent_id = (SELECT i.id FROM item i JOIN project p ON p.id = i.project_id WHERE p.code || '/' || i.number = '${top!.ref}')
      WHERE id = (SELECT i.id FROM item i JOIN project p ON p.id = i.project_id WHERE p.code || '/' || i.number = '${safe!.ref}')`,
    )
    const belowOf = async (by: Caller): Promise<number> =>
      (await treeRows('?depth=1', by)).find(({ ref }) => ref === top!.ref)!.below.items
    expect(await belowOf(tom)).toBe(count)
    expect(await belowOf(mara)).toBeGreaterThan(count)
    expect(
      (await treeRows('?depth=5&finished=shown', tom)).some(({ ref }) => ref.startsWith('SAFE')),
    ).toBe(false)
  })
})
