import type { Sequelize } from 'sequelize'
import { inTransaction, rows, run } from '../database/connect.ts'
import { announce, audit } from '../items/write.ts'
import { newIdentity } from '../workspace/identity.ts'
import { forbidden, invalid, judgeMatch, notFound, refused } from '../problems/problem.ts'
import type { ActorContext } from '../workspace/actor.ts'
import { judgeSharing, namesOf, usersOf } from './users.ts'

/** The kinds of things people keep: each has its table, and they all have the same columns. */
export const savedKinds = { query: 'qu', view: 'vi', measure: 'me', dashboard: 'da' } as const
export type SavedKind = keyof typeof savedKinds

export interface SavedThing<Content> {
  readonly id: string
  readonly title: string
  readonly description: string
  readonly shared: 'me' | 'everyone'
  readonly owner: { readonly id: string; readonly title: string }
  readonly changedAt: string
  readonly mayEdit: boolean
  readonly version: number
  readonly content: Content
}

interface SavedRow {
  readonly identity: string
  readonly title: string
  readonly description: string
  readonly content: unknown
  readonly owner_id: number
  readonly shared: 'me' | 'everyone'
  readonly version: number
  readonly changed_at: Date
}

const columns = 'identity, title, description, content, owner_id, shared, version, changed_at'
export const seen = `(shared = 'everyone' OR owner_id = $1)`

export const etagOfSaved = (kept: { version: number }): string => `"${kept.version}"`

/** Who may change a kept thing: its owner, and administrators once it is shared. Viewers change nothing. */
const mayEdit = ({ person }: ActorContext, row: SavedRow): boolean =>
  person.role !== 'viewer' &&
  (row.owner_id === person.number || (row.shared === 'everyone' && person.role === 'administrator'))

function shownTo<Content>(actor: ActorContext, row: SavedRow): SavedThing<Content> {
  const owner = actor.world.people.find((person) => person.number === row.owner_id)
  return {
    id: row.identity,
    title: row.title,
    description: row.description,
    shared: row.shared,
    owner: { id: owner?.id ?? '', title: owner?.name ?? '' },
    changedAt: row.changed_at.toISOString(),
    mayEdit: mayEdit(actor, row),
    version: row.version,
    content: row.content as Content,
  }
}

export async function list<Content>(
  database: Sequelize,
  actor: ActorContext,
  kind: SavedKind,
): Promise<SavedThing<Content>[]> {
  const found = await rows<SavedRow>(
    database,
    `SELECT ${columns} FROM ${kind} WHERE ${seen} ORDER BY title COLLATE "und-x-icu", id`,
    [actor.person.number],
  )
  return found.map((row) => shownTo<Content>(actor, row))
}

export async function read<Content>(
  database: Sequelize,
  actor: ActorContext,
  kind: SavedKind,
  identity: string,
): Promise<SavedThing<Content>> {
  const [row] = await rows<SavedRow>(
    database,
    `SELECT ${columns} FROM ${kind} WHERE ${seen} AND identity = $2`,
    [actor.person.number, identity],
  )
  if (!row) throw notFound(kind)
  return shownTo<Content>(actor, row)
}

export interface SavedChange<Content> {
  readonly title?: string
  readonly description?: string
  readonly shared?: 'me' | 'everyone'
  readonly content?: Content
}

export async function save<Content>(
  database: Sequelize,
  actor: ActorContext,
  kind: SavedKind,
  given: SavedChange<Content> & { title: string; content: Content },
): Promise<SavedThing<Content>> {
  const { person, now } = actor
  return await inTransaction(database, async () => {
    const identity = newIdentity(savedKinds[kind])
    const shared = given.shared ?? 'me'
    await judgeSharing(database, actor, kind, identity, shared, given.content)
    const title = cleanTitle(given.title)
    await run(
      database,
      `INSERT INTO ${kind} (identity, title, description, content, owner_id, shared, changed_at, changed_by) VALUES ($1, $2, $3, $4::jsonb, $5, $6, $7, $5)`,
      [
        identity,
        title,
        given.description ?? '',
        JSON.stringify(given.content),
        person.number,
        shared,
        now,
      ],
    )
    if (shared === 'everyone')
      await audit(
        database,
        person.number,
        'shared',
        `${kind} ${identity}`,
        { after: { title, shared } },
        now,
      )
    await announce(database, kind, identity, shared === 'me' ? { person: person.number } : {}, now)
    return await read<Content>(database, actor, kind, identity)
  })
}

export async function change<Content>(
  database: Sequelize,
  actor: ActorContext,
  kind: SavedKind,
  identity: string,
  given: SavedChange<Content>,
  match: string,
): Promise<SavedThing<Content>> {
  const { person, now } = actor
  return await inTransaction(database, async () => {
    const [row] = await rows<SavedRow>(
      database,
      `SELECT ${columns} FROM ${kind} WHERE ${seen} AND identity = $2 FOR UPDATE`,
      [person.number, identity],
    )
    if (!row) throw notFound(kind)
    if (!mayEdit(actor, row))
      throw forbidden(`Only its owner may change this ${kind}; keep it as a new one instead.`)
    judgeMatch(match, etagOfSaved(row), { title: row.title, changedAt: row.changed_at })
    const shared = given.shared ?? row.shared
    const content = given.content ?? (row.content as Content)
    await judgeSharing(database, actor, kind, identity, shared, content)
    await run(
      database,
      `UPDATE ${kind} SET title = $2, description = $3, content = $4::jsonb, shared = $5, version = version + 1, changed_at = $6, changed_by = $7 WHERE identity = $1`,
      [
        identity,
        given.title === undefined ? row.title : cleanTitle(given.title),
        given.description ?? row.description,
        JSON.stringify(content),
        shared,
        now,
        person.number,
      ],
    )
    if (shared !== row.shared)
      await audit(
        database,
        person.number,
        'shared',
        `${kind} ${identity}`,
        { before: row.shared, after: shared },
        now,
      )
    await announce(
      database,
      kind,
      identity,
      shared === 'me' && row.shared === 'me' ? { person: row.owner_id } : {},
      now,
    )
    return await read<Content>(database, actor, kind, identity)
  })
}

export async function discard(
  database: Sequelize,
  actor: ActorContext,
  kind: SavedKind,
  identity: string,
  match: string,
): Promise<void> {
  const { person, now } = actor
  await inTransaction(database, async () => {
    const [row] = await rows<SavedRow>(
      database,
      `SELECT ${columns} FROM ${kind} WHERE ${seen} AND identity = $2 FOR UPDATE`,
      [person.number, identity],
    )
    if (!row) throw notFound(kind)
    if (!mayEdit(actor, row)) throw forbidden(`Only its owner may delete this ${kind}.`)
    judgeMatch(match, etagOfSaved(row), { title: row.title, changedAt: row.changed_at })
    const users = await usersOf(database, kind, identity)
    if (users.length > 0)
      throw refused(`This ${kind} is used by ${namesOf(actor, users)}; change those first.`)
    await run(database, `DELETE FROM ${kind} WHERE identity = $1`, [identity])
    await audit(
      database,
      person.number,
      'deleted',
      `${kind} ${identity}`,
      { before: { title: row.title, content: row.content } },
      now,
    )
    await announce(
      database,
      kind,
      identity,
      row.shared === 'me' ? { person: row.owner_id } : {},
      now,
    )
  })
}

function cleanTitle(title: string): string {
  const text = title.trim()
  if (text === '')
    throw invalid([{ pointer: '/title', message: 'A title is needed.', expected: 'a title' }])
  return text.normalize('NFC')
}
