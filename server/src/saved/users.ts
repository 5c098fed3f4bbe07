import { rows } from '../database/connect.ts'
import type { Sequelize } from 'sequelize'
import { type SavedKind, seen } from './service.ts'
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
  const by = {
    query: ['view', 'measure', 'dashboard'],
    measure: ['dashboard'],
    view: [],
    dashboard: [],
  }[kind]
  const found: User[][] = []
  for (const user of by)
    found.push(
      await rows<User>(
        database,
        `SELECT '${user}' AS kind, identity AS id, title, shared, owner_id AS owner FROM ${user} WHERE ${user === 'dashboard' ? `content->'widgets' @> jsonb_build_array(jsonb_build_object('${kind}', $1::text))` : `content->>'${kind}' = $1`} ORDER BY title`,
        [identity],
      ),
    )
  return found.flat()
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
  const { query, widgets } = content as {
    query?: string
    widgets?: { measure?: string; query?: string }[]
  }
  if (kind === 'view' || kind === 'measure') return query ? [{ kind: 'query', id: query }] : []
  if (kind !== 'dashboard') return []
  return (widgets ?? []).flatMap((widget) => [
    ...(widget.measure ? [{ kind: 'measure' as const, id: widget.measure }] : []),
    ...(widget.query ? [{ kind: 'query' as const, id: widget.query }] : []),
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
    const [found] = await rows<{ title: string; shared: string }>(
      database,
      `SELECT title, shared FROM ${part.kind} WHERE ${seen} AND identity = $2 FOR SHARE`,
      [actor.person.number, part.id],
    )
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
