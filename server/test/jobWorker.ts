import { carryOutBulk } from '../src/bulk/job.ts'
import { carryOutImport } from '../src/exchange/carryOutImport.ts'
import { publishSetDraft } from '../src/definitions/publishJob.ts'
import { loggerFor } from '../src/http/logger.ts'
import { carryOutMappings } from '../src/items/remapJob.ts'
import type { JobKind, Work } from '../src/jobs/job.ts'
import { JobWorker } from '../src/jobs/worker.ts'
import { makeDue } from '../src/sql/queue.ts'
import type { Workspace } from './workspace.ts'

/** A worker over the tests’ workspace. Its own queue says nothing, since failures are what some tests are about. */
export function jobWorker(
  { database, url, worlds }: Pick<Workspace, 'database' | 'url' | 'worlds'>,
  clock: () => Date,
  works: Partial<Record<JobKind, Work>> = {},
): JobWorker {
  const logger = loggerFor(false)
  logger.level = 'silent'
  const all = {
    mapping: carryOutMappings(database, worlds, clock),
    publish: publishSetDraft(database, worlds, clock),
    bulk: carryOutBulk(database, worlds, clock),
    import: carryOutImport(database, worlds, clock),
    ...works,
  }
  return new JobWorker({ database, url, works: all, clock, logger })
}

/** Runs every job that waits, whenever it is due by the clock of the machine. */
export async function runJobs(
  workspace: Pick<Workspace, 'database' | 'url' | 'worlds'>,
  clock: () => Date,
  works: Partial<Record<JobKind, Work>> = {},
): Promise<void> {
  await makeDue(workspace.database)
  const worker = jobWorker(workspace, clock, works)
  await worker.runDue()
  await worker.stop()
}
