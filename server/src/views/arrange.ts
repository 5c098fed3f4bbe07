import type { ShownChoice } from '@bluestem/core/schema'
import { dayOf } from '@bluestem/core/calendar'
import {
  type Condition,
  type Cql2Json,
  keptFilter,
  type Order,
  type QueryContent,
} from '@bluestem/core/queries'
import {
  arrange,
  type Board,
  cardFields,
  columnFilter,
  finishedBefore,
  sortText,
  type ViewContent,
  type ArrangedBoard,
  type ArrangedList,
  type ColumnAnswer,
} from '@bluestem/core/views'
import type { Sequelize } from 'sequelize'
import type { ActorContext } from '../workspace/actor.ts'
import { answer, pageOfAnswers } from '../queries/answers.ts'
import { count } from '../sql/run.ts'
import { queryContextOf } from '../sql/queryContext.ts'
import type { QueryContext } from '../sql/statement.ts'
import { propertyOf } from '../queries/properties.ts'
import { readSavedFilter } from '../queries/filter.ts'
import { read } from '../saved/service.ts'
import { cannotTellStatement } from '../sql/answers.ts'
import { choiceShown } from '../items/row.ts'
import { takeView } from './content.ts'
import { standings } from './standings.ts'

/** A view's question, as whoever asks sees it. */
interface Arranging {
  readonly database: Sequelize
  readonly context: ActorContext
  readonly queryContext: QueryContext
  readonly condition: Condition
  /** the condition with identities */
  readonly filter: Cql2Json
}

/**
 * What a view shows: for a list its groups with counts, for a board its columns with counts and cards, *elsewhere*, and what is not
 * shown.
 *
 * @param options.most how many cards of each column are told
 * @param options.asOf the moment that is looked at, now where it is left out
 */
export async function arranged(
  database: Sequelize,
  context: ActorContext,
  given: ViewContent,
  { most, asOf }: { readonly most: number; readonly asOf?: string | undefined },
): Promise<ArrangedList | ArrangedBoard> {
  // A list of before may still hold the board it once was; that shows nothing.
  const view = given.kind === 'list' ? { ...given, board: null } : given
  takeView(context, view)
  const query = await read<QueryContent>(database, context, 'query', view.query)
  const condition = readSavedFilter(context.world, query.content.filter)
  const { world, person, now } = context
  const queryContext = queryContextOf(world, person, now, asOf)
  const unknown = cannotTellStatement(queryContext, condition)
  const cannotTell = unknown ? await count(database, unknown) : 0
  const filter = keptFilter(condition, world.vocabulary)
  const arranging = { database, context, queryContext, condition, filter }
  const common = { query: { id: query.id, title: query.title }, filter, cannotTell }
  return view.board
    ? { ...common, ...(await boardOf(arranging, view.board, view.order, most)) }
    : { ...common, ...(await listOf(arranging, view.group)) }
}

async function listOf(
  { database, context, queryContext, condition }: Arranging,
  group: string | null,
): Promise<Pick<ArrangedList, 'total' | 'groups'>> {
  if (!group) {
    const { total } = await answer(database, queryContext, condition, { limit: 1, fields: 'ref' })
    return { total, groups: null }
  }
  const groups = await standings(database, queryContext, condition, context, group, null)
  return { groups, total: groups.reduce((sum, group) => sum + group.count, 0) }
}

async function boardOf(
  arranging: Arranging,
  board: Board,
  order: Order,
  most: number,
): Promise<Omit<ArrangedBoard, 'query' | 'filter' | 'cannotTell'>> {
  const { database, context, queryContext, condition, filter } = arranging
  const { world } = context
  const before = finishedBefore(board, dayOf(queryContext.moment, world.zone), world.zone)
  const found = await standings(database, queryContext, condition, context, board.by, before)
  const property = propertyOf(world, board.by, '/view')
  const shown = (value: string | null): ShownChoice | null => {
    if (value === null) return null
    const known = found.find((entry) => entry.value === value)?.shown
    if (known) return known
    return property.type.kind === 'choice'
      ? choiceShown(world, property.type.domain, value, '')
      : { id: value, title: value }
  }
  const arrangement = arrange(board, found)
  const finished = before === null ? null : new Date(before).toISOString()
  const columns: ColumnAnswer[] = []
  for (const column of arrangement.columns) {
    const own = columnFilter(filter, property, column.value, finished)
    const { items } = await pageOfAnswers(database, queryContext, readSavedFilter(world, own), {
      sort: sortText(order),
      fields: cardFields(board).join(','),
      limit: most,
    })
    columns.push({ ...column, shown: shown(column.value), cards: items })
  }
  return {
    finishedBefore: finished,
    ...arrangement,
    columns,
    elsewhere: arrangement.elsewhere.map((entry) => ({ ...entry, shown: shown(entry.value) })),
  }
}
