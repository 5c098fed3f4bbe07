import type { Sequelize } from 'sequelize'
import { audit, tell, type Audience } from '../database/write.ts'
import type { Acting } from '../work/find.ts'

/** Records an act on one living thing of a kind: in the audit, and for everybody who looks at it now and may see it. */
export const recorderOf =
  (kind: string) =>
  async (
    database: Sequelize,
    { person, now }: Acting,
    act: string,
    id: string,
    change: { before?: unknown; after?: unknown },
    audience: Audience = {},
  ): Promise<void> => {
    await audit(database, person.number, act, `${kind} ${id}`, change, now)
    await tell(database, kind, id, audience, now)
  }
