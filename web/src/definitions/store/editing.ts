import {
  changedSince,
  type DefinitionsDocument,
  type DraftAnswer,
  type Edit,
  type RulebookEntry,
  type Section,
  setEntry,
} from '@bluestem/core/definitions'
import type { Ref } from 'vue'
import { call } from '../../api/http.ts'
import { useNotes } from '../../parts/notes.store.ts'
import type { DraftAtHand } from './draftAtHand.ts'
import { withFirstRulebook } from './firstRulebook.ts'

/** What a form changed of what it was opened with. */
export const editsSince = (opened: DefinitionsDocument, given: readonly Edit[]): readonly Edit[] =>
  withFirstRulebook(changedSince(opened, given))

/**
 * Changes of the definitions, in the draft at hand.
 *
 * @param document the definitions as the draft has them
 * @param rulebook the rulebook at hand
 */
export function useEditing(
  { draft, inHand, keepDraft, patch }: DraftAtHand,
  document: Readonly<Ref<DefinitionsDocument>>,
  rulebook: Readonly<Ref<string>>,
) {
  const notes = useNotes()

  /**
   * Adds edits to the draft at hand; the first one opens it. Only what the person changed is sent, each part meant for what stood
   * there when the form was opened: what others put in the draft meanwhile stays.
   * @param opened the document the form was opened with
   * @returns whether they were taken
   */
  async function edit(
    given: readonly Edit[],
    placed: DraftAnswer['boards'] = [],
    opened = document.value,
  ): Promise<boolean> {
    const edits = editsSince(opened, given)
    if (edits.length === 0 && placed.length === 0) return true
    return await notes.attempt(async () => {
      if (!draft.value)
        keepDraft(await call('POST /definitions/drafts', { body: { title: 'Changes in hand' } }))
      await patch(inHand().id, placed.length > 0 ? inHand().etag : '*', {
        edits,
        ...(placed.length > 0 ? { boards: [...inHand().boards, ...placed] } : {}),
      })
    })
  }

  /** Says something of a key of the rulebook at hand, or leaves it out. */
  const sayEntry = (key: string, entry: RulebookEntry | null): Edit =>
    setEntry(document.value, rulebook.value, key, entry)

  /** Lets an entry go out of use, where it stays as it is, or brings it back. */
  const retire = async (section: Section, id: string, retired: boolean): Promise<boolean> =>
    await edit([{ path: [section, id, 'retired'], ...(retired ? { after: true } : {}) }])

  return { edit, sayEntry, retire }
}
