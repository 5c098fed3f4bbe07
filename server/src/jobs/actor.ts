import type { ActorContext } from '../workspace/actor.ts'
import { seenBy } from '../workspace/visibility.ts'
import type { Worlds } from '../workspace/world.ts'
import { JobRefused } from './job.ts'

/** Whoever began a job that changes items, as they may act now. @throws JobRefused where they may change nothing any more */
export async function actorOfJob(worlds: Worlds, person: number, now: Date): Promise<ActorContext> {
  const world = await worlds.now()
  const found = world.people.find((entry) => entry.number === person)
  if (!found?.active || found.role === 'viewer')
    throw new JobRefused('Whoever began this may change nothing any more.')
  return { world: seenBy(world, found), person: found, now }
}
