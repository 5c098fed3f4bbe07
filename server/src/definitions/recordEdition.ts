import type { DefinitionsDocument } from '@bluestem/core/definitions'
import type { Sequelize } from 'sequelize'
import { run } from '../database/connect.ts'
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
  const [documentText, wordsText, pathsText] = [document, words, paths].map((one) =>
    JSON.stringify(one),
  )
  await run(
    database,
    'INSERT INTO edition (number, document, changes, paths, note, by_id, published_at) VALUES ($1, $2::jsonb, $3::jsonb, $4::jsonb, $5, $6, $7)',
    [number, documentText, wordsText, pathsText, note, person.number, now],
  )
  await run(database, 'UPDATE current_edition SET number = $1', [number])
  return number
}
