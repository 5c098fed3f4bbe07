import type { Sequelize } from 'sequelize'
import { row, run } from '../database/connect.ts'
import { prepared } from '../database/prepared.ts'

export interface Attempts {
  readonly hits: number
  readonly ends: Date
}

/** Counts one more attempt of a key; a window that has ended begins anew. @param window its length in milliseconds */
export async function countAttempt(
  database: Sequelize,
  key: string,
  window: number,
): Promise<Attempts> {
  const counted = await row<Attempts>(
    database,
    prepared(`INSERT INTO attempt AS a (key, hits, ends) VALUES ($1, 1, now() + make_interval(secs => $2))
    ON CONFLICT (key) DO UPDATE SET
      hits = CASE WHEN a.ends < now() THEN 1 ELSE a.hits + 1 END,
      ends = CASE WHEN a.ends < now() THEN excluded.ends ELSE a.ends END
    RETURNING hits, ends`),
    [key, window / 1000],
  )
  return counted
}

export async function uncountAttempt(database: Sequelize, key: string): Promise<void> {
  await run(database, 'UPDATE attempt SET hits = greatest(hits - 1, 0) WHERE key = $1', [key])
}
