import { entryOf } from '@bluestem/core/known'
import type { ItemAnswer, Property } from '@bluestem/core/queries'
import type { ShownChoice } from '@bluestem/core/schema'
import type { World } from '../workspace/world.ts'
import type { Project } from '../workspace/living.ts'
import { flowOf, movesFrom } from '@bluestem/core/definitions'
import {
  type Entering,
  enteringOf,
  missingFor,
  refuseMove,
  type WholeItemAnswer,
} from '@bluestem/core/work'
import type { Sequelize } from 'sequelize'
import { row } from '../database/connect.ts'
import { prepared } from '../database/prepared.ts'
import { statusSinceSql } from '../items/read.ts'
import { childrenOf } from '../items/tree.ts'
import { etagOf } from '../items/etag.ts'
import { queryContextOf } from '../sql/queryContext.ts'
import type { ActorContext } from '../workspace/actor.ts'
import { clocksOf } from './clocks.ts'
import { loadGround } from './ground.ts'
import { rulesFor } from './rules.ts'
import { itemColumns, itemOf, type ItemRow, type ListRow, refOf } from '../items/row.ts'
import { findItem, type StoredItem } from './storedItem.ts'
import { itemStatement } from '../sql/answers.ts'
import { columnOf } from '../sql/property.ts'
import type { QueryContext } from '../sql/statement.ts'

const chosenStatus = ({ document }: World, id: string): ShownChoice => ({
  id,
  title: entryOf(document.statuses, id).title,
  mark: entryOf(document.statuses, id).phase,
})

/** What stands directly below an item, as its page lists it. */
async function listBelow(database: Sequelize, { world, visible }: QueryContext, id: number) {
  const children = await childrenOf(database, id, visible)
  return children.map((child) => ({
    ref: refOf(world, child),
    title: child.title,
    type: chosenType(world, child),
    status: chosenStatus(world, world.numbers.identityOf('status', child.status_id)),
  }))
}

/** What is known of an item for entering another status, before anything is said. */
async function enteringNow(
  database: Sequelize,
  actor: ActorContext,
  project: Project,
  row: ItemRow,
): Promise<Entering> {
  const item = { row, id: row.id, project }
  const { ground } = await loadGround(database, actor, [item], { parents: [], around: true })
  return enteringOf(rulesFor(actor), ground, ground.item(refOf(actor.world, row)), false)
}

/** Where an item may go, with what each move still needs, and where it may not, with why. */
async function movesOf(
  database: Sequelize,
  actor: ActorContext,
  project: Project,
  row: ItemRow,
): Promise<Pick<WholeItemAnswer, 'moves' | 'refusals'>> {
  const { world } = actor
  const status = world.numbers.identityOf('status', row.status_id)
  const type = world.numbers.identityOf('type', row.type_id)
  const flow = flowOf(world.document, entryOf(world.document.projects, project.id), type)
  const entering =
    flow.requirements.size > 0 ? await enteringNow(database, actor, project, row) : undefined
  const moves = movesFrom(flow, status, world.document.statuses).map((to) => {
    const requirement = flow.requirements.get(to)
    return {
      ...chosenStatus(world, to),
      missing: entering ? missingFor(world.document, requirement, entering) : [],
      says: requirement?.says ?? null,
      asksReason: requirement?.reason === true || requirement?.comment === true,
    }
  })
  const refusals = flow.statuses.flatMap((to) => {
    const refusal = to === status ? undefined : refuseMove(world.document, flow, status, to)
    return refusal ? [{ ...chosenStatus(world, to), message: refusal.message }] : []
  })
  return { moves, refusals }
}

/** What is told of an item, and the version that is told. */
interface ItemTold {
  readonly body: WholeItemAnswer
  readonly etag: string
}

/** One item whole, by its ref. */
export const readItem = async (
  database: Sequelize,
  actor: ActorContext,
  ref: string,
): Promise<ItemTold> => await tellItem(database, actor, await findItem(database, actor, ref))

/** An item whole: its values, where it may go, and how it stands to its relatives. */
export async function tellItem(
  database: Sequelize,
  actor: ActorContext,
  { row, id, project }: StoredItem,
): Promise<ItemTold> {
  const { world } = actor
  const queryContext = queryContextOf(world, actor.person, actor.now)
  const [{ since, ...answer }, moves, limits, children] = await Promise.all([
    valuesOf(database, queryContext, row),
    movesOf(database, actor, project, row),
    clocksOf(database, actor, id, project.id, row),
    listBelow(database, queryContext, id),
  ])
  const etag = etagOf(world, row)
  return {
    etag,
    body: {
      ...answer,
      etag,
      status: chosenStatus(world, world.numbers.identityOf('status', row.status_id)),
      rulebook: world.document.projects[project.id] ?? '',
      statusSince: since.toISOString(),
      holdSince: row.held_since instanceof Date ? row.held_since.toISOString() : null,
      ...moves,
      limits,
      children,
    },
  }
}

export const chosenType = (world: World, row: Pick<ItemRow, 'type_id'>): ShownChoice => {
  const id = world.numbers.identityOf('type', row.type_id)
  const type = entryOf(world.document.types, id)
  return { id, title: type.title, mark: `${type.monogram}${type.tier}` }
}

/** No property has a handle with a blank. */
const sinceColumn = 'status since'

/** What the row of an item holds of properties, by handle; of its parent only a number, which tells nobody anything. */
const storedValues = (
  world: World,
  properties: readonly Property[],
  held: ItemRow,
): Readonly<Record<string, unknown>> =>
  Object.fromEntries(
    properties.flatMap((property) => {
      const column = property.handle === 'parent' ? undefined : columnOf({ world }, property)
      return column === undefined ? [] : [[property.handle, held[column]]]
    }),
  )

/** Every property of an item, and since when it has been in its status. What its row holds is told as it is there; the rest is read. */
async function valuesOf(
  database: Sequelize,
  queryContext: QueryContext,
  held: ItemRow,
): Promise<ItemAnswer & { readonly since: Date }> {
  const { world } = queryContext
  // Its page shows whole clocks, not only what is left of them.
  const properties = [...world.vocabulary.properties.values()].filter(
    ({ leftOf }) => leftOf === undefined,
  )
  const stored = storedValues(world, properties, held)
  const toRead = properties.filter(({ handle }) => !(handle in stored))
  const columns = itemColumns(queryContext, toRead)
  const { sql, bind } = itemStatement(
    (alias, binds) => [...columns(alias, binds), `${statusSinceSql(alias)} AS "${sinceColumn}"`],
    held.id,
  )
  const found = await row<ListRow & { readonly [sinceColumn]: Date }>(database, prepared(sql), bind)
  return { ...itemOf(world, { ...found, ...stored }, properties), since: found[sinceColumn] }
}
