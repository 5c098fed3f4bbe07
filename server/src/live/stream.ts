import type { Request, Response } from 'express'
import { setTimeout as pause } from 'node:timers/promises'
import pg from 'pg'
import { Op, type Sequelize } from 'sequelize'
import type { OutboxModel } from '../database/models/outbox.ts'
import { modelsOf } from '../database/models/models.ts'
import {
  announceSessionEnd,
  listen,
  type OutboxPlace,
  type OutboxRow,
  rowsBetween,
  settledAfter,
  settledPlace,
} from '../sql/outbox.ts'
import type { Worlds } from '../workspace/world.ts'
import { seenBy, visibleProjects } from '../workspace/visibility.ts'

/** Who listens, by which session. */
export interface Listening {
  readonly person: number
  readonly session: string
}

interface Listener extends Listening {
  readonly response: Response & { flush?: () => void }
}

const beatEvery = 20_000
/** How long is waited for more that is told, in milliseconds. */
const gathering = 20
/** A screen that missed more than this reads everything anew instead. */
const mostMissed = 1000

/** How many rows of the outbox are read at a time. */
const atATime = 1000

const placeIn = (id: string | undefined): OutboxPlace | undefined => {
  const [, xid, number] = /^(\d{1,19})-(\d{1,15})$/.exec(id ?? '') ?? []
  return xid === undefined ? undefined : { xid, number: Number(number) }
}

const idOf = ({ xid, number }: OutboxPlace): string => `${xid}-${number}`

/**
 * The stream of what changed. NOTIFY only wakes: rows are read from the outbox in order of (transaction, number), and only those
 * whose transaction lies below the snapshot's oldest running one, so that a late commit is never skipped. A connection that is lost
 * is made anew, and what was written meanwhile is read; a screen that was away says which event it saw last.
 */
export class Live {
  readonly #database: Sequelize
  readonly #url: string
  readonly #worlds: Worlds
  readonly #listeners = new Set<Listener>()
  #client: pg.Client | undefined
  #seen: OutboxPlace = { xid: '0', number: 0 }
  #reading: Promise<void> = Promise.resolve()
  #beat: NodeJS.Timeout | undefined
  #again: NodeJS.Timeout | undefined
  #stopped = false
  /** whether what was told is about to be read */
  #waking = false

  constructor(database: Sequelize, url: string, worlds: Worlds) {
    this.#database = database
    this.#url = url
    this.#worlds = worlds
  }

  async start(): Promise<void> {
    this.#seen = await settledPlace(this.#database)
    await this.#connect()
    this.#beat = setInterval(() => void this.#queue(async () => await this.#beats()), beatEvery)
  }

