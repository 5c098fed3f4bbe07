import type { DefinitionsDocument } from '@bluestem/core/definitions'
import type { Sequelize } from 'sequelize'
import { modelsOf } from '../database/models/models.ts'
import type { ActorContext } from '../workspace/actor.ts'

/** A new edition: the whole document, what changed in words and by path, and why. */
export interface NewEdition {
  readonly document: DefinitionsDocument
  readonly words: readonly string[]
  readonly paths: readonly (readonly string[])[]
  readonly note: string
}

/** Records the next edition and makes it the current one. @returns its number */
export async function recordEdition(
  database: Sequelize,
  { world, person, now }: ActorContext,
  { document, words, paths, note }: NewEdition,
): Promise<number> {
  const number = world.edition + 1
  const { currentEdition, edition } = modelsOf(database)
  await edition.create({
    number,
    document,
    changes: words,
    paths,
    note,
    byId: person.number,
    publishedAt: now,
  })
  await currentEdition.update({ number }, { where: { onlyRow: true } })
  return number
}
