import { certain } from '@bluestem/core/known'
import type { CurrentAnswer, DraftAnswer, DraftSummary } from '@bluestem/core/definitions'
import { computed, type Ref, ref, shallowRef, watch } from 'vue'
import { call } from '../../api/http.ts'
import { useNotes } from '../../parts/notes.store.ts'

/** The drafts that are open, and the one at hand. */
export function useDraftAtHand(edition: Readonly<Ref<CurrentAnswer['edition'] | undefined>>) {
  const notes = useNotes()
  const drafts = shallowRef<readonly DraftSummary[]>([])
  const chosenDraft = ref<string | null>(null)
  const opened = shallowRef<DraftAnswer>()
  /** the edition in force when it was read */
  let openedOn: number | undefined

  /**
   * the draft at hand: the one chosen, else one's own latest, so that no change falls into another's; '' is chosen to look at what
   * is in force
   */
  const atHand = computed(
    () =>
      drafts.value.find((draft) => draft.id === chosenDraft.value) ??
      (chosenDraft.value === ''
        ? undefined
        : drafts.value.filter((draft) => draft.mine && !draft.proposed).at(-1)),
  )
  const draft = computed(() => (opened.value?.id === atHand.value?.id ? opened.value : undefined))
  const inHand = (): DraftAnswer => certain(draft.value, 'draft at hand')

  /** Reads the draft at hand where it is not the one that was read already. It stands on the edition in force, so another edition changes it too. */
  async function openDraft(): Promise<void> {
    const wanted = atHand.value
    const stands = edition.value?.number
    const isRead = opened.value?.id === wanted?.id && opened.value?.etag === wanted?.etag
    if (!wanted || (isRead && openedOn === stands)) return
    const read = await call('GET /definitions/drafts/{id}', { params: { id: wanted.id } })
    if (atHand.value?.id !== read.id) return
    opened.value = read
    openedOn = stands
  }
  watch(
    () => atHand.value?.id,
    () => void notes.attempt(openDraft),
  )

  /** Takes a draft as it is now, and into the hand. */
  function keepDraft(next: DraftAnswer): void {
    const summary = { ...next, count: next.changes.length }
    drafts.value = drafts.value.some((draft) => draft.id === next.id)
      ? drafts.value.map((draft) => (draft.id === next.id ? summary : draft))
      : [...drafts.value, summary]
    opened.value = next
    openedOn = edition.value?.number
    chosenDraft.value = next.id
  }

  async function patch(id: string, etag: string, body: object): Promise<void> {
    keepDraft(await call('PATCH /definitions/drafts/{id}', { params: { id }, body, match: etag }))
  }

  return { drafts, chosenDraft, atHand, draft, inHand, openDraft, keepDraft, patch }
}

export type DraftAtHand = ReturnType<typeof useDraftAtHand>
