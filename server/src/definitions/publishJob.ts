import type { Sequelize } from 'sequelize'
import { rows, run } from '../database/connect.ts'
import type { Worlds } from '../workspace/world.ts'
import { publish } from './publish.ts'
import { Problem } from '../problems/problem.ts'
import { JobRefused, type Work } from '../jobs/jobs.ts'

/** Publishes a draft at the time that was set, as who set it. A draft that was changed, called off or published meanwhile is left alone. */
export const publishSetDraft =
  (database: Sequelize, worlds: Worlds, clock: () => Date): Work =>
  async (job) => {
    const [draft] = await rows<{ publish_at: Date | null; publish_note: string }>(
      database,
      'SELECT publish_at, publish_note FROM draft WHERE identity = $1 AND closed_at IS NULL',
      [job.subject],
    )
    if (!draft?.publish_at || draft.publish_at > clock()) return
    const world = await worlds.now()
    const person = world.people.find((one) => one.number === job.by_id)
    try {
      if (!person) throw new JobRefused('Whoever set the time is no longer there.')
      await publish(database, { world, person, now: clock() }, job.subject, {
        note: draft.publish_note,
        match: '*',
      })
    } catch (error) {
      await run(
        database,
        'UPDATE draft SET publish_at = NULL, version = version + 1 WHERE identity = $1',
        [job.subject],
      )
      throw error instanceof Problem ? new JobRefused(error.message) : error
    }
  }
