import type { AnswerOf } from '@bluestem/core/contract'
import type { Sequelize } from 'sequelize'
import { modelsOf } from '../database/models/models.ts'
import type { ActorContext } from '../workspace/actor.ts'

/** Labels a person gave last, latest first. */
export async function recentLabels(
  database: Sequelize,
  { person, world }: ActorContext,
): Promise<AnswerOf<'GET /labels/recent'>> {
  const found = await modelsOf(database).labelRecent.findAll({
    where: { personId: person.number },
    order: [['at', 'DESC']],
    limit: 12,
  })
  return {
    recent: found.flatMap(
      ({ labelId }) =>
        world.labels.find((label) => label.number === labelId && !label.retired)?.id ?? [],
    ),
  }
}

export async function rememberLabels(
  database: Sequelize,
  person: number,
  given: readonly number[],
  now: Date,
): Promise<void> {
  if (given.length === 0) return
  await modelsOf(database).labelRecent.bulkCreate(
    given.map((labelId) => ({ personId: person, labelId, at: now })),
    { updateOnDuplicate: ['at'] },
  )
}
