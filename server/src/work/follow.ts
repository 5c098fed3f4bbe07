import { namedIn } from '@bluestem/core/work'
import type { Sequelize } from 'sequelize'
import { addFollowers } from '../items/notices.ts'
import type { ActorContext } from '../workspace/actor.ts'
import { visibleProjects } from '../workspace/visibility.ts'
import type { World } from '../workspace/world.ts'
import type { Person, Project } from '../workspace/living.ts'

/** Whether somebody can be made to hear of the items of a project: they may sign in, and see it. */
export const mayHear = (world: World, person: Person, project: Project): boolean =>
  person.active && visibleProjects(world, person).includes(project.number)

/** Makes everybody hear of an item who is named in what is said about it, and may see it. */
export async function followByName(
  database: Sequelize,
  { world, person, now }: ActorContext,
  item: number,
  project: Project,
  said: string,
): Promise<void> {
  const people = world.people.map(({ id, name }) => ({ id, title: name }))
  const named = new Set(namedIn(said, { people, codes: [] }).map(({ id }) => id))
  const hearers = world.people.filter(
    (entry) => entry.id !== person.id && named.has(entry.id) && mayHear(world, entry, project),
  )
  if (hearers.length === 0) return
  const earlier = new Date(now.getTime() - 1)
  // What is said now is news to those who are named in it.
  await addFollowers(
    database,
    item,
    hearers.map(({ number }) => number),
    earlier,
  )
}
