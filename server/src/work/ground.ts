import { valueFor } from '@bluestem/core/known'
import {
  type Below,
  Ground,
  type ItemChange,
  type KnownItems,
  type Past,
  type Relative,
} from '@bluestem/core/work'
import type { Sequelize } from 'sequelize'
import {
  type AboveRow,
  type AroundRows,
  type BelowRow,
  type Beside,
  type GapRow,
  type PastRow,
  readAround,
} from '../items/around.ts'
import type { ItemPlace } from '../items/named.ts'
import { factsOf, refOf } from '../items/row.ts'
import type { ActorContext } from '../workspace/actor.ts'
import { visibleProjects } from '../workspace/visibility.ts'
import type { World } from '../workspace/world.ts'
import { placeIn, type StoredItem } from './storedItem.ts'

/** What is known for judging changes, and the rows of all who may become parents. */
interface LoadedItems {
  readonly known: KnownItems
  /** the id of an item on the ground by its ref */
  readonly idOf: (ref: string) => number | undefined
  /** the place in hand order that was asked about */
  readonly gap: GapRow | null
}

/** The same, as the ground that changes are judged on. */
export type LoadedGround = Omit<LoadedItems, 'known'> & { readonly ground: Ground }

/** What changes ask beside their items. */
export interface GroundAsked {
  /** the refs of parents that are given */
  readonly parents: readonly unknown[]
  /** whether a change looks at more than its item */
  readonly around: boolean
  /** the item beside which one is put */
  readonly beside?: Beside | undefined
}

/** What asks for more than the item itself: its past, what stands above and below it, its text. */
const looksAround = new Set(['status', 'type', 'parent', 'title', 'description'])

/** Whether a change of an item can be judged and written by the item alone. */
export const needsAround = (change: ItemChange): boolean =>
  Object.keys(change).some((handle) => looksAround.has(handle))

/** The places of the parents that changes give, as far as they are refs of items that may be seen. */
const parentsGiven = (actor: ActorContext, given: readonly unknown[]): ItemPlace[] =>
  given.flatMap((parent) => {
    const place = typeof parent === 'string' ? placeIn(actor, parent) : undefined
    return place ? [{ project: place.project.number, number: place.number }] : []
  })

const nothingAround: AroundRows = { above: [], below: [], past: [], gap: null }

/**
 * Loads what changes of items are judged on, in one statement, or none where the items alone tell.
 *
 * @param items the items as they are, locked; without what is around them their parents and descriptions stay unknown, for no change
 *   that needs neither looks at them
 */
export async function loadGround(
  database: Sequelize,
  actor: ActorContext,
  items: readonly StoredItem[],
  asked: GroundAsked,
): Promise<LoadedGround> {
  const { known, ...rest } = await loadItems(database, actor, items, asked)
  return { ground: new Ground(known), ...rest }
}

/** Loads what is known for judging changes of more items than one statement is asked about. */
export async function loadMany(
  database: Sequelize,
  actor: ActorContext,
  parts: AsyncIterable<readonly StoredItem[]>,
  asked: GroundAsked,
): Promise<Omit<LoadedItems, 'gap'>> {
  const parted: LoadedItems[] = []
  for await (const items of parts) parted.push(await loadItems(database, actor, items, asked))
  const all = parted.map(({ known }) => known)
  const idOf = (ref: string): number | undefined =>
    parted.map((loadedItems) => loadedItems.idOf(ref)).find((id) => id !== undefined)
  const known = {
    items: new Map(all.flatMap(({ items }) => [...items])),
    relatives: new Map(all.flatMap(({ relatives }) => [...relatives])),
    below: new Map(all.flatMap(({ below }) => [...below])),
    past: new Map(all.flatMap(({ past }) => [...past])),
  }
  return { known, idOf }
}

async function loadItems(
  database: Sequelize,
  actor: ActorContext,
  items: readonly StoredItem[],
  { parents, around, beside }: GroundAsked,
): Promise<LoadedItems> {
  const { world, person } = actor
  const visible = visibleProjects(world, person)
  const places = parentsGiven(actor, parents)
  const ids = items.map(({ id }) => id)
  const found =
    around || beside ? await readAround(database, ids, places, visible, beside) : nothingAround
  const known = knownItems(world, items, found, visible)
  const idOf = new Map([
    ...found.above.map((row): [string, number] => [wholeRef(world, row), row.id]),
    ...items.map(({ row, id }): [string, number] => [refOf(world, row), id]),
  ])
  return { known, idOf: (ref) => idOf.get(ref), gap: found.gap }
}

/** A ref whoever may see the item: what is judged may stand below something that is closed to the person. */
const wholeRef = (world: World, row: Pick<AboveRow, 'project_id' | 'number'>): string =>
  refOf(world.whole, row)

function knownItems(
  world: World,
  items: readonly StoredItem[],
  { above, below, past }: AroundRows,
  visible: readonly number[],
): KnownItems {
  const refs = new Map(above.map((row) => [row.id, wholeRef(world, row)]))
  const described = new Map(past.map(({ id, description }) => [id, description]))
  return {
    items: new Map(
      items.map(({ row, id }) => {
        const description = described.get(id) ?? null
        const parent = row.parent_id === null ? null : (refs.get(row.parent_id) ?? null)
        const facts = factsOf(world, { ...row, description, parent_ref: parent })
        return [String(facts['ref']), facts]
      }),
    ),
    relatives: new Map(
      above.map((row) => [valueFor(refs, row.id), relativeOf(world, row, refs, visible)]),
    ),
    below: belowOf(world, below, refs),
    past: new Map(past.map((row) => [valueFor(refs, row.id), pastOf(world, row)])),
  }
}

const relativeOf = (
  { numbers }: World,
  { id, type_id: type, parent_id: parent, project_id: project, deleted }: AboveRow,
  refs: ReadonlyMap<number, string>,
  visible: readonly number[],
): Relative => ({
  ref: valueFor(refs, id),
  type: numbers.identityOf('type', type),
  parent: parent === null ? null : (refs.get(parent) ?? null),
  visible: visible.includes(project) && !deleted,
})

function belowOf(
  world: World,
  below: readonly BelowRow[],
  refs: ReadonlyMap<number, string>,
): Map<string, Below> {
  const all = new Map<string, Below>()
  for (const row of below) {
    const parent = valueFor(refs, row.parent_id)
    const known = all.get(parent)
    const ref =
      row.project_id === null || row.number === null
        ? null
        : wholeRef(world, { project_id: row.project_id, number: row.number })
    const type = world.numbers.identityOf('type', row.type_id)
    all.set(parent, {
      open: (known?.open ?? 0) + row.open,
      types: new Map([...(known?.types ?? []), [type, { count: row.count, ref }]]),
    })
  }
  return all
}

const pastOf = ({ numbers }: World, { commented, been }: PastRow): Past => ({
  commented,
  been: new Set(been.map((status) => numbers.identityOf('status', status))),
})
