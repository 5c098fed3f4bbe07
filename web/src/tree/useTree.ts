import { outline, placeOf, type Standing, type TreeMove, type TreeRow } from '@bluestem/core/tree'
import { computed, reactive, ref } from 'vue'
import { call, partsOf } from '../api/http.ts'
import { useNotes } from '../parts/notes.store.ts'

/** How many rows of the top are unfolded at first. */
const unfoldedAtFirst = 12

/** The levels of a tree that are told at once at most. */
const deepest = 5

const send = async (moved: string, { parent, position }: TreeMove): Promise<void> =>
  void (await call('PATCH /items/{code}/{number}', {
    params: partsOf(moved),
    match: '*',
    body: {
      ...(parent === undefined ? {} : { parent }),
      ...(position === undefined ? {} : { position }),
    },
  }))

/** The tree of a project as it is shown: its rows, which of them are unfolded, and what moving one does. */
export function useTree(code: string) {
  const notes = useNotes()
  const rows = ref<readonly TreeRow[]>()
  const folded = ref(0)
  const isCut = ref(false)
  const finishedToo = ref(false)
  const open = reactive(new Set<string>())
  const shown = computed(() => outline(rows.value ?? [], (row) => open.has(row)))
  const finished = (): { finished: 'shown' | 'folded' } => ({
    finished: finishedToo.value ? 'shown' : 'folded',
  })

  /** Reads the tree anew, as deep as it is unfolded; what is unfolded stays so. */
  async function load(): Promise<void> {
    const isFirst = rows.value === undefined
    const depth = Math.max(2, ...shown.value.map((row) => row.depth + 2))
    const tree = await call('GET /projects/{code}/tree', {
      params: { code },
      query: { depth: String(Math.min(deepest, depth)), ...finished() },
    })
    rows.value = tree.rows
    folded.value = tree.folded
    isCut.value = tree.more
    const tops = tree.rows.filter(({ parent }) => parent === null)
    if (isFirst) for (const { ref: top } of tops.slice(0, unfoldedAtFirst)) open.add(top)
  }

  /** What stands below a row is asked for when it is unfolded for the first time. */
  async function unfold(row: TreeRow): Promise<void> {
    open.add(row.ref)
    const isKnown = rows.value?.some(({ parent }) => parent === row.ref)
    if (isKnown || row.directly === 0) return
    await notes.attempt(async () => {
      const below = await call('GET /projects/{code}/tree', {
        params: { code },
        query: { above: row.ref, depth: '1', ...finished() },
      })
      rows.value = [...(rows.value ?? []), ...below.rows]
    })
  }
  const fold = (row: TreeRow): unknown => open.delete(row.ref)

  /** Moves a row, or tells why it cannot go there. */
  async function move(row: Standing<TreeRow>, to: TreeMove): Promise<void> {
    const back = placeOf(shown.value, row.ref)
    const wentWell = await notes.attempt(async () => await send(row.ref, to))
    if (!wentWell) return
    if (to.parent) open.add(to.parent)
    await load()
    notes.show('well', `${row.ref} moved.`, {
      title: 'Undo',
      run: () =>
        void notes.attempt(async () => {
          await send(row.ref, back)
          await load()
        }),
    })
  }

  return { rows, shown, folded, isCut, finishedToo, open, load, unfold, fold, move }
}
