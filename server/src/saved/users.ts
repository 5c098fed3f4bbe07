import { asRecord } from '@bluestem/core/known'
import { Op, type Sequelize, Transaction } from 'sequelize'
import { modelsOf } from '../database/models/models.ts'
import type { SavedKind } from '@bluestem/core/saved'
import { seenBy } from './seen.ts'
import type { ActorContext } from '../workspace/actor.ts'
import { invalid, refused } from '../problems/problem.ts'

export interface User {
  readonly kind: SavedKind
  readonly id: string
  readonly title: string
  readonly shared: 'me' | 'everyone'
  readonly owner: number
}

/** What rests on a kept thing: views and measures on queries, dashboards on measures and queries. */
export async function usersOf(
  database: Sequelize,
  kind: SavedKind,
  identity: string,
): Promise<User[]> {
  const by = (
    {
      query: ['view', 'measure', 'dashboard'],
      measure: ['dashboard'],
      view: [],
      dashboard: [],
    } satisfies Record<SavedKind, readonly SavedKind[]>
  )[kind]
  const found: User[][] = []
  for (const user of by) found.push(await usersAmong(database, user, kind, identity))
  return found.flat()
}

async function usersAmong(
  database: Sequelize,
  user: SavedKind,
  kind: SavedKind,
  identity: string,
): Promise<User[]> {
  const naming = { [kind]: identity }
  const content = user === 'dashboard' ? { widgets: [naming] } : naming
  const found = await modelsOf(database)[user].findAll({
    where: { content: { [Op.contains]: content } },
    order: ['title'],
  })
  return found.map((saved) => ({
    kind: user,
    id: saved.identity,
    title: saved.title,
    shared: saved.shared,
    owner: saved.ownerId,
  }))
}

/** What uses something, by name; what others keep for themselves is not named. */
export const namesOf = ({ person }: ActorContext, users: readonly User[]): string =>
  [
    ...new Set(
      users.map((user) =>
        user.shared === 'everyone' || user.owner === person.number
          ? `the ${user.kind} “${user.title}”`
          : `a ${user.kind} that somebody keeps alone`,
      ),
    ),
  ].join(', ')
/** What a kept thing rests on. */
export function restsOn(kind: SavedKind, content: unknown): { kind: SavedKind; id: string }[] {
  const { query, widgets } = asRecord(content)
  const named = (what: 'query' | 'measure', id: unknown): { kind: SavedKind; id: string }[] =>
    typeof id === 'string' && id !== '' ? [{ kind: what, id }] : []
  if (kind === 'view' || kind === 'measure') return named('query', query)
  if (kind !== 'dashboard' || !Array.isArray(widgets)) return []
  return widgets
    .map(asRecord)
    .flatMap((widget) => [
      ...named('measure', widget['measure']),
      ...named('query', widget['query']),
    ])
}

/** Whoever sees a shared thing must see what it rests on: a page that is blank for its readers is refused before it is made. What it rests on is held, so that nobody deletes it or keeps it to themselves at this moment. */
export async function judgeSharing(
  database: Sequelize,
  actor: ActorContext,
  kind: SavedKind,
  identity: string,
  shared: 'me' | 'everyone',
  content: unknown,
): Promise<void> {
  for (const part of restsOn(kind, content)) {
    const found = await modelsOf(database)[part.kind].findOne({
      where: { identity: part.id, ...seenBy(actor.person.number) },
      lock: Transaction.LOCK.SHARE,
    })
    if (!found)
      throw invalid([
        {
          pointer: '/content',
          message: `This rests on a ${part.kind} that does not exist, or that you may not see.`,
          found: part.id,
          expected: `a ${part.kind}`,
        },
      ])
    if (shared === 'everyone' && found.shared !== 'everyone')
      throw refused(
        `This ${kind} would be blank for others: the ${part.kind} “${found.title}” behind it is only yours. Share that first.`,
        [{ pointer: '/shared', message: `Share the ${part.kind} “${found.title}” first.` }],
      )
  }
  if (shared === 'me') {
    const users = (await usersOf(database, kind, identity)).filter(
      (user) => user.shared === 'everyone' || user.owner !== actor.person.number,
    )
    if (users.length > 0)
      throw refused(
        `Others rest on this ${kind}: ${namesOf(actor, users)}. It stays shared until they do not.`,
        [{ pointer: '/shared', message: 'Shared things rest on this.' }],
      )
  }
}
