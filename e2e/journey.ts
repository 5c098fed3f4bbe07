import { once } from 'node:events'
import pg from 'pg'
import { openBrowser, signIn } from '../scripts/browser.mjs'
import { journeysBegin } from '../scripts/checks/databases.mjs'
import { databaseUrl } from '../scripts/checks/cluster.mjs'
import { startServer } from '../scripts/checks/serving.mjs'
import { Page } from './page.ts'

/** A browser before a workspace of its own, so that no file of journeys depends on what another one did. */
export interface Journey {
  readonly page: Page
  readonly driver: Page['driver']
  /** Signs in; everything is by the administrator unless a journey names another demo account. */
  readonly enter: (account?: string) => Promise<void>
  /** Opens a second browser before the same workspace, signed in where an account is named. */
  readonly openOther: (account?: string) => Promise<{ page: Page; close: () => Promise<void> }>
  readonly close: () => Promise<void>
}

/** The page of the journey that runs now, for a picture of what a failed step saw. */
export let shown: Page | undefined

const accounts = { demo: 'mara.thiel', nothing: 'ada.reed' }

async function administer(sql: string): Promise<void> {
  const client = new pg.Client({ connectionString: databaseUrl('postgres') })
  await client.connect()
  try {
    await client.query(sql)
  } finally {
    await client.end()
  }
}

/**
 * Opens a browser before a copy of the demo, or of a workspace in which nothing is set up.
 *
 * @throws without the databases of the test command
 */
export async function beginJourney(workspace: 'demo' | 'nothing' = 'demo'): Promise<Journey> {
  const name = `journey_${process.pid}`
  await administer(`CREATE DATABASE ${name} TEMPLATE journeys_${workspace}`)
  const [{ process: server, origin }, browser] = await Promise.all([
    startServer(databaseUrl(name), { env: { BLUESTEM_NOW: journeysBegin } }),
    openBrowser(),
  ])
  const page = new Page(browser.driver, origin)
  shown = page
  return {
    page,
    driver: browser.driver,
    enter: async (account = accounts[workspace]) => await signIn(browser.driver, origin, account),
    openOther: async (account) => {
      const other = await openBrowser()
      if (account) await signIn(other.driver, origin, account)
      return { page: new Page(other.driver, origin), close: other.close }
    },
    close: async () => {
      await browser.close()
      server.kill('SIGTERM')
      await once(server, 'exit')
      await administer(`DROP DATABASE ${name} WITH (FORCE)`)
    },
  }
}
