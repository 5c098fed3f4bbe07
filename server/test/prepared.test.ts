import { afterAll, describe, expect, it } from 'vitest'
import { connect, inTransaction, rows } from '../src/database/connect.ts'
import { keyedPool, prepared } from '../src/database/prepared.ts'
import { databaseUrl } from '../../scripts/checks/cluster.mjs'

// One connection alone, so that what it has planned can be counted.
const database = connect(databaseUrl('postgres'), { max: 1 })
afterAll(async () => await database.close())

const planned = async (): Promise<number> => {
  const [found] = await rows<{ count: number }>(
    database,
    'SELECT count(*)::int AS count FROM pg_prepared_statements',
  )
  return found!.count
}
const plus = (added: number) => prepared(`SELECT $1::int + ${added} AS sum`)
const sum = async (added: number, to: number): Promise<number> =>
  (await rows<{ sum: number }>(database, plus(added), [to]))[0]!.sum

describe('statements that are planned once', () => {
  it('are planned once for many values, and others not at all', async () => {
    const before = await planned()
    expect(await Promise.all([1, 2, 3].map(async (to) => await sum(1, to)))).toEqual([2, 3, 4])
    expect(await planned()).toBe(before + 1)
    await rows(database, 'SELECT $1::int AS plain', [1])
    expect(await planned()).toBe(before + 1)
  })

  it('stay right where a connection forgets them, within a transaction and behind one another', async () => {
    const many = Array.from({ length: 450 }, (_, added) => added)
    const sums = await inTransaction(
      database,
      async () => await Promise.all(many.map(async (added) => await sum(added, 1000))),
    )
    expect(sums).toEqual(many.map((added) => added + 1000))
    expect(await planned()).toBeLessThanOrEqual(200)
    expect(await sum(0, 7)).toBe(7)
  })

  it('are all statements with values, in a pool that finds by key alone', async () => {
    const pool = keyedPool({ connectionString: databaseUrl('postgres'), max: 1 })
    for (const to of [1, 2])
      expect((await pool.query('SELECT $1::int + 5 AS sum', [to])).rows).toEqual([{ sum: to + 5 }])
    const { rows: found } = await pool.query<{ statement: string }>(
      'SELECT statement FROM pg_prepared_statements',
    )
    expect(found.map(({ statement }) => statement)).toEqual(['SELECT $1::int + 5 AS sum'])
    await pool.end()
  })
})
