import { outline, placeOf, type Standing, type TreeMove, type TreeRow } from '@bluestem/core/tree'
import { computed, ref, type Ref, shallowRef } from 'vue'
import { call, partsOf } from '../api/http.ts'
import { useNotes } from '../parts/notes.store.ts'

/** How many rows of the top are unfolded at first. */
const unfoldedAtFirst = 12

/** The levels of a tree that are told at once at most. */
const deepest = 5

/** More rows than are read and drawn in one frame. */
const muchToDraw = 2000

const nextFrame = async (): Promise<void> =>
  await new Promise((done) => requestAnimationFrame(() => done()))

/** The refs of the rows that something stands below. */
const branchesOf = (rows: readonly TreeRow[]): string[] =>
  rows.flatMap(({ ref: row, directly }) => (directly > 0 ? [row] : []))

const send = async (moved: string, { parent, position }: TreeMove): Promise<void> =>
  void (await call('PATCH /items/{code}/{number}', {
    params: partsOf(moved),
    match: '*',
    headers: { Prefer: 'return=minimal' },
    body: {
      ...(parent === undefined ? {} : { parent }),
      ...(position === undefined ? {} : { position }),
    },
  }))

/**
 * The rows of a tree and which of them are unfolded.
 *
 * @param asOf the day as of whose end it is read; empty for now
 */
function useTreeRows(code: string, asOf: Readonly<Ref<string>>) {
  const notes = useNotes()
  // Thousands of rows are replaced as a whole, never changed.
  const rows = shallowRef<readonly TreeRow[]>()
  const folded = ref(0)
  const isCut = ref(false)
  const finishedToo = ref(false)
  const open = shallowRef<ReadonlySet<string>>(new Set())
  const isOpen = (row: string): boolean => open.value.has(row)
  const shown = computed(() => outline(rows.value ?? [], isOpen))
  const openToo = (more: readonly string[]): unknown =>
    (open.value = new Set([...open.value, ...more]))
  const asked = (): { finished: 'shown' | 'folded'; 'as-of'?: string } => ({
    finished: finishedToo.value ? 'shown' : 'folded',
    ...(asOf.value ? { 'as-of': asOf.value } : {}),
  })

  /** Reads the tree anew, as deep as it is unfolded, and at least so many levels; what is unfolded stays so, and all is where every level is read. */
  async function load(least = 2): Promise<void> {
    const isFirst = rows.value === undefined
    const depth = shown.value.reduce((most, row) => Math.max(most, row.depth + 2), least)
    const tree = await call('GET /projects/{code}/tree', {
      params: { code },
      query: { depth: String(Math.min(deepest, depth)), ...asked() },
    })
    // Reading very many rows and drawing them are each a frame’s work.
    if (tree.rows.length > muchToDraw) await nextFrame()
    const tops = tree.rows.filter(({ parent }) => parent === null)
    if (isFirst) openToo(tops.slice(0, unfoldedAtFirst).map(({ ref: top }) => top))
    if (least === deepest) openToo(branchesOf(tree.rows))
    rows.value = tree.rows
    folded.value = tree.folded
    isCut.value = tree.more
  }

  /** What stands below a row is asked for when it is unfolded for the first time. */
  async function unfold(row: TreeRow): Promise<void> {
    openToo([row.ref])
    const isKnown = rows.value?.some(({ parent }) => parent === row.ref)
    if (isKnown || row.directly === 0) return
    await notes.attempt(async () => {
      const below = await call('GET /projects/{code}/tree', {
        params: { code },
        query: { above: row.ref, depth: '1', ...asked() },
      })
      rows.value = [...(rows.value ?? []), ...below.rows]
    })
  }
  const fold = (row: TreeRow): unknown =>
    (open.value = new Set([...open.value].filter((text) => text !== row.ref)))

  const foldAll = (): unknown => (open.value = new Set())

  return {
    rows,
    shown,
    folded,
    isCut,
    finishedToo,
    isOpen,
    openToo,
    load,
    unfold,
    fold,
    foldAll,
  }
}

/**
 * The tree of a project as it is shown: its rows, which of them are unfolded, and what moving one does.
 *
 * @param asOf the day as of whose end it is read; empty for now
 */
export function useTree(code: string, asOf: Readonly<Ref<string>>) {
  const notes = useNotes()
  const tree = useTreeRows(code, asOf)

  const isUnfolded = computed(() => branchesOf(tree.rows.value ?? []).every(tree.isOpen))
  /** Unfolds every row, or folds all of them up to the top. */
  async function turnAll(): Promise<void> {
    if (isUnfolded.value) tree.foldAll()
    else await tree.load(deepest)
  }

  /** Moves a row, or tells why it cannot go there. */
  async function move(row: Standing<TreeRow>, to: TreeMove): Promise<void> {
    const back = placeOf(tree.shown.value, row.ref)
    const wentWell = await notes.attempt(async () => await send(row.ref, to))
    if (!wentWell) return
    if (to.parent) tree.openToo([to.parent])
    await tree.load()
    notes.show('well', `${row.ref} moved.`, {
      title: 'Undo',
      run: () =>
        void notes.attempt(async () => {
          await send(row.ref, back)
          await tree.load()
        }),
    })
  }

  return { ...tree, isUnfolded, turnAll, move }
}
