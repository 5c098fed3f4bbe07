import type { Client } from 'pg'
import type { Sequelize } from 'sequelize'
import { row, rows } from '../database/connect.ts'
import { prepared } from '../database/prepared.ts'

/** A place in the outbox: rows are read in order of (transaction, number). */
export interface OutboxPlace {
  readonly xid: string
  readonly number: number
}

export interface OutboxRow extends OutboxPlace {
  readonly kind: string
  readonly subject: string
  readonly project_id: number | null
  readonly person_id: number | null
}

const columns = 'number, xid::text, kind, subject, project_id, person_id'

/** The place before which every transaction has ended. */
export async function settledPlace(database: Sequelize): Promise<OutboxPlace> {
  const last = await row<OutboxPlace>(
    database,
    'SELECT pg_snapshot_xmin(pg_current_snapshot())::text AS xid, 0 AS number',
  )
  return last
}

/** Rows after a place whose transactions lie below the oldest running one, so that a late commit is never skipped. */
export async function settledAfter(
  database: Sequelize,
  { xid, number }: OutboxPlace,
  most: number,
): Promise<OutboxRow[]> {
  return await rows<OutboxRow>(
    database,
    prepared(`SELECT ${columns} FROM outbox
    WHERE (xid, number) > ($1::text::xid8, $2) AND xid < pg_snapshot_xmin(pg_current_snapshot())
    ORDER BY xid, number LIMIT $3`),
    [xid, number, most],
  )
}

/** Rows after one place up to another. */
export async function rowsBetween(
  database: Sequelize,
  from: OutboxPlace,
  to: OutboxPlace,
  most: number,
): Promise<OutboxRow[]> {
  return await rows<OutboxRow>(
    database,
    `SELECT ${columns} FROM outbox
    WHERE (xid, number) > ($1::text::xid8, $2) AND (xid, number) <= ($3::text::xid8, $4)
    ORDER BY xid, number LIMIT $5`,
    [from.xid, from.number, to.xid, to.number, most],
  )
}

/** Lets a connection be told of rows that come, of changed rights, and of sessions that end. */
export async function listen(client: Client): Promise<void> {
  await client.query('LISTEN outbox; LISTEN living; LISTEN session')
}

/** Tells every process that a session ended. */
export async function announceSessionEnd(database: Sequelize, session: string): Promise<void> {
  await rows(database, `SELECT pg_notify('session', $1)`, [session])
}

/** Who learns of something: whoever sees its project, one person alone, or everybody. */
export interface Audience {
  readonly project?: number | null
  readonly person?: number | null
}

/** What others should learn: kept in the transaction of the change itself, read by whoever streams it. */
export async function announce(
  database: Sequelize,
  kind: string,
  subject: string,
  { project = null, person = null }: Audience,
  at: Date,
): Promise<void> {
  await rows(
    database,
    "WITH told AS (INSERT INTO outbox (at, kind, subject, project_id, person_id) VALUES ($1, $2, $3, $4, $5) RETURNING number) SELECT pg_notify('outbox', number::text) FROM told",
    [at, kind, subject, project, person],
  )
}
