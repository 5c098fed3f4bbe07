import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { phases } from '@bluestem/core/queries'
import { run } from '../src/database/connect.ts'
import { changeItems, saveText, makeItem } from '../src/items/write.ts'
import type { World } from '../src/workspace/world.ts'
import vectors from './vectors/flow-measures.json' with { type: 'json' }
import { serveWorkspace, type Caller, type Served } from './workspace.ts'

interface Event {
  at: string
  phase?: string | null
  project?: string
  estimate?: number | null
}
interface Case {
  name: string
  input: {
    measure: string
    query?: string
    window?: [string, string]
    percentiles?: number[]
    items: { id: string; history: Event[] }[]
  }
  expected: never
}

let served: Served
let world: World
let call: Caller
let loaded = ''
beforeAll(async () => {
  served = await serveWorkspace()
  await run(served.database, `UPDATE setting SET zone = 'UTC'`)
  world = await served.worlds.now()
  call = await served.signIn('Mara Thiel')
})
afterAll(async () => await served.close())

const statusOf: Record<string, string> = {
  idle: 'st_open',
  active: 'st_hand',
  done: 'st_signed',
  dropped: 'st_withdrawn',
}

/** Puts the histories of a case into the tables by the versioned write, each event at its instant. */
async function load(items: Case['input']['items']): Promise<void> {
  const key = JSON.stringify(items)
  if (key === loaded) return
  loaded = key
  await run(served.database, 'TRUNCATE item, item_version, item_text, comment')
  for (const [index, { id, history }] of items.entries()) {
    let item: number | undefined
    for (const event of history) {
      const values = {
        ...(event.phase
          ? {
              status_id: world.numbers.of('status', statusOf[event.phase]!)!,
              phase: phases.indexOf(event.phase as 'idle'),
            }
          : event.phase === null
            ? { deleted: true }
            : {}),
        ...(event.project
          ? { project_id: world.projects.find((project) => project.code === event.project)!.number }
          : {}),
        ...('estimate' in event
          ? { estimate: event.estimate === null ? null : String(event.estimate) }
          : {}),
      }
      const at = new Date(event.at)
      if (item === undefined) {
        item = await makeItem(
          served.database,
          world,
          {
            project_id: 1,
            type_id: world.numbers.of('type', 'ty_job')!,
            number: index + 1,
            position: 'a0',
            title: id,
            ...values,
          },
          { kind: 'person', number: 1 },
          at,
        )
        await saveText(served.database, item, id, null, at)
      } else
        await changeItems(served.database, world, [item], values, { kind: 'person', number: 1 }, at)
    }
  }
}

const all = vectors as unknown as Case[]
const of = (measure: string): (readonly [string, Case])[] =>
  all
    .filter((entry) => entry.input.measure === measure && entry.input.items)
    .map((entry) => [entry.name, entry] as const)
const evaluate = async (
  body: object,
): Promise<{
  steps: string[]
  total: number[]
  groups: { key: { id: string }[]; values: number[] }[]
}> => {
  const answer = await call('POST', '/measures/evaluate', body)
  if (answer.status !== 200) throw new Error(JSON.stringify(answer.body))
  return answer.body
}

describe('flow measures worked by hand (flow-measures.json, sources there)', () => {
  it.each(of('cumulative flow'))('%s', async (_, { input, expected }) => {
    await load(input.items)
    const [from, to] = input.window!
    const answer = await evaluate({
      filter: input.query ?? '',
      figure: { kind: 'count' },
      by: ['phase'],
      over: { from, to, step: 'day' },
    })
    const told = answer.steps.map((day, index) => [
      day,
      ...phases.map(
        (phase) => answer.groups.find((group) => group.key[0]!.id === phase)?.values[index] ?? 0,
      ),
    ])
    expect(told).toEqual(expected)
  })

  it.each(of('throughput by week'))('%s', async (_, { input, expected }) => {
    await load(input.items)
    const [from, to] = input.window!
    const answer = await evaluate({
      filter: '',
      figure: { kind: 'throughput' },
      over: { from, to, step: 'week' },
      asOf: to,
    })
    expect(answer.total).toEqual(Object.values(expected))
  })

  it.each([...of('cycle time'), ...of('lead time')])('%s', async (_, { input, expected }) => {
    await load(input.items)
    for (const [title, told] of Object.entries<{ elapsedDays: { value: number } } | null>(
      expected,
    )) {
      const answer = await evaluate({
        filter: `title = '${title}'`,
        figure: { kind: input.measure.replace(' ', '_'), stat: 'mean' },
      })
      if (told === null) expect(answer.total[0], title).toBeNull()
      else expect(answer.total[0], title).toBeCloseTo(told.elapsedDays.value, 8)
    }
  })

  it.each(of('percentiles of cycle time, elapsed days'))('%s', async (_, { input, expected }) => {
    await load(input.items)
    for (const p of input.percentiles!) {
      const answer = await evaluate({
        filter: '',
        figure: { kind: 'cycle_time', stat: 'percentile', p },
      })
      expect(answer.total[0], String(p)).toBeCloseTo(
        (expected as Record<string, { value: number }>)[String(p)]!.value,
        8,
      )
    }
  })

  it.each(of('burn'))('%s', async (_, { input, expected }) => {
    await load(input.items)
    const [from, to] = input.window!
    const course = async (filter: string, figure: object): Promise<number[]> =>
      (await evaluate({ filter, figure, over: { from, to, step: 'day' } })).total
    const [estimate, count] = [{ kind: 'sum', field: 'estimate' }, { kind: 'count' }]
    const scope = await course("phase <> 'dropped'", estimate)
    const done = await course("phase = 'done'", estimate)
    const items = await course("phase <> 'dropped'", count)
    const finished = await course("phase = 'done'", count)
    const unknown = await course("phase <> 'dropped' AND estimate IS NULL", count)
    expect((expected as [string, ...number[]][]).map((row) => row.slice(1))).toEqual(
      scope.map((value, index) => [
        value,
        done[index],
        value - done[index]!,
        items[index],
        finished[index],
        items[index]! - finished[index]!,
        unknown[index],
      ]),
    )
  })
})
