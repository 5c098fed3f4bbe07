import { type Sequelize, Transaction } from 'sequelize'
import { rows } from '../database/connect.ts'
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
  const [found] = await rows<{ last: string | null }>(
    database,
    'SELECT max(position) AS last FROM item WHERE project_id = $1',
    [project],
  )
  const [counted] = await rows<{ last_number: number }>(
    database,
    `UPDATE project SET last_number = 1 + greatest(
        last_number,
        (SELECT coalesce(max(number), 0) FROM item WHERE project_id = $1))
    WHERE id = $1 RETURNING last_number`,
    [project],
  )
  return { number: counted!.last_number, last: found!.last }
}

/** The nearest place after one (`min`) or before one (`max`) in a project; the last of all where none is given. */
export async function nextPosition(
  database: Sequelize,
  project: number,
  which: 'min' | 'max',
  from: string | null,
): Promise<string | null> {
  const beyond = which === 'min' ? '>' : '<'
  const [found] = await rows<{ position: string | null }>(
    database,
    `SELECT ${which}(position) AS position FROM item
    WHERE project_id = $1 AND ($2::text IS NULL OR position ${beyond} $2::text COLLATE "C")`,
    [project, from],
  )
  return found!.position
}
