import { firstIn } from '@bluestem/core/known'
import type { Client } from 'pg'
import type { Sequelize } from 'sequelize'
import { rows } from '../database/connect.ts'

/** A job as the queue has it. */
export interface QueuedJob {
  readonly key: string
  readonly kind: string
  /** milliseconds from now; less than nought where it is due */
  readonly due_in: number
  readonly attempts: number
  readonly max_attempts: number
  readonly last_error: string | null
  readonly running: boolean
}

/**
 * Puts a job in the queue, in the transaction of the writer. One that waits under the same key is replaced; one that runs under it
 * goes on, and the new one follows.
 *
 * @param delay milliseconds until it is due
 */
export async function enqueue(
  database: Sequelize,
  kind: string,
  key: string,
  payload: object,
  delay: number,
): Promise<void> {
  await rows(
    database,
    `SELECT id FROM graphile_worker.add_job($1, $2::json, run_at => now() + $3 * interval '1 millisecond', job_key => $4)`,
    [kind, JSON.stringify(payload), delay, key],
  )
}

/** Takes a job out of the queue; one that runs is not tried again. */
export async function dequeue(database: Sequelize, key: string): Promise<void> {
  await rows(database, 'SELECT id FROM graphile_worker.remove_job($1)', [key])
}

/** Makes jobs due at once, with all their tries before them. @param keys all that wait where they are left out */
export async function makeDue(database: Sequelize, keys?: readonly string[]): Promise<void> {
  await rows(
    database,
    `SELECT id FROM graphile_worker.reschedule_jobs(
      ARRAY(SELECT id FROM graphile_worker.jobs WHERE locked_at IS NULL AND ($1::text[] IS NULL OR key = ANY ($1))),
      run_at => now(), attempts => 0)`,
    [keys ?? null],
  )
}

/** All that is in the queue under a key. */
export async function queuedJobs(database: Sequelize): Promise<QueuedJob[]> {
  return await rows<QueuedJob>(
    database,
    `SELECT key, task_identifier AS kind, (extract(epoch FROM run_at - now()) * 1000)::float8 AS due_in,
      attempts, max_attempts, last_error, locked_at IS NOT NULL AS running
    FROM graphile_worker.jobs WHERE key IS NOT NULL ORDER BY id`,
  )
}

/** The number under which processes lock their names, apart from all other locks. */
const processLock = 7102

/** Says that a process lives, as long as the connection does. */
export async function claimProcess(client: Client, name: string): Promise<void> {
  await client.query('SELECT pg_advisory_lock($1, hashtext($2))', [processLock, name])
}

/**
 * Frees the jobs of processes that no longer hold their lock.
 *
 * @param own the name of the process that looks, whose jobs stay
 */
export async function freeJobsOfTheDead(client: Client, own: string): Promise<void> {
  const found = await client.query<{ name: string }>(
    'SELECT DISTINCT locked_by AS name FROM graphile_worker.jobs WHERE locked_by IS NOT NULL AND locked_by <> $1',
    [own],
  )
  for (const { name } of found.rows) {
    const lock = await client.query<{ ours: boolean }>(
      'SELECT pg_try_advisory_lock($1, hashtext($2)) AS ours',
      [processLock, name],
    )
    if (!firstIn(lock.rows).ours) continue
    await client.query('SELECT graphile_worker.force_unlock_workers(ARRAY[$1])', [name])
    await client.query('SELECT pg_advisory_unlock($1, hashtext($2))', [processLock, name])
  }
}
