import type { Merge } from '@bluestem/core/merges'
import { useNotes } from '../../parts/notes.store.ts'
import { counted } from '../../parts/words.ts'
import { useDefinitions } from '../store/definitions.store.ts'
import { useLiving } from '../store/living.store.ts'

/** Undoes a merge, shows everything as it is then, and says what stays as others changed it meanwhile. */
export async function undoMerge({ id }: Pick<Merge, 'id'>): Promise<void> {
  const done = await useLiving().change('POST /merges/{number}/undo', {
    params: { number: String(id) },
  })
  if (!done) return
  await useDefinitions().load()
  const items = `${counted(done.items, 'item')} ${done.items === 1 ? 'holds' : 'hold'} again what ${done.items === 1 ? 'it' : 'they'} held`
  const stays =
    done.changedSince > 0
      ? `; what was changed since stays as it is: ${counted(done.changedSince, 'query or view', 'queries and views')}`
      : ''
  useNotes().show('well', `${items}${stays}.`)
}
