import { certain } from '@bluestem/core/known'
import { defineStore } from 'pinia'
import { computed, ref, shallowRef, watch } from 'vue'
import {
  changedSince,
  type DefinitionsDocument,
  type Edit,
  emptyDocument,
  inOrder,
  makeIdentity,
  type MappingChoices,
  orderBetween,
  prefixes,
  type RulebookEntry,
  same,
  setEntry,
  type Section,
  valueAt,
  type BoardOfStatuses,
  type DraftAnswer,
  type CurrentAnswer,
  type DraftSummary,
  type UsageAnswer,
} from '@bluestem/core/definitions'
import { call } from '../api/http.ts'
import { useVocabulary } from '../api/vocabulary.store.ts'
import { useSession } from '../app/session.store.ts'
import { useNotes } from '../parts/notes.store.ts'

const emptyUsage: UsageAnswer = { items: {}, held: [], named: {}, last: {}, changed: {} }

/** The definitions as they are, the drafts that would change them, and how much they are used. */
export const useDefinitions = defineStore('definitions', () => {
  const notes = useNotes()
  const session = useSession()
  // Documents are large and never changed in place, so they are not watched inside.
  const published = shallowRef<DefinitionsDocument>(emptyDocument)
  const edition = ref<CurrentAnswer['edition']>()
  const mapping = ref<CurrentAnswer['mapping']>([])
  const keeps = ref<readonly string[]>([])
  const drafts = shallowRef<readonly DraftSummary[]>([])
  const opened = shallowRef<DraftAnswer>()
  /** the edition in force when it was read */
  let openedOn: number | undefined
  const chosenDraft = ref<string | null>(null)
  const chosenRulebook = ref('')
  const usage = shallowRef<UsageAnswer>(emptyUsage)
  const boards = shallowRef<readonly BoardOfStatuses[]>([])
  const unplaced = shallowRef<readonly string[]>([])
  const loaded = ref(false)

  /**
   * the draft at hand: the one chosen, else one's own latest, so that no change falls into another's; '' is chosen to look at what
   * is in force
   */
  const atHand = computed(
    () =>
      drafts.value.find((one) => one.id === chosenDraft.value) ??
      (chosenDraft.value === ''
        ? undefined
        : drafts.value.filter((one) => one.mine && !one.proposed).at(-1)),
  )
  const draft = computed(() => (opened.value?.id === atHand.value?.id ? opened.value : undefined))
  const inHand = (): DraftAnswer => certain(draft.value, 'draft at hand')
  const document = computed(() => draft.value?.document ?? published.value)
  const rulebooks = computed(() => inOrder(document.value.rulebooks))
  const rulebook = computed({
    get: () =>
      document.value.rulebooks[chosenRulebook.value]
        ? chosenRulebook.value
        : (rulebooks.value[0]?.id ?? ''),
    set: (id: string) => {
      chosenRulebook.value = id
    },
  })
  const mayDefineAll = computed(() => session.mayDefine)
  /** whether one may change anything: administrators all, keepers inside their rulebooks */
  const mayDraft = computed(() => session.mayDefine || (session.mayEdit && keeps.value.length > 0))
  const mayChange = (id: string): boolean =>
    session.mayDefine || (session.mayEdit && keeps.value.includes(id))

  async function countUse(): Promise<void> {
    const counts = await call('GET /definitions/usage')
    if (!same(counts, usage.value)) usage.value = counts
  }

  /**
   * Whether what was read is what is here already: what is worked out of a document is kept with it, so the same edition stays the
   * same document. Of one edition people differ only in the projects they may see.
   */
  const isInForce = (current: CurrentAnswer): boolean =>
    edition.value !== undefined &&
    current.edition?.number === edition.value.number &&
    same(current.document.projects, published.value.projects)

  async function load(): Promise<void> {
    const [current, open, shown] = await Promise.all([
      call('GET /definitions'),
      call('GET /definitions/drafts'),
      call('GET /definitions/boards'),
      countUse(),
    ])
    if (!isInForce(current)) published.value = current.document
    edition.value = current.edition
    mapping.value = current.mapping
    keeps.value = current.keeps
    drafts.value = open.drafts
    await openDraft()
    boards.value = shown.boards
    unplaced.value = shown.unplaced
    loaded.value = true
  }

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

  function keepDraft(next: DraftAnswer): void {
    const summary = { ...next, count: next.changes.length }
    drafts.value = drafts.value.some((one) => one.id === next.id)
      ? drafts.value.map((one) => (one.id === next.id ? summary : one))
      : [...drafts.value, summary]
    opened.value = next
    openedOn = edition.value?.number
    chosenDraft.value = next.id
  }
  const patch = async (id: string, etag: string, body: object): Promise<void> => {
    keepDraft(await call('PATCH /definitions/drafts/{id}', { params: { id }, body, match: etag }))
  }

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
    const edits = withRulebook(changedSince(opened, given))
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

  /** What a rulebook says, while there is none yet, is said by the first one, which is made with it. */
  function withRulebook(edits: readonly Edit[]): readonly Edit[] {
    if (!edits.some(({ path }) => path[0] === 'rulebooks' && path[1] === '')) return edits
    const made = newId('rulebooks')
    const first: Edit = {
      path: ['rulebooks', made],
      after: {
        order: lastOrder({}),
        title: 'Our work',
        description: 'What everybody here works by.',
        extends: null,
        entries: {},
      },
      before: null,
    }
    return [
      first,
      ...edits.map((one) =>
        one.path[0] === 'rulebooks' && one.path[1] === ''
          ? { ...one, path: ['rulebooks', made, ...one.path.slice(2)] }
          : one,
      ),
    ]
  }

  /** Makes a draft of a small change and publishes it at once: two acts in all, the change and this. */
  async function publishAtOnce(
    given: readonly Edit[],
    note = '',
    opened = document.value,
  ): Promise<boolean> {
    const done = await notes.attempt(async () => {
      // What waits in a draft may stand in the form too; only what was changed in it is published.
      const edits = withRulebook(changedSince(opened, given)).map(({ path, after }) => ({
        path,
        after,
      }))
      if (edits.length === 0) return
      const body = await call('POST /definitions/drafts', {
        body: {
          title: note || 'A small change',
          edits,
        },
      })
      try {
        const made = await call('POST /definitions/drafts/{id}/publish', {
          params: { id: body.id },
          body: { note },
          match: body.etag,
        })
        if ('edition' in made) notes.show('well', `Edition ${made.edition} is published.`)
      } catch (error) {
        // What cannot be published at once stays as a draft, with what it must still be asked.
        keepDraft(body)
        throw error
      }
    })
    if (done) await Promise.all([load(), useVocabulary().load()])
    return done
  }

  /** Says something of a key of the rulebook at hand, or leaves it out. */
  const sayEntry = (key: string, entry: RulebookEntry | null): Edit =>
    setEntry(document.value, rulebook.value, key, entry)

  /** Lets an entry go out of use, where it stays as it is, or brings it back. */
  const retire = async (section: Section, id: string, retired: boolean): Promise<boolean> =>
    await edit([{ path: [section, id, 'retired'], ...(retired ? { after: true } : {}) }])

  const choose = async (choices: MappingChoices): Promise<boolean> =>
    await notes.attempt(async () => await patch(inHand().id, inHand().etag, { choices }))
  const rename = async (named: { title: string; shared: boolean }): Promise<boolean> =>
    await notes.attempt(async () => await patch(inHand().id, inHand().etag, named))
  const callOff = async (): Promise<boolean> =>
    await notes.attempt(async () => await patch(inHand().id, inHand().etag, { publishAt: null }))
  const decide = async (choices: Readonly<Record<string, 'mine' | 'theirs'>>): Promise<boolean> =>
    await notes.attempt(async () =>
      keepDraft(
        await call('POST /definitions/drafts/{id}/rebase', {
          params: { id: inHand().id },
          body: { choices },
          match: inHand().etag,
        }),
      ),
    )
  /** Undoes one change; a draft that holds none any more goes by itself. */
  const undo = async (change: string): Promise<boolean> =>
    await notes.attempt(async () => {
      const { id, etag } = inHand()
      keepDraft(
        await call('DELETE /definitions/drafts/{id}/changes/{change}', {
          params: { id, change },
          match: etag,
        }),
      )
      if (draft.value?.changes.length === 0) await drop()
    })
  const begin = async (named: { title: string; shared: boolean }): Promise<boolean> =>
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
      drafts.value = drafts.value.filter((one) => one.id !== gone.id)
      chosenDraft.value = null
      const undo = { title: 'Undo', run: () => void takeBack(gone.id) }
      if (gone.changes.length > 0) notes.show('well', `“${gone.title}” is dropped.`, undo)
    })
  }

  const takeBack = async (id: string): Promise<boolean> =>
    await notes.attempt(async () =>
      keepDraft(await call('POST /definitions/dropped-drafts/{id}/take-back', { params: { id } })),
    )

  async function publish(note: string, at?: string): Promise<boolean> {
    const done = await notes.attempt(async () => {
      const body = await call('POST /definitions/drafts/{id}/publish', {
        params: { id: inHand().id },
        body: { note, ...(at ? { at } : {}) },
        match: inHand().etag,
      })
      if ('id' in body) return keepDraft(body)
      chosenDraft.value = null
      notes.show(
        'well',
        `Edition ${body.edition} is published.${body.mapping ? ` ${body.mapping} items are being rewritten.` : ''}`,
      )
    })
    if (done) await Promise.all([load(), useVocabulary().load()])
    return done
  }

  const newId = (section: Section | 'option'): string =>
    makeIdentity(
      section === 'option' ? 'op' : prefixes[section],
      crypto.getRandomValues(new Uint8Array(8)),
    )
  /** the key that stands after the last entry of a map */
  const lastOrder = (map: Readonly<Record<string, { order: string }>>): string =>
    orderBetween(inOrder(map).at(-1)?.order ?? null, null)
  /** whether the draft changes what stands at a path */
  const isChanged = (...path: string[]): boolean =>
    draft.value !== undefined &&
    !same(valueAt(published.value, path), valueAt(draft.value.document, path))
  const items = (id: string): number => usage.value.items[id] ?? 0
  /** whether something was not used for so many days */
  const isUnused = (id: string, days: number): boolean => {
    const last = usage.value.last[id]
    return last === undefined || session.now.getTime() - Date.parse(last) > days * 86_400_000
  }

  return {
    published,
    edition,
    mapping,
    keeps,
    drafts,
    draft,
    chosenDraft,
    atHand,
    usage,
    countUse,
    boards,
    unplaced,
    loaded,
    document,
    rulebooks,
    rulebook,
    mayDefineAll,
    mayDraft,
    mayChange,
    load,
    edit,
    publishAtOnce,
    sayEntry,
    retire,
    choose,
    rename,
    callOff,
    decide,
    undo,
    begin,
    goBack,
    drop,
    takeBack,
    publish,
    newId,
    lastOrder,
    isChanged,
    items,
    isUnused,
  }
})
