import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { run, rows } from '../src/database/connect.ts'
import type { World } from '../src/workspace/world.ts'
import { lives } from '../src/demo/events.ts'
import { personId } from '../src/demo/life.ts'
import { Folder } from '../src/demo/fold.ts'
import { addComment } from '../src/work/comments.ts'
import { editItem } from '../src/work/editItem.ts'
import { makeItemOnce } from '../src/work/makeItem.ts'
import { testNow } from './setup.ts'
import { copyWorkspace, type Workspace } from './workspace.ts'

let workspace: Workspace
let world: World
beforeAll(async () => {
  workspace = await copyWorkspace()
  world = await workspace.worlds.now()
})
afterAll(async () => await workspace.close())

describe('the demo', () => {
  it('is the same on every run that ends on the same day', () => {
    const twice = [1, 2].map(() => JSON.stringify([...lives(testNow, 60)]))
    expect(twice[0]).toBe(twice[1])
  })

  it.each([
    ['a Sunday', '2026-11-22T10:00:00Z'],
    ['29 February', '2028-02-29T10:00:00Z'],
    ['the day clocks go on', '2027-03-28T10:00:00Z'],
    ['the day after they went back', '2026-10-26T00:30:00Z'],
    ['the first hour of a year', '2026-12-31T23:30:00Z'],
  ])('can end on %s: nothing lies in the future and time only goes on', (_, now) => {
    const end = new Date(now)
    const folder = new Folder(world)
    for (const life of lives(end, 400)) {
      const { states } = folder.fold({
        ...life,
        acts: life.acts.filter((act) => act.at < end.getTime()),
      })
      expect(states[0]!.from).toBeLessThan(end.getTime())
      for (const [index, state] of states.entries())
        if (index > 0) expect(state.from).toBeGreaterThan(states[index - 1]!.from)
      expect(states.at(-1)!.from).toBeLessThanOrEqual(end.getTime())
    }
  })

  it('holds what its people struggle with', async () => {
    const count = async (sql: string): Promise<number> =>
      (
        await rows<{ count: number }>(workspace.database, `SELECT count(*) AS count FROM ${sql}`)
      )[0]!.count
    expect(await count('item')).toBe(500)
    expect(
      await count(
        `item WHERE labels && ARRAY(SELECT id FROM label WHERE title IN ('ramp', 'Ramps', 'ramp-gear'))`,
      ),
    ).toBeGreaterThan(5)
    expect(
      await count(
        `item i JOIN status s ON s.number = i.status_id WHERE s.identity = 'st_surveyor'`,
      ),
    ).toBeGreaterThan(0)
    expect(await count(`item WHERE phase < 2 AND estimate IS NULL`)).toBeGreaterThan(10)
  })

  it('has 200 items whose rows are what the service itself makes of the same acts', async () => {
    const chosen = [...lives(testNow, 500)]
      .slice(0, 200)
      .map((life) => ({ ...life, acts: life.acts.filter((act) => act.at < testNow.getTime()) }))
    const columns = world.columns
      .filter((column) => column !== 'position' && column !== 'parent_id')
      .map((column) => `s.${column}`)
      .join(', ')
    const read = async (): Promise<unknown[]> =>
      await rows(
        workspace.database,
        `SELECT s.valid_from, s.valid_to, ${columns}, (SELECT number FROM item p WHERE p.id = s.parent_id) AS parent_number FROM item_state s JOIN project p ON p.id = s.project_id WHERE (p.code || '/' || s.number) = ANY($1::text[]) ORDER BY s.project_id, s.number, s.valid_from`,
        [chosen.map((life) => `${life.project}/${life.number}`)],
      )
    const loaded = await read()
    await run(
      workspace.database,
      'TRUNCATE item, item_version, item_text, comment; UPDATE project SET last_number = 0',
    )
    const actor = (by: number, at: number) => ({
      world,
      person: {
        ...world.people.find((person) => person.id === personId(by))!,
        role: 'administrator' as const,
      },
      now: new Date(at),
    })
    for (const life of chosen) {
      const { ref } = await makeItemOnce(
        workspace.database,
        actor(life.made.by, life.made.at),
        { project: life.project, ...life.made.edit } as never,
        undefined,
      )
      expect(ref).toBe(`${life.project}/${life.number}`)
      for (const act of life.acts) {
        if (act.comment !== undefined)
          await addComment(workspace.database, actor(act.by, act.at), ref, act.comment)
        else await editItem(workspace.database, actor(act.by, act.at), ref, act.edit as never, '*')
      }
    }
    expect(await read()).toEqual(loaded)
  }, 120_000)
})
