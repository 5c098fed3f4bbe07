import type { Sequelize } from 'sequelize'
import { audit } from '../sql/audit.ts'
import { announce, type Audience } from '../sql/outbox.ts'
import type { ActorContext } from '../workspace/actor.ts'

/** Records an act on one living thing of a kind: in the audit, and for everybody who looks at it now and may see it. */
export const auditorOf =
  (kind: string) =>
  async (
    database: Sequelize,
    { person, now }: ActorContext,
    act: string,
    id: string,
    change: { before?: unknown; after?: unknown },
    audience: Audience = {},
  ): Promise<void> => {
    await audit(database, person.number, act, `${kind} ${id}`, change, now)
    await announce(database, kind, id, audience, now)
  }
