import { setTimeout } from 'node:timers/promises'
import { connect, run } from '../src/database/connect.ts'
import { clusterUrl, databaseUrl } from '../../scripts/checks/cluster.mjs'

/** Runs a statement against the maintenance database of a cluster. */
export async function administer(sql: string, cluster = clusterUrl()): Promise<void> {
  const database = connect(databaseUrl('postgres', cluster), { max: 1 })
  try {
    await run(database, sql)
  } finally {
    await database.close()
  }
}

const insufficientPrivilege = '42501'

/** Drops a database. A vacuum of the database's own may be at work in it, which only its superuser may end: then it is waited for. */
export async function dropDatabase(name: string, cluster = clusterUrl()): Promise<void> {
  for (;;)
    try {
      await administer(`DROP DATABASE IF EXISTS ${name} WITH (FORCE)`, cluster)
      return
    } catch (error) {
      const { code } = (error as { parent?: { code?: string } }).parent ?? {}
      if (code !== insufficientPrivilege) throw error
      await setTimeout(200)
    }
}