  async stop(): Promise<void> {
    this.#stopped = true
    clearInterval(this.#beat)
    clearTimeout(this.#again)
    for (const { response } of this.#listeners) response.end()
    await this.#client?.end().catch(() => undefined)
  }

  async #connect(): Promise<void> {
    const client = new pg.Client({
      connectionString: this.#url,
      application_name: 'bluestem live',
      keepAlive: true,
    })
    client.on('error', () => this.#lost(client))
    client.on('end', () => this.#lost(client))
    client.on(
      'notification',
      ({ channel, payload = '' }) =>
        void (channel === 'session'
          ? this.#queue(() => this.#end((listener) => listener.session === payload))
          : this.#wake()),
    )
    await client.connect()
    await listen(client)
    this.#client = client
  }

  /** Screens are told that they hear nothing for now; the connection is tried until it is there. */
  #lost(client: pg.Client): void {
    if (this.#stopped || this.#client !== client) return
    this.#client = undefined
    this.#tell('away')
    const retry = (wait: number): void => {
      this.#again = setTimeout(() => {
        this.#connect().then(
          () => {
            this.#tell('back')
            void this.#queue(async () => await this.#read())
          },
          () => {
            if (!this.#stopped) retry(Math.min(wait * 2, 5000))
          },
        )
      }, wait)
    }
    retry(200)
  }

  #tell(event: string): void {
    for (const { response } of this.#listeners) {
      response.write(`event: ${event}\ndata: {}\n\n`)
      response.flush?.()
    }
  }

  /** One thing after the other, so that no event is written twice or out of order. */
  #queue(work: () => Promise<void> | void): Promise<void> {
    this.#reading = this.#reading.then(work).catch(() => undefined)
    return this.#reading
  }

  /** Keeps a response open and writes what its person may see, from the event on that its screen saw last. */
  async listen(request: Request, response: Response, who: Listening): Promise<void> {
    response.writeHead(200, {
      'Content-Type': 'text/event-stream',
      'Cache-Control': 'no-store',
      Connection: 'keep-alive',
      'X-Accel-Buffering': 'no',
    })
    const listener: Listener = { ...who, response }
    request.on('close', () => this.#listeners.delete(listener))
    const last = placeIn(request.get('last-event-id'))
    await this.#queue(async () => {
      const missed = last ? await this.#missed(last) : []
      response.write(
        missed === undefined
          ? `id: ${idOf(this.#seen)}\nevent: reload\ndata: {}\n\n`
          : `id: ${idOf(last ?? this.#seen)}\nevent: open\ndata: {}\n\n`,
      )
      if (missed && missed.length > 0) await this.#write([listener], missed)
      if (!this.#client) response.write('event: away\ndata: {}\n\n')
      listener.response.flush?.()
      if (!request.destroyed) this.#listeners.add(listener)
    })
  }

  /** Ends the streams of a session, in every process. */
  async endSession(session: string): Promise<void> {
    this.#end((listener) => listener.session === session)
    await announceSessionEnd(this.#database, session)
  }

  #end(which: (listener: Listener) => boolean): void {
    for (const listener of this.#listeners) {
      if (!which(listener)) continue
      this.#listeners.delete(listener)
      listener.response.end()
    }
  }

  /** Proves that the stream is alive, and ends those whose session has ended. */
  async #beats(): Promise<void> {
    for (const { response } of this.#listeners) {
      response.write(': beat\n\n')
      response.flush?.()
    }
    if (this.#listeners.size === 0) return
    const sid = [...this.#listeners].map((listener) => listener.session)
    const open = await modelsOf(this.#database).session.findAll({
      where: { sid, expire: { [Op.gt]: new Date() } },
      attributes: ['sid'],
    })
    const there = new Set(open.map((session) => session.sid))
    this.#end((listener) => !there.has(listener.session))
  }

  /** What was written after a place, up to where every screen is; undefined when that is too much, or known no more. */
  async #missed(last: OutboxPlace): Promise<OutboxRow[] | undefined> {
    const oldest = await modelsOf(this.#database).outbox.min<number | null, OutboxModel>('number')
    if (last.number > 0 && (oldest ?? 0) > last.number + 1) return undefined
    const missed = await rowsBetween(this.#database, last, this.#seen, mostMissed + 1)
    return missed.length > mostMissed ? undefined : missed
  }

  /** Reads what was written, once for all that is told close together. */
  #wake(): void {
    if (this.#waking) return
    this.#waking = true
    void this.#queue(async () => {
      await pause(gathering)
      this.#waking = false
      await this.#read()
    })
  }

  async #read(): Promise<void> {
    for (;;) {
      const told = await settledAfter(this.#database, this.#seen, atATime)
      await this.#write([...this.#listeners], told)
      const last = told.at(-1)
      if (last) this.#seen = { xid: last.xid, number: last.number }
      if (told.length < atATime) return
    }
  }

  /** Writes what each may see by the rights of now; whoever may no longer sign in hears nothing more. */
  async #write(listeners: readonly Listener[], told: readonly OutboxRow[]): Promise<void> {
    if (listeners.length === 0) return
    const world = await this.#worlds.now()
    const rights = new Map<number, ReadonlySet<number> | undefined>()
    for (const { person } of listeners) {
      if (rights.has(person)) continue
      const found = world.people.find((entry) => entry.number === person && entry.active)
      rights.set(person, found && new Set(visibleProjects(seenBy(world, found), found)))
    }
    this.#end(
      (listener) => rights.has(listener.person) && rights.get(listener.person) === undefined,
    )
    for (const { response, person } of listeners) {
      const projects = rights.get(person)
      if (!projects) continue
      const own = told.filter(
        ({ project_id, person_id }) =>
          (project_id === null || projects.has(project_id)) &&
          (person_id === null || person_id === person),
      )
      for (const { kind, subject, ...place } of own)
        response.write(
          `id: ${idOf(place)}\nevent: changed\ndata: ${JSON.stringify({ kind, subject })}\n\n`,
        )
      response.flush?.()
    }
  }
}
