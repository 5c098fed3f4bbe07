import { type DefinitionsDocument, replaceAt, replay } from '@bluestem/core/definitions'
import { queryContext, database, world } from './world.ts'
import { askedBy, pastMoves } from '../server/src/items/pastMoves.ts'
import { rows } from '../server/src/database/connect.ts'
import { show, sideBySide } from './measure.ts'
import { usageOf } from '../server/src/definitions/usage.ts'

/** The flow of defects without its most used move, and a field that must be filled to finish. */
function stricter(): DefinitionsDocument {
  const entry = (key: string): string[] => ['rulebooks', 'rb_everyone', 'entries', key]
  return replaceAt(
    replaceAt(world.document, entry('move:ty_defect:st_open:st_hand'), undefined),
    entry('requirement:ty_defect:st_signed'),
    { requires: { filled: ['fi_found'], comment: true } },
  )
}

/** What publishing a stricter flow would have done to 100,000 moves and more; beside it, only reading the states of that time. */
export async function replayOfThePast(): Promise<void> {
  const document = stricter()
  const asked = askedBy(world.document, document)
  const [{ since }] = (await rows<{ since: Date }>(
    database,
    'SELECT min(valid_from) AS since FROM (SELECT valid_from FROM item_version WHERE by_kind = 0 ORDER BY valid_from DESC LIMIT 200000) z',
  )) as [{ since: Date }]
  const replayed = async () =>
    replay(document, await pastMoves(database, world, asked, queryContext.visible, since))
  const [whole, states] = await sideBySide(
    replayed,
    async () =>
      await rows(
        database,
        'SELECT id, status_id, valid_from FROM item_state WHERE valid_from >= $1 ORDER BY id, valid_from',
        [since],
      ),
    3,
  )
  show('Replay of a stricter flow', [
    {
      what: `${(await replayed()).moves.toLocaleString('en')} moves judged / reading the states of that time`,
      a: whole,
      b: states,
      budget: 'under 3,000 ms for 100,000 moves',
    },
  ])
}

/** How much everything is used, and when last: what every chapter of Definitions shows. */
export async function useOfEverything(): Promise<void> {
  const [used, number] = await sideBySide(
    async () => await usageOf(database, world, queryContext.visible),
    async () => await rows(database, 'SELECT count(*) FROM item WHERE NOT deleted'),
    5,
  )
  show('The use of everything defined / one count of all items', [
    { what: 'counted anew', a: used, b: number },
  ])
}
