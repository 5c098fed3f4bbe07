import type { Sequelize } from 'sequelize'
import type { Renamed } from '../database/models/merge.ts'
import { modelsOf } from '../database/models/models.ts'
import type { ActorContext } from '../workspace/actor.ts'

/** What was made one, beside what follows from who does it when. */
interface MergeGiven {
  readonly kind: 'labels' | 'components'
  readonly into: string
  readonly from: readonly { readonly id: string; readonly retired: boolean }[]
  readonly renamed: readonly Renamed[]
}

/** Of something that was renamed more than once, how it was at first and how it is at last. */
function joined(renamed: readonly Renamed[]): Renamed[] {
  const byPlace = new Map<string, Renamed>()
  for (const entry of renamed) {
    const place = `${entry.table} ${entry.id}`
    byPlace.set(place, { ...entry, before: byPlace.get(place)?.before ?? entry.before })
  }
  return [...byPlace.values()]
}

/** Keeps what undoing a merge will need. */
export async function recordMerge(
  database: Sequelize,
  { world, person, now }: ActorContext,
  { kind, into, from, renamed }: MergeGiven,
): Promise<void> {
  await modelsOf(database).merge.create({
    kind,
    into,
    from: from.map(({ id }) => id),
    retired: from.filter(({ retired }) => retired).map(({ id }) => id),
    renamed: joined(renamed),
    edition: world.edition,
    madeBy: person.number,
    madeAt: now,
  })
}
