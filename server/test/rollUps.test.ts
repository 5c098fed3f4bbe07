import fc from 'fast-check'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import type { Computed } from '@bluestem/core/queries'
import { rows } from '../src/database/connect.ts'
import { changeItems } from '../src/items/write.ts'
import { rollUpOf } from '../src/sql/property.ts'
import { rollUpOfAll } from '../src/sql/rollUp.ts'
import { rollUpSpans } from '../src/sql/rollUpOverTime.ts'
import { Binds, type QueryContext } from '../src/sql/statement.ts'
import { personAuthor } from '../src/workspace/author.ts'
import type { World } from '../src/workspace/world.ts'
import { testNow } from './setup.ts'
import { copyWorkspace, personNamed, type Workspace } from './workspace.ts'

type RollUp = Extract<Computed, { kind: 'roll-up' }>

let workspace: Workspace
let world: World
beforeAll(async () => {
  workspace = await copyWorkspace()
  world = await workspace.worlds.now()
  await moveAbout()
})
afterAll(async () => await workspace.close())

const second = 1_000
const start = testNow.getTime() + second

/**
 * Puts thirty items below one another, four levels deep, then moves, empties and deletes some of them, a change a second: what the
 * demo's past does not hold.
 */
async function moveAbout(): Promise<void> {
  const found = await rows<{ id: number }>(
    workspace.database,
    'SELECT id FROM item WHERE parent_id IS NULL AND NOT deleted ORDER BY id LIMIT 30',
  )
  const ids = found.map(({ id }) => id)
  /** Only what stands earlier in the list is above, so that no circle closes. */
  const placing = ids.slice(1).map((id, index) => [id, { parent_id: ids[index >> 1]! }] as const)
  const change = fc.tuple(
    fc.integer({ min: 4, max: 29 }),
    fc.oneof(
      fc.record({ above: fc.integer({ min: 0, max: 3 }) }),
      fc.record({ estimate: fc.option(fc.integer({ min: 0, max: 13 })) }),
      fc.record({ phase: fc.integer({ min: 0, max: 3 }) }),
      fc.constant({ deleted: true }),
    ),
  )
  const later = fc.sample(change, { numRuns: 120, seed: 7 }).map(([at, values]) => {
    const { above, ...others } = values as { above?: number }
    return [ids[at]!, above === undefined ? others : { parent_id: ids[above]! }] as const
  })
  const author = personAuthor(personNamed(world, 'Mara Thiel'))
  for (const [index, [id, values]] of [...placing, ...later].entries()) {
    const at = new Date(start + index * second)
    await changeItems(workspace.database, world, [id], values, author, at)
  }
}

const contextAt = (moment: number): QueryContext => ({
  world,
  me: 1,
  moment,
  asOf: true,
  visible: world.projects.map((project) => project.number),
})

type Told = [above: number, value: string]

async function told(sql: (binds: Binds) => string): Promise<Told[]> {
  const binds = new Binds()
  const { sql: text, bind } = binds.statement(sql(binds))
  const found = await rows<{ above: number; value: number }>(workspace.database, text, bind)
  return found.map(({ above, value }) => [above, Number(value).toFixed(3)])
}

describe('a roll-up over all of history', () => {
  const days = 86_400_000
  const moments = [
    ...Array.from({ length: 12 }, (_, index) => testNow.getTime() - index * 31 * days),
    ...Array.from({ length: 15 }, (_, index) => start + index * 10 * second + 1),
  ]

  it.each(['sum', 'least', 'greatest', 'share done'] as const)(
    'has at each moment the value that is asked as of it: %s',
    async (how) => {
      const of = how === 'share done' ? null : world.vocabulary.properties.get('estimate')!
      const rollUp: RollUp = { kind: 'roll-up', how, of }
      for (const moment of moments) {
        const context = contextAt(moment)
        const expected = await told(
          (binds) =>
            `SELECT above, value FROM ${rollUpOfAll(context, binds, rollUpOf(context, binds, rollUp), 'r')} WHERE value IS NOT NULL ORDER BY 1`,
        )
        const spans = await told(
          (binds) =>
            `SELECT above, value FROM (${rollUpSpans(context, binds, rollUpOf(context, binds, rollUp))}) r
            WHERE valid_from <= ${binds.instant(moment)} AND valid_to > ${binds.instant(moment)}
              AND value IS NOT NULL ORDER BY 1`,
        )
        expect(spans, new Date(moment).toISOString()).toEqual(expected)
      }
    },
  )

  it('covers all time without a gap or an overlap, for every item that ever had something below it', async () => {
    const rollUp: RollUp = { kind: 'roll-up', how: 'share done', of: null }
    const binds = new Binds()
    const { sql, bind } = binds.statement(
      `WITH r AS (${rollUpSpans(contextAt(start), binds, rollUpOf(contextAt(start), binds, rollUp))}),
        s AS (SELECT *, lead(valid_from) OVER (PARTITION BY above ORDER BY valid_from) AS next FROM r)
      SELECT count(*) FILTER (WHERE valid_to IS DISTINCT FROM coalesce(next, 'infinity'))::int AS broken,
        count(*) FILTER (WHERE valid_from = '-infinity')::int AS beginnings,
        count(DISTINCT above)::int AS items FROM s`,
    )
    const [found] = await rows<{ broken: number; beginnings: number; items: number }>(
      workspace.database,
      sql,
      bind,
    )
    expect(found!.items).toBeGreaterThan(20)
    expect(found).toEqual({ broken: 0, beginnings: found!.items, items: found!.items })
  })
})
