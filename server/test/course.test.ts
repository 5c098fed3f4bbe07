import fc from 'fast-check'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { addDays, dayOf, endOfDay } from '@bluestem/core/calendar'
import { readQuery } from '@bluestem/core/queries'
import { rows } from '../src/database/connect.ts'
import type { World } from '../src/workspace/world.ts'
import { countStatement } from '../src/sql/answers.ts'
import type { QueryContext } from '../src/sql/statement.ts'
import { ownFilter } from '../../core/test/filters.ts'
import { testNow } from './setup.ts'
import { serveWorkspace, type Caller, type Served } from './workspace.ts'

let served: Served
let world: World
let call: Caller
beforeAll(async () => {
  served = await serveWorkspace()
  world = await served.worlds.now()
  call = await served.signIn('Mara Thiel')
})
afterAll(async () => await served.close())

const today = dayOf(testNow.getTime(), 'Europe/Zurich')

/** How many items answered as of the end of a day, asked on its own. */
async function countOn(filter: string, day: string): Promise<number> {
  const read = readQuery({ lang: 'cql2-text', filter }, world.vocabulary)
  if (!read.ok) throw new Error(read.errors[0]!.message)
  const queryContext: QueryContext = {
    world,
    me: 1,
    moment: Math.min(endOfDay(day, world.zone), testNow.getTime()),
    asOf: true,
    visible: world.projects.map((project) => project.number),
  }
  const { sql, bind } = countStatement(queryContext, read.value.condition)
  return (await rows<{ total: number }>(served.database, sql, bind))[0]!.total
}

describe('the course of a filter', () => {
  it('equals, on every day, a count of the state as of that day’s end', async () => {
    const source = {
      vocabulary: world.vocabulary,
      today,
      refs: ['YARD/3'],
      texts: ['Bow thruster hums at idle'],
    }
    let methods = 0
    await fc.assert(
      fc.asyncProperty(
        ownFilter(source),
        fc.integer({ min: 20, max: 500 }),
        async (filter, ago) => {
          const [from, to] = [addDays(today, -ago), addDays(today, -ago + 18)]
          const { status, body } = await call('POST', '/measures/evaluate', {
            filter,
            'filter-lang': 'cql2-text',
            figure: { kind: 'count' },
            over: { from, to, step: 'day' },
          })
          expect(status, JSON.stringify(body)).toBe(200)
          if (body.method === 'course') methods += 1
          const expected: number[] = []
          for (const day of body.steps as string[]) expected.push(await countOn(filter, day))
          expect(body.total, `${filter} (${body.method})`).toEqual(expected)
        },
      ),
      { numRuns: 60, seed: 42 },
    )
    // Most own filters go the fast way; those that ask about time itself are asked step by step.
    expect(methods).toBeGreaterThan(20)
  }, 200_000)

  it.each(['status', 'project', 'assignee', 'labels', 'due', 'on_hold', 'estimate'])(
    'by %s gives the same groups as each day asked on its own',
    async (by) => {
      const over = { from: addDays(today, -40), to: today, step: 'week' }
      const filter = "type = 'Defect'"
      const { body } = await call('POST', '/measures/evaluate', {
        filter,
        figure: { kind: 'count' },
        by: [by],
        over,
      })
      expect(body.method).toBe('course')
      for (const [index, step] of (body.steps as string[]).entries()) {
        const end = body.steps[index + 1] ? addDays(body.steps[index + 1], -1) : today
        const { body: alone } = await call('POST', '/measures/evaluate', {
          filter,
          figure: { kind: 'count' },
          by: [by],
          asOf: end,
        })
        const told = (
          groups: { key: ({ id: string } | null)[]; values: number[] }[],
          at: number,
        ): [string, number][] =>
          groups
            .map((group): [string, number] => [group.key[0]?.id ?? 'none', group.values[at]!])
            .filter(([, value]) => value !== 0)
        expect(told(body.groups, index), `${by} in the week of ${step}`).toEqual(
          told(alone.groups, 0),
        )
      }
    },
  )

  it.each([
    ['sum', 'estimate'],
    ['mean', 'estimate'],
    ['mean', 'cost_of_parts'],
    ['median', 'estimate'],
    ['least', 'estimate'],
  ])('%s of %s over time equals the figure as of each step’s end', async (kind, field) => {
    const figure = { kind, field }
    const { body } = await call('POST', '/measures/evaluate', {
      filter: "phase = 'active'",
      figure,
      over: { from: addDays(today, -90), to: today, step: 'month' },
    })
    for (const [index] of (body.steps as string[]).entries()) {
      const end = body.steps[index + 1] ? addDays(body.steps[index + 1], -1) : today
      const { body: alone } = await call('POST', '/measures/evaluate', {
        filter: "phase = 'active'",
        figure,
        asOf: end,
      })
      if (alone.total[0] === null) expect(body.total[index]).toBeNull()
      else expect(body.total[index]).toBeCloseTo(alone.total[0], 6)
    }
  })

  it('counts an item once in each of its groups and once in the total', async () => {
    const { body } = await call('POST', '/measures/evaluate', {
      filter: "A_CONTAINS(labels, ('gear: pumps'))",
      figure: { kind: 'count' },
      by: ['labels'],
    })
    const sum = (body.groups as { values: number[] }[]).reduce(
      (all, group) => all + group.values[0]!,
      0,
    )
    expect(sum).toBeGreaterThan(body.total[0])
  })

  it('says nothing of steps that have not come yet, and null for a mean of nothing', async () => {
    const { body } = await call('POST', '/measures/evaluate', {
      filter: "type = 'Defect'",
      figure: { kind: 'count' },
      over: { from: today, to: addDays(today, 30), step: 'month' },
    })
    expect(body.total).toEqual([expect.any(Number), null])
    const { body: none } = await call('POST', '/measures/evaluate', {
      filter: 'tier > 9',
      figure: { kind: 'mean', field: 'estimate' },
    })
    expect(none.total).toEqual([null])
    const { body: zero } = await call('POST', '/measures/evaluate', {
      filter: 'tier > 9',
      figure: { kind: 'sum', field: 'estimate' },
    })
    expect(zero.total).toEqual([0])
  })

  it('opens exactly the items behind a cell, at the moment it was told for', async () => {
    const { body } = await call('POST', '/measures/evaluate', {
      measure: 'me_work',
      by: ['phase'],
      over: { from: addDays(today, -60), to: today, step: 'week' },
    })
    const group = body.groups.find(
      (group: { key: { id: string }[] }) => group.key[0]!.id === 'active',
    )
    const end = addDays(body.steps[2], 6)
    const { body: items } = await call('POST', '/items/search', {
      filter: { op: '=', args: [{ property: 'phase' }, 'active'] },
      kept: true,
      'as-of': end,
      limit: 1000,
    })
    expect(items.total).toBe(group.values[2])
    expect(items.items).toHaveLength(items.total)
  })
})
