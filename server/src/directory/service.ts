import { certain } from '@bluestem/core/known'
import {
  compareDirectory,
  type DirectoryAnswer,
  type DirectoryChoice,
  type DirectoryTaken,
  readDirectory,
} from '@bluestem/core/directory'
import type { Sequelize } from 'sequelize'
import { inTransaction } from '../database/connect.ts'
import { modelsOf } from '../database/models/models.ts'
import { makeInvitation } from '../people/invitation.ts'
import { makePerson, writePerson } from '../people/service.ts'
import { Problem, refused } from '../problems/problem.ts'
import type { ActorContext } from '../workspace/actor.ts'
import { linesOfDirectory } from './file.ts'

const none: DirectoryAnswer = {
  file: null,
  joins: [],
  differs: [],
  gone: [],
  same: 0,
  problems: [],
}

/** The directory beside the people here: who joins, who is otherwise, who is gone. Nothing changes. */
export async function compared(
  { world }: ActorContext,
  path: string | undefined,
): Promise<DirectoryAnswer> {
  if (path === undefined) return none
  const { name, lines } = await linesOfDirectory(path)
  const { entries, problems } = readDirectory(lines)
  const found = compareDirectory(world.people, entries, problems.length === 0)
  return { file: name, ...found, problems: [...problems] }
}

const changedMeanwhile = (): Problem =>
  new Problem(
    409,
    'Not as you saw it',
    'The directory or the people changed meanwhile. Nothing was taken over; look at it anew.',
  )

/**
 * Takes over what was chosen, all of it or nothing. Whoever is added is invited.
 *
 * @param origin where the application answers
 * @throws Problem 409 where something chosen is no longer as it was seen
 */
export async function takeOver(
  database: Sequelize,
  actor: ActorContext,
  path: string | undefined,
  chosen: DirectoryChoice,
  origin: string,
): Promise<DirectoryTaken> {
  const found = await compared(actor, path)
  const joins = found.joins.filter(({ email }) => chosen.joins.includes(email))
  const differs = found.differs.filter(({ id }) => chosen.differs.includes(id))
  const gone = found.gone.filter(({ id }) => chosen.gone.includes(id))
  if (
    joins.length < chosen.joins.length ||
    differs.length < chosen.differs.length ||
    gone.length < chosen.gone.length
  )
    throw changedMeanwhile()
  if (gone.some(({ id }) => id === actor.person.id))
    throw refused(
      'You are not in the directory yourself; another administrator can end your sign-in.',
    )
  return await inTransaction(database, async () => {
    for (const { id, after } of differs) await writePerson(database, actor, id, after, '*')
    for (const { id } of gone) await writePerson(database, actor, id, { active: false }, '*')
    const added: DirectoryTaken['added'][number][] = []
    for (const entry of joins) {
      const { id, name } = await makePerson(database, actor, entry)
      const stored = await modelsOf(database).person.findOne({ where: { identity: id } })
      const { address } = await makeInvitation(
        database,
        actor,
        { id, number: certain(stored, 'person who was just added').id },
        origin,
      )
      added.push({ id, name, address })
    }
    return { added, changed: differs.length, gone: gone.length }
  })
}
