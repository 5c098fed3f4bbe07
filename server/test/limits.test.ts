import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { type Caller, serveWorkspace, type Served } from './workspace.ts'

let served: Served
let mara: Caller
beforeAll(async () => {
  served = await serveWorkspace()
  mara = await served.signIn('Mara Thiel')
})
afterAll(async () => await served.close())

const column = 'left_tl_remedy'
const limit = 'Remedy a finding'

interface Listed {
  readonly ref: string
  readonly [column]: number | null
}
const list = async (filter: string, more: object = {}): Promise<Listed[]> => {
  const { status, body } = await mara('POST', '/items/search', {
    filter,
    fields: `ref,${column}`,
    limit: 500,
    ...more,
  })
  expect(status, JSON.stringify(body)).toBe(200)
  return body.items
}
/** The clock as the item's own page has it, computed by the core from the item's history. */
const clockOf = async (ref: string) =>
  (await mara('GET', `/items/${ref}`)).body.limits.find(
    (limit: { id: string }) => limit.id === 'tl_remedy',
  )

describe('what is left of a time limit', () => {
  it('is in lists what the page of each item tells, in hours, and nothing where no clock runs', async () => {
    const items = await list("project = 'SAFE'")
    let running = 0
    for (const item of items.filter((item, at) => item[column] !== null || at % 8 === 0)) {
      const clock = await clockOf(item.ref)
      const runs = clock && ['running', 'standing still', 'passed'].includes(clock.state)
      if (runs) running += 1
      if (!runs) expect(item[column], item.ref).toBeNull()
      // The page tells whole minutes, the list hundredths of an hour.
      else
        expect(Math.abs(item[column]! * 60 - (clock.allowed - clock.used))).toBeLessThanOrEqual(
          0.81,
        )
    }
    expect(running).toBeGreaterThan(5)
  })

  it('is asked for by a function, which cannot tell where no clock runs', async () => {
    const all = await list("project = 'SAFE'")
    const known = all.filter((listed) => listed[column] !== null)
    const asked = await list(`project = 'SAFE' AND limit_left('${limit}') < 0`)
    expect(asked.map(({ ref }) => ref)).toEqual(
      known.filter((listed) => listed[column]! < 0).map(({ ref }) => ref),
    )
    expect(asked.length).toBeGreaterThan(0)
    const { body } = await mara('POST', '/items/search', {
      filter: `project = 'SAFE' AND limit_left('${limit}') < 0`,
    })
    expect(body.cannotTell).toBe(all.length - known.length)
  })

  it('orders a list, what runs out first at its head', async () => {
    const sorted = await list(`project = 'SAFE' AND limit_left('${limit}') IS NOT NULL`, {
      sort: column,
    })
    const hours = sorted.map((listed) => listed[column]!)
    expect(hours).toEqual(hours.toSorted((a, b) => a - b))
    expect(hours.length).toBeGreaterThan(5)
  })

  it('is no part of a condition as a column, no figure, and says by what it is asked for', async () => {
    const { body } = await mara('POST', '/queries/check', { filter: `${column} < 4` })
    expect(body.errors[0].expected).toBe(`limit_left('${limit}')`)
    const figure = await mara('POST', '/measures/evaluate', {
      filter: "project = 'SAFE'",
      figure: { kind: 'sum', field: column },
    })
    expect(figure.status).toBe(400)
  })

  it('is named by what keeps it, so that whoever changes the limit is told', async () => {
    const kept = await mara('POST', '/queries', {
      title: 'Nearly too late',
      content: {
        filter: `limit_left('${limit}') < 8`,
        columns: ['ref', column],
        order: [],
      },
    })
    expect(kept.status, JSON.stringify(kept.body)).toBe(201)
    const { named } = (await mara('GET', '/definitions/usage')).body
    expect(named['tl_remedy']).toContainEqual(
      expect.objectContaining({ kind: 'query', title: 'Findings that run out of time' }),
    )
    expect(JSON.stringify((await mara('GET', `/queries/${kept.body.id}`)).body.sentence)).toContain(
      'working hours left of the time limit',
    )
  })
})
