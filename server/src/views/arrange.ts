import { dayOf } from '@bluestem/core/calendar'
import { keptFilter } from '@bluestem/core/queries'
import { arrange, finishedBefore, type QueryContent, type ViewContent } from '@bluestem/core/views'
import type { Sequelize } from 'sequelize'
import type { RequestContext } from '../http/endpoint.ts'
import { answer } from '../queries/answers.ts'
import { count } from '../sql/run.ts'
import { queryContextOf } from '../sql/queryContext.ts'
import { propertiesOf } from '../queries/properties.ts'
import { readSavedFilter } from '../queries/filter.ts'
import { read } from '../saved/service.ts'
import { cannotTellStatement } from '../sql/answers.ts'
import { choiceShown } from '../items/row.ts'
import { takeView } from './content.ts'
import { standings } from './standings.ts'

/** What a view shows: for a list its groups with counts, for a board its columns with counts, *elsewhere*, and what is not shown. */
export async function arranged(
  database: Sequelize,
  context: RequestContext,
  given: ViewContent,
): Promise<object> {
  // A list of before may still hold the board it once was; that shows nothing.
  const view = given.kind === 'list' ? { ...given, board: null } : given
  takeView(context, view)
  const query = await read<QueryContent>(database, context, 'query', view.query)
  const condition = readSavedFilter(context.world, query.content.filter)
  const queryContext = queryContextOf(
    context.world,
    context.person,
    context.now,
    context.query['as-of'],
  )
  const unknown = cannotTellStatement(queryContext, condition)
  const cannotTell = unknown ? await count(database, unknown) : 0
  const filter = keptFilter(condition, context.world.vocabulary)
  const base = { query: { id: query.id, title: query.title }, filter, cannotTell }
  if (view.kind === 'list' || !view.board) {
    if (!view.group)
      return {
        ...base,
        total: (await answer(database, queryContext, condition, { limit: 1, fields: 'ref' })).total,
        groups: null,
      }
    const groups = await standings(database, queryContext, condition, context, view.group, null)
    return { ...base, groups, total: groups.reduce((sum, group) => sum + group.count, 0) }
  }
  const before = finishedBefore(
    view.board,
    dayOf(queryContext.moment, context.world.zone),
    context.world.zone,
  )
  const found = await standings(database, queryContext, condition, context, view.board.by, before)
  const [property] = propertiesOf(context.world, [view.board.by], '/view')
  const title = (value: string | null) =>
    value === null
      ? null
      : (found.find((one) => one.value === value)?.shown ??
        (property!.type.kind === 'choice'
          ? choiceShown(context.world, property!.type.domain, value, '')
          : { id: value, title: value }))
  const arrangement = arrange(view.board, found)
  return {
    ...base,
    finishedBefore: before === null ? null : new Date(before).toISOString(),
    ...arrangement,
    columns: arrangement.columns.map((column) => ({ ...column, shown: title(column.value) })),
    elsewhere: arrangement.elsewhere.map((column) => ({ ...column, shown: title(column.value) })),
  }
}
