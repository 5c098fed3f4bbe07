import fc from 'fast-check'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { endOfDay, dayOf } from '@bluestem/core/calendar'
import { evaluate, parse, check, type Condition, type ItemState } from '@bluestem/core/queries'
import { rows, run } from '../src/database/connect.ts'
import type { World } from '../src/workspace/world.ts'
import { idsStatement } from '../src/sql/answers.ts'
import type { QueryContext } from '../src/sql/statement.ts'
import { authorOf, factsOf, type PastRow } from '../src/items/row.ts'
import { ownFilter } from '../../core/test/filters.ts'
import { testNow } from './setup.ts'
import { copyWorkspace, personNamed, type Workspace } from './workspace.ts'

let workspace: Workspace
let world: World
let histories: ReadonlyMap<number, readonly (ItemState & { deleted: boolean })[]>

beforeAll(async () => {
  workspace = await copyWorkspace()
  world = await workspace.worlds.now()
  // Half of the items are as telling as all of them, and asked in half the time.
  for (const [table, id] of [
    ['item', 'id'],
    ['item_version', 'id'],
    ['item_text', 'item_id'],
  ])
    await run(workspace.database, `DELETE FROM ${table} WHERE ${id} % 2 = 0`)
  histories = await readHistories()
})
afterAll(async () => await workspace.close())

/** All states of all items, as the evaluator takes them. */
async function readHistories(): Promise<Map<number, (ItemState & { deleted: boolean })[]>> {
  const all = await rows<PastRow & { id: number }>(
    workspace.database,
    `SELECT s.id, s.valid_from, ${world.columns.map((column) => `s.${column}`).join(', ')}, t.description,
      ARRAY(SELECT c.body FROM comment c WHERE c.item_id = s.id AND c.at <= s.valid_from AND c.valid_to > s.valid_from) AS comment_texts
    FROM item_state s LEFT JOIN item_text t ON t.item_id = s.id AND t.valid_from <= s.valid_from AND t.valid_to > s.valid_from ORDER BY s.id, s.valid_from`,
  )
  const byItem = new Map<number, (ItemState & { deleted: boolean })[]>()
  for (const row of all) {
    const author = authorOf(world, row)
    const state = {
      from: row.valid_from.getTime(),
      facts: { ...factsOf(world, row), comment_texts: row['comment_texts'] as string[] },
      by: author.kind === 'person' ? author.id : null,
      byEdition: author.kind === 'edition',
      deleted: row.deleted,
    }
    byItem.set(row.id, [...(byItem.get(row.id) ?? []), state])
  }
  return byItem
}

/** Who answers and who can't be told, by the evaluator alone. */
function byEvaluator(
  condition: Condition,
  now: number,
): { answers: number[]; cannotTell: number[] } {
  const moment = {
    vocabulary: world.vocabulary,
    zone: world.zone,
    now,
    me: personNamed(world, 'Tom Okafor').id,
  }
  const [answers, cannotTell]: [number[], number[]] = [[], []]
  for (const [id, states] of histories) {
    const past = states.filter((state) => state.from <= now)
    if (past.length === 0 || past.at(-1)!.deleted) continue
    const truth = evaluate(condition, past, moment)
    if (truth === true) answers.push(id)
    if (truth === null) cannotTell.push(id)
  }
  return { answers, cannotTell }
}

async function bySql(
  condition: Condition,
  queryContext: QueryContext,
): Promise<{ answers: number[]; cannotTell: number[] }> {
  const ids = async (which: 'answers' | 'cannot tell'): Promise<number[]> => {
    const statement = idsStatement(queryContext, condition, which)
    return statement
      ? (await rows<{ id: number }>(workspace.database, statement.sql, statement.bind)).map(
          (row) => row.id,
        )
      : []
  }
  const [answers, cannotTell] = await Promise.all([ids('answers'), ids('cannot tell')])
  return { answers, cannotTell }
}

describe('evaluator and SQL', () => {
  const runs = Number(process.env['BLUESTEM_FILTERS'] ?? 2000)

  it(
    `give the same answers and the same “can’t tell” for ${runs} generated filters, a tenth of them as of random moments`,
    { timeout: 400_000 },
    async () => {
      const texts = [...histories.values()]
        .slice(0, 40)
        .map((states) => String(states.at(-1)!.facts['title']).replaceAll('\\', ''))
      const refs = [...histories.values()]
        .slice(0, 8)
        .map((states) => String(states.at(-1)!.facts['ref']))
      const today = dayOf(testNow.getTime(), world.zone)
      const moment = fc.oneof(
        { weight: 9, arbitrary: fc.constant(0) },
        { weight: 1, arbitrary: fc.integer({ min: 1, max: 500 }) },
      )
      let asOf = 0
      let answering = 0
      await fc.assert(
        fc.asyncProperty(
          ownFilter({ vocabulary: world.vocabulary, today, refs, texts }),
          moment,
          async (text, daysAgo) => {
            const parsed = parse(text)
            const checked = parsed.ok ? check(parsed.value, world.vocabulary) : parsed
            if (!checked.ok) throw new Error(`${text}: ${checked.errors[0]!.message}`)
            const now =
              daysAgo === 0
                ? testNow.getTime()
                : endOfDay(dayOf(testNow.getTime() - daysAgo * 86_400_000, world.zone), world.zone)
            if (daysAgo > 0) asOf += 1
            const queryContext: QueryContext = {
              world,
              me: personNamed(world, 'Tom Okafor').number,
              moment: now,
              asOf: daysAgo > 0,
              visible: world.projects.map((project) => project.number),
            }
            const expected = byEvaluator(checked.value, now)
            if (expected.answers.length > 0) answering += 1
            expect(await bySql(checked.value, queryContext), text).toEqual(expected)
          },
        ),
        { numRuns: runs, seed: 20261125 },
      )
      // A generator whose filters never answered, or never asked the past, would prove nothing.
      expect(asOf).toBeGreaterThan(runs * 0.05)
      expect(answering).toBeGreaterThan(runs * 0.4)
    },
  )
})
