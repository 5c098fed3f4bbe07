import { certain } from '@bluestem/core/known'
import type { WholeItemAnswer } from '@bluestem/core/work'
import { ref } from 'vue'
import { ApiProblem, messageOf } from '../api/http.ts'
import { useNotes } from '../parts/notes.store.ts'
import { changeItem, type Clash, clashesOf, type ItemGiven, withTheirs } from './changing.ts'

/** A change that somebody else was faster with, and what both changed. */
interface Clashing {
  readonly given: ItemGiven
  readonly seen: ItemGiven
  readonly clashes: readonly Clash[]
}

/**
 * Changes of the item that is shown.
 *
 * @param shown the item as it was last read
 * @param load reads it anew
 */
export function useItemChange(shown: () => WholeItemAnswer, load: () => Promise<void>) {
  const notes = useNotes()
  const refusal = ref('')
  const clash = ref<Clashing>()

  /** Changes the item. Where somebody changed the same since one began, both are shown and one of them is chosen. */
  async function change(given: ItemGiven, seen: ItemGiven): Promise<void> {
    refusal.value = ''
    const clashes = clashesOf(given, seen, shown())
    if (clashes.length > 0) return void (clash.value = { given, seen, clashes })
    await send(given, seen)
  }

  async function send(given: ItemGiven, seen: ItemGiven): Promise<void> {
    try {
      const outcome = await changeItem(shown(), given, seen)
      const undo = { title: 'Undo', run: async () => await change(seen, given) }
      if (outcome.ok) notes.show('well', 'Changed.', undo)
      else clash.value = { given, seen, clashes: outcome.clashes }
    } catch (error) {
      if (error instanceof ApiProblem && error.status === 409) refusal.value = error.message
      else notes.show('warn', messageOf(error))
    }
    await load()
  }

  /** Writes one’s own over what somebody else changed meanwhile, which one has seen now. */
  async function takeMine(): Promise<void> {
    const { given, seen, clashes } = certain(clash.value, 'clash')
    clash.value = undefined
    await send(given, withTheirs(seen, clashes))
  }

  return { refusal, clash, change, takeMine }
}
