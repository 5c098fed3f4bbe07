import {
  type BoardOfStatuses,
  type CurrentAnswer,
  type DefinitionsDocument,
  emptyDocument,
  same,
  type UsageAnswer,
} from '@bluestem/core/definitions'
import { ref, shallowRef } from 'vue'
import { call } from '../../api/http.ts'
import { useSession } from '../../session/session.store.ts'

const emptyUsage: UsageAnswer = { items: {}, held: [], named: {}, last: {}, changed: {} }
const day = 86_400_000

/** The definitions in force, and how much they are used. */
export function useInForce() {
  const session = useSession()
  // Documents are large and never changed in place, so they are not watched inside.
  const published = shallowRef<DefinitionsDocument>(emptyDocument)
  const edition = ref<CurrentAnswer['edition']>()
  const mapping = ref<CurrentAnswer['mapping']>([])
  const keeps = ref<readonly string[]>([])
  const usage = shallowRef<UsageAnswer>(emptyUsage)
  const boards = shallowRef<readonly BoardOfStatuses[]>([])
  const unplaced = shallowRef<readonly string[]>([])

  async function countUse(): Promise<void> {
    const counts = await call('GET /definitions/usage')
    if (!same(counts, usage.value)) usage.value = counts
  }

  /**
   * Whether what was read is what is here already: what is worked out of a document is kept with it, so the same edition stays the
   * same document. Of one edition people differ only in the projects they may see.
   */
  const isHere = (current: CurrentAnswer): boolean =>
    edition.value !== undefined &&
    current.edition?.number === edition.value.number &&
    same(current.document.projects, published.value.projects)

  async function readInForce(): Promise<void> {
    const [current, shown] = await Promise.all([
      call('GET /definitions'),
      call('GET /definitions/boards'),
      countUse(),
    ])
    if (!isHere(current)) published.value = current.document
    edition.value = current.edition
    mapping.value = current.mapping
    keeps.value = current.keeps
    boards.value = shown.boards
    unplaced.value = shown.unplaced
  }

  const items = (id: string): number => usage.value.items[id] ?? 0
  /** whether something was not used for so many days */
  const isUnused = (id: string, days: number): boolean => {
    const last = usage.value.last[id]
    return last === undefined || session.now.getTime() - Date.parse(last) > days * day
  }

  const state = { published, edition, mapping, keeps, usage, boards, unplaced }
  return { ...state, countUse, readInForce, items, isUnused }
}
