import type { ChildProcess } from 'node:child_process'
import { chmodSync, mkdtempSync, readFileSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { setTimeout as pause } from 'node:timers/promises'
import type { DefinitionsDocument } from '@bluestem/core/definitions'
import type { Sequelize } from 'sequelize'
import { openCluster } from '../../../scripts/cluster.mjs'
import { connect, rows } from '../../src/database/connect.ts'
import { migrate } from '../../src/database/migrations/migrate.ts'
import { Chance } from '../../src/demo/chance.ts'
import { loadDemo } from '../../src/demo/load.ts'
import { signIn, type Caller, type Reply } from '../workspace.ts'
import { startOwnServer } from './server.ts'

export interface FireOptions {
  readonly items: number
  readonly kills: number
  readonly seed: number
  /** the longest pause before a kill, in milliseconds */ readonly within: number
  readonly say?: (words: string) => void
}

/** What came of it: everything in it is to be nought but the counts and the waits. */
export interface FireReport {
  readonly concerned: number
  readonly editions: number
  readonly kills: number
  readonly written: number
  readonly lost: readonly string[]
  readonly halves: number
  readonly left: number
  readonly movedChanged: number
  readonly brokenHistories: number
  readonly missingVersions: number
  /** how long answers took before anything was published, and while the first edition was and its items were mapped */
  readonly quiet: Waiting
  readonly waits: Waiting
  /** the longest that anything was seen to stand at a lock meanwhile, in milliseconds: what is more in an answer is its own work */
  readonly blocked: number
}
/** a figure over everything concerned, one item, one edit */
export type Waiting = Readonly<Record<'figure' | 'item' | 'write', Waits>>
/** milliseconds */
export interface Waits {
  readonly count: number
  readonly median: number
  readonly p99: number
  readonly most: number
}

/** Everything that stands in the flows of the digital and safety rulebooks under one status, put under another: added, re-mapped, left out. */
function flip(
  document: DefinitionsDocument,
  from: string,
  to: string,
): { path: string[]; after?: unknown }[] {
  const status = document.statuses[from]!
  const edits: { path: string[]; after?: unknown }[] = document.statuses[to]
    ? [{ path: ['statuses', to, 'retired'] }]
    : [
        {
          path: ['statuses', to],
          after: { ...status, retired: undefined, title: 'Closed for good' },
        },
      ]
  for (const rulebook of ['rb_digital', 'rb_safety']) {
    const entries = {
      ...document.rulebooks['rb_everyone']!.entries,
      ...document.rulebooks[rulebook]!.entries,
    }
    for (const [key, entry] of Object.entries(entries)) {
      if (entry === 'out' || !key.split(':').includes(from)) continue
      const path = (of: string): string[] => ['rulebooks', rulebook, 'entries', of]
      edits.push(
        { path: path(key), after: 'out' },
        { path: path(key.replaceAll(from, to)), after: entry },
      )
    }
  }
  return edits
}

/** Publishes under fire: readers and writers at work, server and database killed at random moments, and everything counted at the end. */
export async function publishUnderFire({
  items,
  kills,
  seed,
  within,
  say = () => undefined,
}: FireOptions): Promise<FireReport> {
  const folder = mkdtempSync(join(tmpdir(), 'bluestem-fire-'))
  chmodSync(folder, 0o755)
  const fire = new Fire(folder, new Chance(seed), say)
  try {
    await fire.begin(items)
    await fire.burn(kills, within)
    return await fire.judge()
  } finally {
    await fire.end()
    rmSync(folder, { recursive: true, force: true })
  }
}

/** How many editions the demo begins with. */
const demoEditions = 4
/** How long somebody looks before they act again, in milliseconds: people think, and a machine worn out by the test tells nothing of the program. */
const thinking = 60

class Fire {
  readonly #folder: string
  readonly #chance: Chance
  readonly #say: (words: string) => void
  #cluster!: Awaited<ReturnType<typeof openCluster>>
  #database!: Sequelize
  #server: ChildProcess | undefined
  #mara: Caller | undefined
  #burning = true
  #killed = 0
  #halves = 0
  #concerned = 0
  readonly #written = new Map<string, string[]>()
  #quiet: Waiting | undefined
  #waits: Waiting | undefined
  #blocked = 0
  readonly #waited = { figure: [] as number[], item: [] as number[], write: [] as number[] }
  #changedBefore = new Map<number, number>()
  #targets: readonly string[] = []

  constructor(folder: string, chance: Chance, say: (words: string) => void) {
    this.#folder = folder
    this.#chance = chance
    this.#say = say
  }

  async begin(items: number): Promise<void> {
    this.#cluster = await openCluster(this.#folder)
    const { makeDatabase } = await import('../../../scripts/workspace.mjs')
    await makeDatabase(this.#cluster)
    this.#database = connect(this.#cluster.url, { statementTimeout: 0 })
    await migrate(this.#database)
    await loadDemo(this.#database, { now: new Date(Date.now() - 1000), items })
    this.#say(`${items} items are loaded`)
    for (const { id, changed_at } of await rows<{ id: number; changed_at: Date }>(
      this.#database,
      'SELECT id, changed_at FROM item',
    ))
      this.#changedBefore.set(id, changed_at.getTime())
    this.#targets = (
      await rows<{ ref: string }>(
        this.#database,
        `SELECT p.code || '/' || i.number AS ref FROM item i JOIN project p ON p.id = i.project_id WHERE NOT i.deleted ORDER BY i.id % 97, i.id LIMIT 3000`,
      )
    ).map((row) => row.ref)
    this.#concerned = await this.#standing('st_signed')
    await this.#serve()
  }

  async #standing(status: string): Promise<number> {
    return (
      await rows<{ count: number }>(
        this.#database,
        `SELECT count(*) AS count FROM item WHERE NOT deleted AND status_id = (SELECT number FROM status WHERE identity = $1) AND project_id IN (SELECT id FROM project WHERE code IN ('FARE', 'SAFE'))`,
        [status],
      )
    )[0]!.count
  }

  async #serve(): Promise<void> {
    const { process: child, origin } = await startOwnServer(this.#cluster.url)
    this.#server = child
    this.#mara = await signIn(origin, 'Mara Thiel')
    // The first requests of a new process read the world and open connections; they are no measure of what comes after.
    for (const [method, path, body] of [
      ['GET', `/items/${this.#targets[0]!}`],
      ['PATCH', `/items/${this.#targets[0]!}`, { estimate: 1 }],
      ['GET', '/definitions'],
    ] as const)
      await this.#call(method, path, body)
  }

  /** One call; undefined when what it called was killed under it. */
  async #call(method: string, path: string, body?: unknown): Promise<Reply | undefined> {
    try {
      return await this.#mara!(method, path, body, { 'if-match': '*' })
    } catch {
      return undefined
    }
  }

  async burn(kills: number, within: number): Promise<void> {
    const people = [this.#write(), this.#write(), this.#read(), this.#open()]
    await pause(Math.max(2000, within * 2))
    this.#quiet = this.#tellWaits()
    // The first edition is left alone, for a wait is the program's own only while nothing is killed or comes up again; the others burn.
    const watching = this.#watchLocks()
    await this.#publish()
    while (await this.#unfinished()) await pause(200)
    this.#waits = this.#tellWaits()
    await watching
    this.#say('the first edition came to its end')
    while (this.#killed < kills || (await this.#unfinished())) {
      if (!(await this.#unfinished())) await this.#publish()
      if (this.#killed >= kills) {
        await pause(200)
        continue
      }
      await pause(Math.floor(this.#chance.next() * within))
      await this.#kill()
    }
    this.#burning = false
    await Promise.all(people)
    this.#say(`${(await this.#edition()) - demoEditions} editions were published under fire`)
  }

  /** Looks who stands at a lock, twenty times a second, until the first edition has come to its end. */
  async #watchLocks(): Promise<void> {
    while (this.#waits === undefined) {
      const [seen] = await rows<{ most: number }>(
        this.#database,
        `SELECT coalesce(max(extract(epoch FROM clock_timestamp() - query_start) * 1000), 0)::int AS most FROM pg_stat_activity WHERE wait_event_type = 'Lock'`,
      )
      this.#blocked = Math.max(this.#blocked, seen!.most)
      await pause(50)
    }
  }

  async #unfinished(): Promise<boolean> {
    return (
      await rows<{ open: boolean }>(
        this.#database,
        'SELECT EXISTS (SELECT FROM mapping WHERE finished_at IS NULL) OR EXISTS (SELECT FROM job WHERE finished_at IS NULL) AS open',
      )
    )[0]!.open
  }

  /** Publishes the flip of the hour. Killed in the middle, it is either the edition in force or it is not. */
  async #publish(): Promise<void> {
    const [from, to] =
      ((await this.#edition()) - demoEditions) % 2 === 0
        ? ['st_signed', 'st_closed']
        : ['st_closed', 'st_signed']
    const document = (await this.#call('GET', '/definitions'))?.body.document as
      DefinitionsDocument | undefined
    if (!document) return
    const made = await this.#call('POST', '/definitions/drafts', {
      title: 'Under fire',
      edits: flip(document, from, to),
    })
    if (made?.status !== 201) return
    const choices = Object.fromEntries(
      made.body.needs.map((need: { key: string }) => [need.key, to]),
    )
    await this.#call('PATCH', `/definitions/drafts/${made.body.id}`, { choices })
    const publishing = this.#call('POST', `/definitions/drafts/${made.body.id}/publish`, {
      note: 'Under fire',
    })
    // Half of the time the kill may come while it publishes; the first is left alone.
    if (this.#waits === undefined || this.#chance.happens(0.5)) await publishing
    else await pause(Math.floor(this.#chance.next() * 300))
  }

  async #edition(): Promise<number> {
    return (
      await rows<{ number: number }>(this.#database, 'SELECT number FROM current_edition')
    )[0]!.number
  }

  async #kill(): Promise<void> {
    this.#killed += 1
    if (this.#chance.happens(0.5)) {
      this.#server!.kill('SIGKILL')
    } else {
      const pid = Number(
        readFileSync(join(this.#cluster.folder, 'postgres', 'postmaster.pid'), 'utf8').split(
          '\n',
        )[0],
      )
      process.kill(pid, 'SIGKILL')
      this.#server!.kill('SIGKILL')
      await this.#database.close().catch(() => undefined)
      await pause(300)
      this.#cluster = await openCluster(this.#folder)
      this.#database = connect(this.#cluster.url, { statementTimeout: 0 })
    }
    await this.#serve()
    this.#say(
      `kill ${this.#killed}: edition ${await this.#edition()}, ${(await this.#unfinished()) ? 'mapping goes on' : 'nothing left to map'}`,
    )
  }

  /** Renames items one at a time and keeps what was acknowledged. */
  async #write(): Promise<void> {
    for (let count = 0; this.#burning; count += 1) {
      const ref = this.#chance.pick(this.#targets)
      const title = `written ${count} ${Math.floor(this.#chance.next() * 1e9)}`
      const began = performance.now()
      const answer = await this.#call('PATCH', `/items/${ref}`, { title })
      if (answer?.status === 200) {
        this.#written.set(ref, [...(this.#written.get(ref) ?? []), title])
        this.#waited.write.push(performance.now() - began)
      }
      await pause(thinking)
    }
  }

  /** Asks about the present again and again: what an edition maps is counted under one status or the other, never under both. */
  async #read(): Promise<void> {
    while (this.#burning) {
      const began = performance.now()
      const answer = await this.#call('POST', '/measures/evaluate', {
        filter: "project IN ('FARE', 'SAFE') AND phase = 'done'",
        figure: { kind: 'count' },
        by: ['status'],
      })
      if (answer?.status === 200) {
        const counts = answer.body.groups.filter(
          (group: { values: number[] }) => group.values[0]! > 0,
        )
        if (counts.length !== 1 || counts[0].values[0] !== this.#concerned) this.#halves += 1
        this.#waited.figure.push(performance.now() - began)
      }
      await pause(thinking)
    }
  }

  /** Opens items one after another, as people do. */
  async #open(): Promise<void> {
    while (this.#burning) {
      const began = performance.now()
      const answer = await this.#call('GET', `/items/${this.#chance.pick(this.#targets)}`)
      if (answer?.status === 200) this.#waited.item.push(performance.now() - began)
      await pause(thinking)
    }
  }

  async judge(): Promise<FireReport> {
    // Every title that was acknowledged must stand in some state of its item; titles are asked for all at once, for there are many.
    const kept = new Set(
      (
        await rows<{ kept: string }>(
          this.#database,
          `SELECT p.code || '/' || s.number || ' ' || s.title AS kept FROM item_state s JOIN project p ON p.id = s.project_id WHERE s.title LIKE 'written %'`,
        )
      ).map((row) => row.kept),
    )
    const lost = [...this.#written]
      .flatMap(([ref, titles]) => titles.map((title) => `${ref} ${title}`))
      .filter((text) => !kept.has(text))
    const flips = (await this.#edition()) - demoEditions
    const last = flips % 2 === 1 ? 'st_signed' : 'st_closed'
    const present = await rows<{ id: number; changed_at: Date; by_kind: number }>(
      this.#database,
      'SELECT id, changed_at, by_kind FROM item',
    )
    const touched = new Set(
      (
        await rows<{ id: number }>(
          this.#database,
          `SELECT DISTINCT id FROM item_state WHERE title LIKE 'written %' UNION SELECT i.id FROM item i JOIN project p ON p.id = i.project_id WHERE p.code || '/' || i.number = $1`,
          [this.#targets[0]!],
        )
      ).map((row) => row.id),
    )
    const [broken] = await rows<{ count: number }>(
      this.#database,
      'SELECT count(*) AS count FROM (SELECT valid_to, lead(valid_from) OVER (PARTITION BY id ORDER BY valid_from) AS next FROM item_state) z WHERE next IS NOT NULL AND next <> valid_to',
    )
    const [versions] = await rows<{ count: number }>(
      this.#database,
      `SELECT count(*) AS count FROM item i WHERE NOT deleted AND status_id = (SELECT number FROM status WHERE identity = $1) AND project_id IN (SELECT id FROM project WHERE code IN ('FARE', 'SAFE'))
      AND (SELECT count(*) FROM item_state s WHERE s.id = i.id AND s.by_kind = 2) <> $2`,
      [flips % 2 === 1 ? 'st_closed' : 'st_signed', flips],
    )
    return {
      concerned: this.#concerned,
      editions: flips,
      kills: this.#killed,
      written: [...this.#written.values()].flat().length,
      lost,
      halves: this.#halves,
      left: await this.#standing(last),
      movedChanged: present.filter(
        (entry) =>
          !touched.has(entry.id) &&
          entry.changed_at.getTime() !== this.#changedBefore.get(entry.id),
      ).length,
      brokenHistories: broken!.count,
      missingVersions: versions!.count,
      quiet: this.#quiet!,
      waits: this.#waits!,
      blocked: this.#blocked,
    }
  }

  /** The waits since they were last told. */
  #tellWaits(): Waiting {
    const told = {
      figure: waitsOf(this.#waited.figure),
      item: waitsOf(this.#waited.item),
      write: waitsOf(this.#waited.write),
    }
    for (const waits of Object.values(this.#waited)) waits.length = 0
    return told
  }

  async end(): Promise<void> {
    this.#burning = false
    this.#server?.kill('SIGKILL')
    await this.#database?.close().catch(() => undefined)
    await this.#cluster?.stop()
  }
}

function waitsOf(waits: readonly number[]): Waits {
  const sorted = [...waits].sort((a, b) => a - b)
  const at = (share: number): number =>
    Math.round(sorted[Math.min(sorted.length - 1, Math.floor(sorted.length * share))] ?? 0)
  return { count: sorted.length, median: at(0.5), p99: at(0.99), most: at(1) }
}
