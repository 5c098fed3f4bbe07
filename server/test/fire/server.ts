import { startServer } from '../../../scripts/checks/serving.mjs'

/** A server in a process of its own, to be killed. */
export type OwnServer = Awaited<ReturnType<typeof startServer>>

/** Starts a server over a database; it leaves more than a hundred items of a mapping to a job. */
export const startOwnServer = async (url: string): Promise<OwnServer> =>
  await startServer(url, { options: { screens: 'nowhere', mapAtOnce: 100 } })
