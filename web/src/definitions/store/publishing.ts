import type { DefinitionsDocument, Edit } from '@bluestem/core/definitions'
import type { Ref } from 'vue'
import { call } from '../../api/http.ts'
import { useVocabulary } from '../../api/vocabulary.store.ts'
import { useNotes } from '../../parts/notes.store.ts'
import type { DraftAtHand } from './draftAtHand.ts'
import { editsSince } from './editing.ts'

/** Publishing of drafts. @param load reads the definitions anew */
export function usePublishing(
  { chosenDraft, inHand, keepDraft }: DraftAtHand,
  document: Readonly<Ref<DefinitionsDocument>>,
  load: () => Promise<void>,
) {
  const notes = useNotes()

  /** Attempts to publish, then shows what is in force. @returns whether it went well */
  async function attempt(work: () => Promise<void>): Promise<boolean> {
    const done = await notes.attempt(work)
    if (done) await Promise.all([load(), useVocabulary().load()])
    return done
  }

  /** Makes a draft of a small change and publishes it at once: two acts in all, the change and this. */
  const publishAtOnce = async (
    given: readonly Edit[],
    note = '',
    opened = document.value,
  ): Promise<boolean> =>
    await attempt(async () => {
      // What waits in a draft may stand in the form too; only what was changed in it is published.
      const edits = editsSince(opened, given).map(({ path, after }) => ({ path, after }))
      if (edits.length === 0) return
      const title = note || 'A small change'
      const made = await call('POST /definitions/drafts', { body: { title, edits } })
      try {
        const { id, etag } = made
        const asked = { params: { id }, body: { note }, match: etag }
        const outcome = await call('POST /definitions/drafts/{id}/publish', asked)
        if ('edition' in outcome) notes.show('well', `Edition ${outcome.edition} is published.`)
      } catch (error) {
        // What cannot be published at once stays as a draft, with what it must still be asked.
        keepDraft(made)
        throw error
      }
    })

  /** Publishes the draft at hand, now or at a moment. */
  const publish = async (note: string, at?: string): Promise<boolean> =>
    await attempt(async () => {
      const { id, etag } = inHand()
      const asked = { params: { id }, body: { note, ...(at ? { at } : {}) }, match: etag }
      const outcome = await call('POST /definitions/drafts/{id}/publish', asked)
      if ('id' in outcome) return keepDraft(outcome)
      chosenDraft.value = null
      const { edition, mapping } = outcome
      const rest = mapping ? ` ${mapping} items are being rewritten.` : ''
      notes.show('well', `Edition ${edition} is published.${rest}`)
    })

  return { publishAtOnce, publish }
}
