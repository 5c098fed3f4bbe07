import type { Sequelize } from 'sequelize'
import { modelsOf } from '../database/models/models.ts'
import { changeVersion } from '../database/versioned.ts'
import type { Worlds } from '../workspace/world.ts'
import { publish } from './publish.ts'
import { Problem } from '../problems/problem.ts'
import { JobRefused, type Work } from '../jobs/job.ts'

/** Why publishing was refused; undefined where it may do better at another try. */
function refusalIn(error: unknown): string | undefined {
  const isFinal = error instanceof JobRefused || (error instanceof Problem && error.status < 500)
  return isFinal ? error.message : undefined
}

/** Publishes a draft at the time that was set, as who set it. A draft that was changed, called off or published meanwhile is left alone. */
export const publishSetDraft =
  (database: Sequelize, worlds: Worlds, clock: () => Date): Work =>
  async (job) => {
    const drafts = modelsOf(database).draft
    const draft = await drafts.findOne({ where: { identity: job.subject, closedAt: null } })
    if (!draft?.publishAt) return undefined
    if (draft.publishAt > clock()) return draft.publishAt
    const world = await worlds.now()
    const person = world.people.find((person) => person.number === job.byId)
    try {
      if (!person) throw new JobRefused('Whoever set the time is no longer there.')
      await publish(database, { world, person, now: clock() }, job.subject, {
        note: draft.publishNote,
        match: '*',
      })
    } catch (error) {
      const reason = refusalIn(error)
      if (reason === undefined) throw error
      await changeVersion(drafts, job.subject, '*', { publishAt: null })
      throw new JobRefused(reason)
    }
    return undefined
  }
