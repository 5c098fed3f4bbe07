import type { Sequelize } from 'sequelize'
import { rows } from '../database/connect.ts'
import { prepared } from '../database/prepared.ts'
import type { Stamp } from '../workspace/world.ts'

/** Which edition and which state of the living data is current. Every request reads it, so it is planned once. */
export async function readStamp(database: Sequelize): Promise<Stamp | undefined> {
  const [stamp] = await rows<Stamp>(
    database,
    prepared(`SELECT e.number AS edition, l.version AS living
    FROM current_edition e JOIN living l ON l.one = e.one WHERE e.one = $1`),
    [true],
  )
  return stamp
}
