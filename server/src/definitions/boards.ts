import { certain, entryOf } from '@bluestem/core/known'
import { type DefinitionsDocument, flowOf, type BoardOfStatuses } from '@bluestem/core/definitions'
import { phases } from '@bluestem/core/queries'
import type { ViewContent } from '@bluestem/core/views'
import type { Sequelize } from 'sequelize'
import type { Placing } from '../database/models/draft.ts'
import { modelsOf } from '../database/models/models.ts'
import { changeVersion } from '../database/versioned.ts'
import { audit } from '../sql/audit.ts'
import { announce } from '../sql/outbox.ts'
import type { ActorContext } from '../workspace/actor.ts'

/** What a view holds that is a board. */
type BoardContent = ViewContent & { readonly board: NonNullable<ViewContent['board']> }

interface SavedBoard {
  readonly identity: string
  readonly title: string
  readonly content: BoardContent
  readonly shared: string
  readonly owner: string
}

async function boards(database: Sequelize): Promise<SavedBoard[]> {
  const { person, view } = modelsOf(database)
  const found = await view.findAll({
    where: { content: { kind: 'board', board: { by: 'status' } } },
    include: [{ model: person, as: 'owner' }],
    order: ['title'],
  })
  return found.map(({ identity, title, content, shared, owner }) => ({
    identity,
    title,
    // The statement asks for boards alone.
    content: content as BoardContent,
    shared,
    owner: certain(owner, 'owner of a view').name,
  }))
}

/** The boards whose columns are statuses, as a person may know them. Private ones of others are told without their titles. */
export async function statusBoards(
  database: Sequelize,
  { person }: ActorContext,
): Promise<BoardOfStatuses[]> {
  return (await boards(database)).map(({ identity, title, content, shared, owner }) => ({
    id: shared === 'everyone' || owner === person.name ? identity : '',
    title: shared === 'everyone' || owner === person.name ? title : `one of ${owner}’s own`,
    columns: content.board.columns.filter((column): column is string => column !== null),
  }))
}

/** Places statuses on boards: each after the last column that is no further on than itself. Only boards that are shared or one's own. */
export async function placeOnBoards(
  database: Sequelize,
  { person, now }: ActorContext,
  document: DefinitionsDocument,
  placings: readonly Placing[],
): Promise<void> {
  for (const board of await boards(database)) {
    const wanted = placings.filter(
      (placing) =>
        placing.view === board.identity &&
        document.statuses[placing.status] &&
        !board.content.board.columns.includes(placing.status),
    )
    if (wanted.length === 0 || (board.shared !== 'everyone' && board.owner !== person.name))
      continue
    const columns = wanted.reduce(
      (all, { status }) => placed(document, all, status),
      board.content.board.columns,
    )
    await changeVersion(modelsOf(database).view, board.identity, '*', {
      content: { ...board.content, board: { ...board.content.board, columns } },
      changedAt: now,
      changedBy: person.number,
    })
    await audit(
      database,
      person.number,
      'placed on a board',
      `view ${board.identity}`,
      { before: board.content.board.columns, after: columns },
      now,
    )
    await announce(database, 'view', board.identity, {}, now)
  }
}

function placed<T extends string | null>(
  document: DefinitionsDocument,
  columns: readonly T[],
  status: string,
): (T | string)[] {
  const furtherOn = (entry: T): boolean =>
    entry !== null &&
    phases.indexOf(document.statuses[entry]?.phase ?? 'dropped') >
      phases.indexOf(entryOf(document.statuses, status).phase)
  const at = columns.findIndex(furtherOn)
  return at < 0 ? [...columns, status] : [...columns.slice(0, at), status, ...columns.slice(at)]
}

/** Statuses that flows use and no shared board by status shows. */
export async function unplacedStatuses(
  database: Sequelize,
  actor: ActorContext,
): Promise<string[]> {
  const { document } = actor.world
  const shown = new Set(
    (await boards(database))
      .filter((board) => board.shared === 'everyone')
      .flatMap((board) => board.content.board.columns),
  )
  const used = new Set(
    Object.keys(document.rulebooks).flatMap((rulebook) =>
      Object.keys(document.types).flatMap((type) => flowOf(document, rulebook, type).statuses),
    ),
  )
  return [...used].filter((status) => !shown.has(status))
}
