import type { Sequelize } from 'sequelize'
import { rows, run } from '../database/connect.ts'
import type { ActorContext } from '../workspace/actor.ts'

/** Labels a person gave last, latest first. */
export async function recentLabels(
  database: Sequelize,
  { person, world }: ActorContext,
): Promise<object> {
  const found = await rows<{ label_id: number }>(
    database,
    'SELECT label_id FROM label_recent WHERE person_id = $1 ORDER BY at DESC LIMIT 12',
    [person.number],
  )
  return {
    recent: found.flatMap(
      ({ label_id }) =>
        world.labels.find((label) => label.number === label_id && !label.retired)?.id ?? [],
    ),
  }
}

export async function rememberLabels(
  database: Sequelize,
  person: number,
  given: readonly number[],
  now: Date,
): Promise<void> {
  for (const label of given)
    await run(
      database,
      'INSERT INTO label_recent (person_id, label_id, at) VALUES ($1, $2, $3) ON CONFLICT (person_id, label_id) DO UPDATE SET at = excluded.at',
      [person, label, now],
    )
}
