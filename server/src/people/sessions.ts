import { cast, col, fn, Op, type Sequelize, where } from 'sequelize'
import { modelsOf } from '../database/models/models.ts'
import { announceSessionEnd } from '../sql/outbox.ts'

/**
 * Ends the sessions of a person, and the streams that hang on them.
 *
 * @param except the session that stays
 */
export async function endSessions(database: Sequelize, person: number, except = ''): Promise<void> {
  const { session } = modelsOf(database)
  const owner = where(cast(fn('json_extract_path_text', col('sess'), 'person'), 'int'), person)
  const found = await session.findAll({
    attributes: ['sid'],
    where: { [Op.and]: [owner, { sid: { [Op.ne]: except } }] },
  })
  const sid = found.map((session) => session.sid)
  await session.destroy({ where: { sid } })
  for (const text of sid) await announceSessionEnd(database, text)
}
