import { connect } from '../src/database/connect.ts'
import { migrate } from '../src/database/migrations/migrate.ts'
import { loadDemo } from '../src/demo/load.ts'
import { administer, dropDatabase, nameOf } from './cluster.ts'

/** The moment every server test takes for now. */
export const testNow = new Date('2026-11-25T10:00:00Z')

/** Makes the template once: a migrated database with a small demo; each test file copies it. */
export default async function setup(): Promise<void> {
  await dropDatabase('template_demo')
  await administer(
    `CREATE DATABASE template_demo TEMPLATE template0 ENCODING 'UTF8' LOCALE 'C.UTF-8'`,
  )
  const database = connect(nameOf('template_demo'))
  await migrate(database)
  await loadDemo(database, { now: testNow, items: 500 })
  await database.close()
}
