import fc from 'fast-check'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { rows, run } from '../src/database/connect.ts'
import { changeItems } from '../src/items/write.ts'
import { addComment } from '../src/work/comments.ts'
import { editItem } from '../src/work/editItem.ts'
import { makeItemOnce } from '../src/work/makeItem.ts'
import { readItem } from '../src/work/readItem.ts'
import type { World } from '../src/workspace/world.ts'
import { testNow } from './setup.ts'
import { copyWorkspace, personNamed, type Workspace } from './workspace.ts'

let workspace: Workspace
let world: World
beforeAll(async () => {
  workspace = await copyWorkspace()
  world = await workspace.worlds.now()
})
afterAll(async () => await workspace.close())

/** Spans of states that leave a gap, overlap, or do not end in the present; and states that do not say who made them. */
const broken = `SELECT id, count(*) AS count FROM (
    SELECT id, valid_from, valid_to, by_kind, by_id, lead(valid_from) OVER (PARTITION BY id ORDER BY valid_from) AS next FROM item_state) s
  WHERE valid_to IS DISTINCT FROM coalesce(next, 'infinity') OR valid_from >= valid_to OR by_kind IS NULL OR by_id IS NULL GROUP BY id`

describe('the versioned write', () => {
  it('leaves the states of every item of the demo touching, without gap or overlap, up to the present', async () => {
    expect(await rows(workspace.database, broken)).toEqual([])
  })

  it('holds after any series of writes by several writers at once, and every change has its history row', async () => {
    const people = ['Tom Okafor', 'Ilse Varga', 'Mara Thiel'].map((name) =>
      personNamed(world, name),
    )
    const ids = await rows<{ id: number; ref: string }>(
      workspace.database,
      `SELECT i.id, p.code || '/' || i.number AS ref FROM item i JOIN project p ON p.id = i.project_id WHERE p.code = 'YARD' ORDER BY i.id LIMIT 6`,
    )
    const versions = async (): Promise<number> =>
      (
        await rows<{ count: number }>(
          workspace.database,
          'SELECT count(*) AS count FROM item_version',
        )
      )[0]!.count
    const write = fc.record({
      item: fc.nat(5),
      writer: fc.nat(2),
      kind: fc.constantFrom('due', 'estimate', 'labels', 'comment', 'hold', 'title'),
      value: fc.nat(400),
    })
    let moment = testNow.getTime()
    await fc.assert(
      fc.asyncProperty(fc.array(write, { minLength: 3, maxLength: 14 }), async (writes) => {
        const before = await versions()
        let expected = 0
        await Promise.all(
          writes.map(async ({ item, writer, kind, value }) => {
            // Some writers share an instant: a state lasts a millisecond all the same.
            const actor = { world, person: people[writer]!, now: new Date((moment += value % 2)) }
            const { ref } = ids[item]!
            if (kind === 'comment')
              await addComment(workspace.database, actor, ref, `Seen ${value} times`)
            else
              await editItem(
                workspace.database,
                actor,
                ref,
                {
                  due: { due: `2027-01-${String((value % 28) + 1).padStart(2, '0')}` },
                  estimate: { estimate: value },
                  labels: { labels: value % 2 ? ['winter refit'] : [] },
                  hold: { on_hold: value % 2 === 0 },
                  title: { title: `Ramp ${value}` },
                }[kind],
                '*',
              )
            expected += 1
          }),
        )
        expect((await versions()) - before).toBeLessThanOrEqual(expected)
        expect(await rows(workspace.database, broken)).toEqual([])
      }),
      { numRuns: 40, seed: 7 },
    )
  }, 120_000)

  it('writes exactly one history row for each item it changes, whatever their number', async () => {
    const ids = (
      await rows<{ id: number }>(workspace.database, 'SELECT id FROM item ORDER BY id LIMIT 50')
    ).map((row) => row.id)
    const count = async (): Promise<number> =>
      (
        await rows<{ count: number }>(
          workspace.database,
          'SELECT count(*) AS count FROM item_version',
        )
      )[0]!.count
    const before = await count()
    const changed = await changeItems(
      workspace.database,
      world,
      ids,
      { estimate: '7' },
      { kind: 'bulk job', number: 1 },
      testNow,
    )
    expect(changed).toHaveLength(50)
    expect((await count()) - before).toBe(50)
    expect(await rows(workspace.database, broken)).toEqual([])
  })

  it('does not move `changed` when an edition is the author', async () => {
    const [before] = await rows<{ id: number; changed_at: Date; row_from: Date }>(
      workspace.database,
      'SELECT id, changed_at, row_from FROM item ORDER BY id LIMIT 1',
    )
    await changeItems(
      workspace.database,
      world,
      [before!.id],
      { remaining: '1' },
      { kind: 'edition', number: 3 },
      new Date(testNow.getTime() + 3_600_000),
    )
    const [after] = await rows<{ changed_at: Date; row_from: Date }>(
      workspace.database,
      'SELECT changed_at, row_from FROM item WHERE id = $1',
      [before!.id],
    )
    expect(after!.changed_at).toEqual(before!.changed_at)
    expect(after!.row_from.getTime()).toBeGreaterThan(before!.row_from.getTime())
  })

  it('keeps the instants that follow from phases: first active, last done, and neither when work is taken up again', async () => {
    const actor = (hours: number) => ({
      world,
      person: personNamed(world, 'Tom Okafor'),
      now: new Date(testNow.getTime() + hours * 3_600_000),
    })
    const { ref } = await makeItemOnce(
      workspace.database,
      actor(0),
      { project: 'YARD', type: 'Job', title: 'Grease the winch' },
      undefined,
    )
    const read = async (): Promise<Record<string, unknown>> =>
      (
        await rows<Record<string, unknown>>(
          workspace.database,
          'SELECT first_active_at, first_done_at, done_at FROM item ORDER BY id DESC LIMIT 1',
        )
      )[0]!
    await editItem(workspace.database, actor(1), ref, { status: 'In hand' }, '*')
    await editItem(workspace.database, actor(2), ref, { status: 'Signed off' }, '*')
    expect(await read()).toEqual({
      first_active_at: actor(1).now,
      first_done_at: actor(2).now,
      done_at: actor(2).now,
    })
    await editItem(workspace.database, actor(3), ref, { status: 'In hand' }, '*')
    expect(await read()).toEqual({
      first_active_at: actor(1).now,
      first_done_at: actor(2).now,
      done_at: null,
    })
    await editItem(workspace.database, actor(4), ref, { status: 'Signed off' }, '*')
    expect(await read()).toEqual({
      first_active_at: actor(1).now,
      first_done_at: actor(2).now,
      done_at: actor(4).now,
    })
    expect((await readItem(workspace.database, actor(4), ref)).body['done']).toBe(
      '2026-11-25T14:00:00Z',
    )
  })

  it('lets no vacuum keep an edition from being published: it gives way sooner than publishing stops to wait', async () => {
    const [set] = await rows<{ deadlock_timeout: string }>(
      workspace.database,
      'SHOW deadlock_timeout',
    )
    expect(set!.deadlock_timeout).toBe('100ms')
  })

  it('keeps an audit list that only grows', async () => {
    await run(
      workspace.database,
      `INSERT INTO audit (at, act, subject) VALUES (now(), 'tried', 'nothing')`,
    )
    await expect(run(workspace.database, 'DELETE FROM audit')).rejects.toThrow(/only grows/)
    await expect(run(workspace.database, `UPDATE audit SET act = 'hid'`)).rejects.toThrow(
      /only grows/,
    )
  })
})
