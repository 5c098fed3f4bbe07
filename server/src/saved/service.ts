import { savedKinds, type SavedKind, type SavedThing } from '@bluestem/core/saved'
import { literal, type Sequelize, Transaction } from 'sequelize'
import { inTransaction } from '../database/connect.ts'
import { modelsOf } from '../database/models/models.ts'
import { changeVersion } from '../database/versioned.ts'
import { audit } from '../sql/audit.ts'
import { announce } from '../sql/outbox.ts'
import { newIdentity } from '../workspace/identity.ts'
import { forbidden, invalid, judgeMatch, notFound, refused } from '../problems/problem.ts'
import type { ActorContext } from '../workspace/actor.ts'
import { type SavedRow, seenBy } from './seen.ts'
import { judgeSharing, namesOf, usersOf } from './users.ts'

export const etagOfSaved = (kept: { version: number }): string => `"${kept.version}"`

/** Who may change a kept thing: its owner, and administrators once it is shared. Viewers change nothing. */
const mayEdit = ({ person }: ActorContext, row: SavedRow): boolean =>
  person.role !== 'viewer' &&
  (row.ownerId === person.number || (row.shared === 'everyone' && person.role === 'administrator'))

function shownTo<Content>(actor: ActorContext, row: SavedRow): SavedThing<Content> {
  const owner = actor.world.people.find((person) => person.number === row.ownerId)
  return {
    id: row.identity,
    title: row.title,
    description: row.description,
    shared: row.shared,
    owner: { id: owner?.id ?? '', title: owner?.name ?? '' },
    changedAt: row.changedAt.toISOString(),
    mayEdit: mayEdit(actor, row),
    version: row.version,
    // What is saved was judged by the schema of its kind when it came in.
    content: row.content as Content,
  }
}

export async function list<Content>(
  database: Sequelize,
  actor: ActorContext,
  kind: SavedKind,
): Promise<SavedThing<Content>[]> {
  const found = await modelsOf(database)[kind].findAll({
    where: seenBy(actor.person.number),
    order: [literal('title COLLATE "und-x-icu"'), 'id'],
  })
  return found.map((row) => shownTo<Content>(actor, row))
}

export async function read<Content>(
  database: Sequelize,
  actor: ActorContext,
  kind: SavedKind,
  identity: string,
): Promise<SavedThing<Content>> {
  const row = await modelsOf(database)[kind].findOne({
    where: { identity, ...seenBy(actor.person.number) },
  })
  if (!row) throw notFound(kind)
  return shownTo<Content>(actor, row)
}

export interface SavedChange<Content> {
  readonly title?: string
  readonly description?: string
  readonly shared?: 'me' | 'everyone'
  readonly content?: Content
}

export type NewThing<Content> = SavedChange<Content> & {
  readonly title: string
  readonly content: Content
}

export async function save<Content>(
  database: Sequelize,
  actor: ActorContext,
  kind: SavedKind,
  given: NewThing<Content>,
): Promise<SavedThing<Content>> {
  const { person, now } = actor
  return await inTransaction(database, async () => {
    const identity = newIdentity(savedKinds[kind])
    const shared = given.shared ?? 'me'
    await judgeSharing(database, actor, kind, identity, shared, given.content)
    const title = cleanTitle(given.title)
    await modelsOf(database)[kind].create({
      identity,
      title,
      description: given.description ?? '',
      // The contents of every kind are objects.
      content: given.content as object,
      ownerId: person.number,
      shared,
      changedAt: now,
      changedBy: person.number,
    })
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
    const row = await modelsOf(database)[kind].findOne({
      where: { identity, ...seenBy(person.number) },
      lock: Transaction.LOCK.UPDATE,
    })
    if (!row) throw notFound(kind)
    if (!mayEdit(actor, row))
      throw forbidden(`Only its owner may change this ${kind}; keep it as a new one instead.`)
    judgeMatch(match, etagOfSaved(row), { title: row.title, changedAt: row.changedAt })
    const shared = given.shared ?? row.shared
    // It was judged when it came in.
    const content = given.content ?? (row.content as Content)
    await judgeSharing(database, actor, kind, identity, shared, content)
    await changeVersion(modelsOf(database)[kind], identity, '*', {
      title: given.title === undefined ? undefined : cleanTitle(given.title),
      description: given.description,
      // The contents of every kind are objects.
      content: content as object,
      shared,
      changedAt: now,
      changedBy: person.number,
    })
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
      shared === 'me' && row.shared === 'me' ? { person: row.ownerId } : {},
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
    const row = await modelsOf(database)[kind].findOne({
      where: { identity, ...seenBy(person.number) },
      lock: Transaction.LOCK.UPDATE,
    })
    if (!row) throw notFound(kind)
    if (!mayEdit(actor, row)) throw forbidden(`Only its owner may delete this ${kind}.`)
    judgeMatch(match, etagOfSaved(row), { title: row.title, changedAt: row.changedAt })
    const users = await usersOf(database, kind, identity)
    if (users.length > 0)
      throw refused(`This ${kind} is used by ${namesOf(actor, users)}; change those first.`)
    await row.destroy()
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
      row.shared === 'me' ? { person: row.ownerId } : {},
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
