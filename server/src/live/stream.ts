import type { Request, Response } from 'express'
import pg from 'pg'
import type { Sequelize } from 'sequelize'
import { rows } from '../database/connect.ts'

interface Told { readonly number: number; readonly xid: string; readonly kind: string; readonly subject: string; readonly project_id: number | null }
interface Listener { readonly response: Response; readonly visible: () => Promise<readonly number[]> }

/**
 * The stream of what changed. NOTIFY only wakes: rows are read from the outbox in order of (transaction, number), and only those
 * whose transaction lies below the snapshot's oldest running one, so that a late commit is never skipped.
 */
export class Live {
  readonly #database: Sequelize
  readonly #client: pg.Client
  readonly #listeners = new Set<Listener>()
  #seen: { xid: string; number: number } = { xid: '0', number: 0 }
  #reading: Promise<void> = Promise.resolve()

  constructor(database: Sequelize, url: string) {
    this.#database = database
    this.#client = new pg.Client({ connectionString: url, application_name: 'bluestem live' })
  }

  async start(): Promise<void> {
    const [last] = await rows<{ xid: string; number: number }>(this.#database, `SELECT pg_snapshot_xmin(pg_current_snapshot())::text AS xid, 0 AS number`)
    this.#seen = last!
    // A connection that breaks is told by `error`; the next request to the stream finds it closed and people reload.
    this.#client.on('error', () => undefined)
    this.#client.on('notification', () => { this.#reading = this.#reading.then(async () => await this.#read()).catch(() => undefined) })
    await this.#client.connect()
    await this.#client.query('LISTEN outbox')
  }

  async stop(): Promise<void> {
    for (const { response } of this.#listeners) response.end()
    await this.#client.end().catch(() => undefined)
  }

  /** Keeps a response open and writes what its person may see. */
  listen(request: Request, response: Response, visible: () => Promise<readonly number[]>): void {
    response.writeHead(200, { 'Content-Type': 'text/event-stream', 'Cache-Control': 'no-store', Connection: 'keep-alive' })
    response.write(': open\n\n')
    ;(response as Response & { flush?: () => void }).flush?.()
    const listener = { response, visible }
    this.#listeners.add(listener)
    const beat = setInterval(() => void response.write(': beat\n\n'), 25_000)
    request.on('close', () => {
      clearInterval(beat)
      this.#listeners.delete(listener)
    })
  }

  async #read(): Promise<void> {
    const told = await rows<Told>(this.#database, `SELECT number, xid::text, kind, subject, project_id FROM outbox
      WHERE (xid, number) > ($1::text::xid8, $2) AND xid < pg_snapshot_xmin(pg_current_snapshot()) ORDER BY xid, number LIMIT 1000`, [this.#seen.xid, this.#seen.number])
    const last = told.at(-1)
    if (!last) return
    this.#seen = { xid: last.xid, number: last.number }
    for (const { response, visible } of this.#listeners) {
      const projects = await visible()
      for (const { number, kind, subject, project_id } of told) {
        if (project_id === null || projects.includes(project_id)) response.write(`id: ${number}\nevent: changed\ndata: ${JSON.stringify({ kind, subject })}\n\n`)
      }
      ;(response as Response & { flush?: () => void }).flush?.()
    }
  }
}
