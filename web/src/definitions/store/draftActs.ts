import type { MappingChoices } from '@bluestem/core/definitions'
import { call } from '../../api/http.ts'
import { useNotes } from '../../parts/notes.store.ts'
import type { DraftAtHand } from './draftAtHand.ts'

interface Named {
  readonly title: string
  readonly shared: boolean
}

/** What is done with drafts, but for changing what they define. Each tells whether it went well. */
export function useDraftActs({
  drafts,
  chosenDraft,
  draft,
  inHand,
  keepDraft,
  patch,
}: DraftAtHand) {
  const notes = useNotes()
  const change = async (body: object): Promise<boolean> =>
    await notes.attempt(async () => await patch(inHand().id, inHand().etag, body))

  const choose = async (choices: MappingChoices): Promise<boolean> => await change({ choices })
  const rename = async (named: Named): Promise<boolean> => await change(named)
  const callOff = async (): Promise<boolean> => await change({ publishAt: null })
  const decide = async (choices: Readonly<Record<string, 'mine' | 'theirs'>>): Promise<boolean> =>
    await notes.attempt(async () => {
      const { id, etag } = inHand()
      const rebased = { params: { id }, body: { choices }, match: etag }
      keepDraft(await call('POST /definitions/drafts/{id}/rebase', rebased))
    })

  /** Undoes one change; a draft that holds none any more goes by itself. */
  const undo = async (made: string): Promise<boolean> =>
    await notes.attempt(async () => {
      const { id, etag } = inHand()
      const undone = { params: { id, change: made }, match: etag }
      keepDraft(await call('DELETE /definitions/drafts/{id}/changes/{change}', undone))
      if (draft.value?.changes.length === 0) await drop()
    })
  const begin = async (named: Named): Promise<boolean> =>
    await notes.attempt(async () =>
      keepDraft(await call('POST /definitions/drafts', { body: named })),
    )
  const goBack = async (number: number): Promise<boolean> =>
    await notes.attempt(async () =>
      keepDraft(await call('POST /definitions/editions/{number}/draft', { params: { number } })),
    )

  async function drop(): Promise<void> {
    const gone = inHand()
    await notes.attempt(async () => {
      await call('DELETE /definitions/drafts/{id}', { params: { id: gone.id }, match: gone.etag })
      drafts.value = drafts.value.filter((draft) => draft.id !== gone.id)
      chosenDraft.value = null
      const back = { title: 'Undo', run: () => void takeBack(gone.id) }
      if (gone.changes.length > 0) notes.show('well', `“${gone.title}” is dropped.`, back)
    })
  }

  const takeBack = async (id: string): Promise<boolean> =>
    await notes.attempt(async () =>
      keepDraft(await call('POST /definitions/dropped-drafts/{id}/take-back', { params: { id } })),
    )

  return { choose, rename, callOff, decide, undo, begin, goBack, drop, takeBack }
}
