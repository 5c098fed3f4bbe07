import type { Sequelize } from 'sequelize'
import { rows } from './connect.ts'
import { notFound, stale } from '../problems/problem.ts'

/** Tables whose rows are changed at once by several people, each row with a version. */
export type Versioned = 'label' | 'component' | 'team' | 'calendar' | 'project'

/** Columns that a change gives, each with its expression over the place of its value. */
export type Changes = Readonly<
  Record<string, { readonly value: unknown; readonly sql?: (place: string) => string } | undefined>
>

/** The version a header is meant for; undefined for any. A header that is no version of ours fits none. */
const versionOf = (match: string): number | undefined =>
  match === '*' ? undefined : Number(/^"(\d{1,9})"$/.exec(match)?.[1] ?? -1)

/**
 * Changes a row where it still has the version that the change is meant for: both are one statement, so that of two who change the
 * same version one wins. Only what is given is written.
 *
 * @returns the new version
 * @throws Problem 412 with what is there now, 404 where nothing is any more
 */
export async function changeVersion(
  database: Sequelize,
  table: Versioned,
  identity: string,
  match: string,
  changes: Changes,
): Promise<number> {
  const bind: unknown[] = [identity, versionOf(match) ?? null]
  const sets = Object.entries(changes).flatMap(([column, change]) => {
    if (!change) return []
    const place = `$${bind.push(change.value)}`
    return [`${column} = ${change.sql?.(place) ?? place}`]
  })
  const [changed] = await rows<{ version: number }>(
    database,
    `UPDATE ${table} SET ${[...sets, 'version = version + 1'].join(', ')} WHERE identity = $1 AND ($2::int IS NULL OR version = $2::int) RETURNING version`,
    bind,
  )
  return changed?.version ?? (await lost(database, table, identity))
}

/** Deletes a row where it still has the version that was read. */
export async function deleteVersion(
  database: Sequelize,
  table: Versioned,
  identity: string,
  match: string,
): Promise<void> {
  const [gone] = await rows<{ version: number }>(
    database,
    `DELETE FROM ${table} WHERE identity = $1 AND ($2::int IS NULL OR version = $2::int) RETURNING version`,
    [identity, versionOf(match) ?? null],
  )
  if (!gone) await lost(database, table, identity)
}

async function lost(database: Sequelize, table: Versioned, identity: string): Promise<never> {
  const [there] = await rows<{ title: string; version: number }>(
    database,
    `SELECT title, version FROM ${table} WHERE identity = $1`,
    [identity],
  )
  if (!there) throw notFound(`${table} of this identity`)
  throw stale({ title: there.title, version: there.version })
}

export const etagOfVersion = ({ version }: { readonly version: number }): string => `"${version}"`
