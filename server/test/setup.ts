import { connect } from '../src/database/connect.ts'
import { migrate } from '../src/database/migrations/migrate.ts'
import { loadDemo } from '../src/demo/load.ts'
import { clusterUrls, databaseUrl } from '../../scripts/checks/cluster.mjs'
import { administer, dropDatabase } from './cluster.ts'

/** The moment every server test takes for now. */
export const testNow = new Date('2026-11-25T10:00:00Z')

/** Makes the template of each cluster once: a migrated database with a small demo; each test file copies it. */
export default async function setup(): Promise<void> {
  await Promise.all(clusterUrls().map(makeTemplate))
}

async function makeTemplate(cluster: string): Promise<void> {
  await dropDatabase('template_demo', cluster)
  await administer(
    `CREATE DATABASE template_demo TEMPLATE template0 ENCODING 'UTF8' LOCALE 'C.UTF-8'`,
    cluster,
  )
  const database = connect(databaseUrl('template_demo', cluster))
  await migrate(database)
  await loadDemo(database, { now: testNow, items: 500 })
  await database.close()
}
