import { setTimeout } from 'node:timers/promises'
import { connect, run } from '../src/database/connect.ts'

/** The address of the tests' own cluster, given by the test command. */
export function clusterUrl(): string {
  const url = process.env['BLUESTEM_TEST_URL']
  if (!url)
    throw new Error('these tests need a database of their own: run them by npm run test:server')
  return url
}

/** Runs statements against the cluster's maintenance database. */
export async function administer(sql: string): Promise<void> {
  const database = connect(clusterUrl().replace(/\/[^/]+$/, '/postgres'), { max: 1 })
  try {
    await run(database, sql)
  } finally {
    await database.close()
  }
}

export const nameOf = (name: string): string => clusterUrl().replace(/\/[^/]+$/, `/${name}`)

const insufficientPrivilege = '42501'

/** Drops a database. A vacuum of the database's own may be at work in it, which only its superuser may end: then it is waited for. */
export async function dropDatabase(name: string): Promise<void> {
  for (;;)
    try {
      await administer(`DROP DATABASE IF EXISTS ${name} WITH (FORCE)`)
      return
    } catch (error) {
      const { code } = (error as { parent?: { code?: string } }).parent ?? {}
      if (code !== insufficientPrivilege) throw error
      await setTimeout(200)
    }
}
