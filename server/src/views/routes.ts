import { arrange, finishedBefore, ViewContent } from '@bluestem/core/views'
import { dayOf } from '@bluestem/core/calendar'
import { Type } from 'typebox'
import type { Sequelize } from 'sequelize'
import type { Condition } from '@bluestem/core/queries'
import { keptEndpoints } from '../kept/endpoints.ts'
import { read } from '../kept/service.ts'
import type { QueryContent } from '@bluestem/core/views'
import type { Ask, Endpoint } from '../http/endpoint.ts'
import { invalid } from '../http/problem.ts'
import {
  answer,
  ask as asked,
  askingOf,
  count,
  propertiesOf,
  readKept,
} from '../queries/answers.ts'
import { cannotTellStatement, standingStatement } from '../sql/answers.ts'
import type { Asking } from '../sql/statement.ts'
import { chosen, heldOf, shown } from '../work/row.ts'

const Arrange = Type.Object(
  { view: ViewContent, cards: Type.Optional(Type.Integer({ minimum: 1, maximum: 1000 })) },
  { additionalProperties: false, title: 'A view to arrange' },
)

async function takeView(ask: Ask, content: ViewContent): Promise<ViewContent> {
  propertiesOf(
    ask.world,
    [
      ...content.columns,
      ...content.order.map((one) => one.by),
      ...(content.group ? [content.group] : []),
      ...(content.board ? [content.board.by, ...content.board.cards] : []),
    ],
    '/content',
  )
  if (content.kind === 'board' && !content.board)
    throw invalid([
      {
        pointer: '/content/board',
        message: 'A board needs what its columns are by.',
        expected: '{"by": "status", …}',
      },
    ])
  if (content.kind === 'list' && content.board)
    throw invalid([
      { pointer: '/content/board', message: 'A list has no board.', expected: 'null' },
    ])
  if (content.board) groupable(ask, content.board.by, '/content/board/by')
  if (content.group) groupable(ask, content.group, '/content/group')
  return content
}

/** Only a property with one value from a list can be grouped by. */
function groupable({ world }: Ask, handle: string, pointer: string) {
  const [property] = propertiesOf(world, [handle], pointer)
  const { kind } = property!.type
  if ((kind !== 'choice' && kind !== 'boolean' && kind !== 'number') || handle === 'parent')
    throw invalid([
      {
        pointer,
        message: `Items are not grouped by ${property!.title}: it has no list of values.`,
        expected: 'a choice, a person, yes/no or a number',
        found: handle,
      },
    ])
  return property!
}

interface Standing {
  readonly key: string | null
  readonly count: number
  readonly late: number
}

/** Counts of answers by the values of a property, each value by identity and as it is shown, in its defined order. */
async function standings(
  database: Sequelize,
  asking: Asking,
  condition: Condition,
  ask: Ask,
  handle: string,
  before: number | null,
) {
  const property = groupable(ask, handle, '/view')
  const found = await asked<Standing>(
    database,
    standingStatement(asking, condition, property, before),
  )
  const { world } = asking
  const choices =
    property.type.kind === 'choice' ? world.vocabulary.choices(property.type.domain) : []
  const place = (value: string | null): number =>
    value === null
      ? Infinity
      : choices.length > 0
        ? choices.findIndex((choice) => choice.id === value)
        : Number(value)
  return found
    .map(({ key, count: counted, late }) => {
      const raw =
        key === null
          ? null
          : property.type.kind === 'boolean'
            ? key === 'true'
            : property.type.kind === 'choice'
              ? Number(key)
              : key
      const held = heldOf(world, property, raw)
      const value = held === null ? null : String(held)
      return {
        value,
        count: counted,
        late,
        shown:
          property.type.kind === 'choice' && value !== null
            ? chosen(world, property.type.domain, value, '')
            : value === null
              ? null
              : {
                  id: value,
                  title:
                    property.type.kind === 'boolean'
                      ? value === 'true'
                        ? 'yes'
                        : 'no'
                      : String(shown(world, property, held, '')),
                },
      }
    })
    .sort((a, b) => place(a.value) - place(b.value))
}

/** What a view shows: for a list its groups with counts, for a board its columns with counts, *elsewhere*, and what is not shown. */
async function arranged(database: Sequelize, ask: Ask): Promise<object> {
  const { view: given } = ask.body as { view: ViewContent }
  // A list of before may still hold the board it once was; that shows nothing.
  const view = given.kind === 'list' ? { ...given, board: null } : given
  await takeView(ask, view)
  const query = await read<QueryContent>(database, ask, 'query', view.query)
  const { condition, kept } = readKept(ask.world, query.content.filter)
  const asking = askingOf(ask.world, ask.person, ask.now, ask.query['as-of'])
  const unknown = cannotTellStatement(asking, condition)
  const cannotTell = unknown ? await count(database, unknown) : 0
  const base = { query: { id: query.id, title: query.title }, filter: kept, cannotTell }
  if (view.kind === 'list' || !view.board) {
    if (!view.group)
      return {
        ...base,
        total: (await answer(database, asking, condition, { limit: 1, fields: 'ref' })).total,
        groups: null,
      }
    const groups = await standings(database, asking, condition, ask, view.group, null)
    return { ...base, groups, total: groups.reduce((sum, group) => sum + group.count, 0) }
  }
  const before = finishedBefore(view.board, dayOf(asking.moment, ask.world.zone), ask.world.zone)
  const found = await standings(database, asking, condition, ask, view.board.by, before)
  const [property] = propertiesOf(ask.world, [view.board.by], '/view')
  const title = (value: string | null) =>
    value === null
      ? null
      : (found.find((one) => one.value === value)?.shown ??
        (property!.type.kind === 'choice'
          ? chosen(ask.world, property!.type.domain, value, '')
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

export const viewEndpoints = (database: Sequelize): Endpoint[] => [
  {
    method: 'post',
    path: '/api/v1/views/arrange',
    who: 'viewer',
    says: 'What a view, kept or not, shows and does not show.',
    body: Arrange,
    answer: async (ask) => ({ body: await arranged(database, ask) }),
  },
  ...keptEndpoints<ViewContent>(database, {
    kind: 'view',
    plural: 'views',
    content: ViewContent,
    take: takeView,
    show: (_, kept) => kept,
  }),
]
