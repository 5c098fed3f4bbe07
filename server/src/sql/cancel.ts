import pg from 'pg'
import type { Sequelize } from 'sequelize'
import { presentWork } from '../database/asker.ts'

/** Lets every statement end with the request it belongs to. A connection is given back only when its cancelling has been told, so that it never hits the next statement. */
export function endWithRequests(database: Sequelize, url: string): void {
  const ends = new WeakMap<object, () => Promise<void>>()
  database.addHook('beforeQuery', (options, query) => {
    const asker = presentWork()
    // What ends a transaction always runs, else its connection would be lost.
    if (!asker || 'completesTransaction' in options) return
    const { processID } =
      // Sequelize hands its hooks the query, whose connection its types leave out.
      (query as unknown as { readonly connection: { readonly processID?: number } }).connection
    let cancelling: Promise<void> | undefined
    const forget = asker.begins(async () => await (cancelling ??= cancel(url, processID)))
    ends.set(options, async () => {
      forget()
      await cancelling
    })
  })
  database.addHook('afterQuery', async (options) => await ends.get(options)?.())
}

/** Ends a statement in the database by a connection of its own. */
async function cancel(url: string, process: number | undefined): Promise<void> {
  const client = new pg.Client({ connectionString: url, application_name: 'bluestem cancel' })
  client.on('error', () => undefined)
  try {
    await client.connect()
    await client.query('SELECT pg_cancel_backend($1)', [process])
  } catch {
    // Without a database there is nothing left to end.
  } finally {
    await client.end().catch(() => undefined)
  }
}
