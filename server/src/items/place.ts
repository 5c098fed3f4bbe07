import { type Sequelize, Transaction } from 'sequelize'
import { row } from '../database/connect.ts'
import { modelsOf } from '../database/models/models.ts'

/** Holds a project, so that places in its hand order and numbers are given one after the other. */
export async function holdProject(database: Sequelize, project: number): Promise<void> {
  await modelsOf(database).project.findByPk(project, { lock: Transaction.LOCK.NO_KEY_UPDATE })
}

/** The number of the next item of a project and the last place of its hand order. A number that is taken already is passed over. */
export async function nextInProject(
  database: Sequelize,
  project: number,
): Promise<{ number: number; last: string | null }> {
  await holdProject(database, project)
  const last = await lastPosition(database, project)
  const counted = await row<{ last_number: number }>(
    database,
    `UPDATE project SET last_number = 1 + greatest(
        last_number,
        (SELECT coalesce(max(number), 0) FROM item WHERE project_id = $1))
    WHERE id = $1 RETURNING last_number`,
    [project],
  )
  return { number: counted.last_number, last }
}

/** The last place of a project's hand order. */
export async function lastPosition(database: Sequelize, project: number): Promise<string | null> {
  const found = await row<{ position: string | null }>(
    database,
    'SELECT max(position) AS position FROM item WHERE project_id = $1',
    [project],
  )
  return found.position
}
