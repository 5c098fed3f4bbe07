import { asTextOrNull, certain, entryOf, valueFor } from '@bluestem/core/known'
import { type FileReading, linkColumnOf, type RowOutcome } from '@bluestem/core/exchange'
import type { Facts } from '@bluestem/core/queries'
import { orderKeys } from '@bluestem/core/definitions'
import { setImmediate as giveWay } from 'node:timers/promises'
import type { Sequelize } from 'sequelize'
import { lockBatch } from '../bulk/carryOut.ts'
import { inTransaction } from '../database/connect.ts'
import type { ImportFileModel, LeftRow } from '../database/models/importFile.ts'
import { modelsOf } from '../database/models/models.ts'
import { type ItemWrite, writeItems } from '../items/change.ts'
import { makeMany, type NewRow, reserveNumbers } from '../items/makeMany.ts'
import { lastPosition } from '../items/place.ts'
import { actorOfJob } from '../jobs/actor.ts'
import { JobRefused, type Work } from '../jobs/job.ts'
import { Problem } from '../problems/problem.ts'
import { lockLinks, lockTree } from '../sql/locks.ts'
import { announce } from '../sql/outbox.ts'
import { columnValues } from '../work/columns.ts'
import { writeOf } from '../work/editItem.ts'
import type { StoredItem } from '../work/storedItem.ts'
import type { ActorContext } from '../workspace/actor.ts'
import type { Author } from '../workspace/author.ts'
import { holdEdition } from '../workspace/edition.ts'
import type { Worlds } from '../workspace/world.ts'
import { projectOf, recordsOf } from './import.ts'
import { writeLinks } from './importLinks.ts'
import { type FileGround, groundOf, judgeRows, refsFrom, rowsGiven } from './judgeFile.ts'
import { effectOf, settleLinks } from './judgeLinks.ts'
import { judgeReading } from './reading.ts'

/** How many items are written in one statement. */
const atATime = 500

/** What a new item holds; its ref follows from its number. */
const handlesOf = (item: Facts): string[] =>
  Object.keys(item).filter((handle) => handle !== 'ref' && item[handle] !== null)

/** Writes outcomes in order: items are made before those that stand below them. */
class Writer {
  readonly #database: Sequelize
  readonly #actor: ActorContext
  readonly #ground: FileGround
  readonly #author: Author
  readonly #positions: string[]
  readonly #project: { readonly number: number; readonly code: string }
  readonly #ids = new Map<string, number>()
  #made: { readonly ref: string; readonly item: Facts }[] = []
  #writes: ItemWrite[] = []

  constructor(
    database: Sequelize,
    actor: ActorContext,
    ground: FileGround,
    project: { readonly number: number; readonly code: string },
    positions: string[],
  ) {
    this.#database = database
    this.#actor = actor
    this.#ground = ground
    this.#project = project
    this.#positions = positions
    this.#author = { kind: 'import', number: actor.person.number }
  }

  /** The id of an item that was there or is made. */
  readonly idOf = (ref: string): number | undefined => this.#ids.get(ref) ?? this.#ground.idOf(ref)

  async take(outcome: RowOutcome): Promise<void> {
    if (outcome.kind === 'made') await this.#make(outcome.ref, outcome.item)
    if (outcome.kind !== 'changed') return
    await this.#flushFor(outcome.judged.after['parent'])
    const stored = valueFor(this.#ground.items, outcome.ref)
    const write = writeOf(this.#actor.world, stored, outcome.judged, this.idOf)
    if (write) this.#writes.push(write)
    if (this.#writes.length >= atATime) await this.flush()
  }

  async #make(ref: string, item: Facts): Promise<void> {
    await this.#flushFor(item['parent'])
    this.#made.push({ ref, item })
    if (this.#made.length >= atATime) await this.flush()
  }

  /** A parent that is still to be made is made first. */
  async #flushFor(parent: unknown): Promise<void> {
    if (this.#made.some(({ ref }) => ref === parent)) await this.flush()
  }

  #rowOf(ref: string, item: Facts): NewRow {
    const { world, person } = this.#actor
    const number = Number(ref.split('/')[1])
    return {
      ref,
      title: String(item['title']),
      description: asTextOrNull(item['description']),
      values: {
        ...columnValues(world, item, handlesOf(item), this.idOf),
        project_id: this.#project.number,
        number,
        raised_by: person.number,
        position: this.#positions.shift(),
      },
    }
  }

  async flush(): Promise<void> {
    const { world, now } = this.#actor
    const rows = this.#made.map(({ ref, item }) => this.#rowOf(ref, item))
    const ids = await makeMany(this.#database, world, this.#project.number, rows, this.#author, now)
    for (const [number, id] of ids) this.#ids.set(`${this.#project.code}/${number}`, id)
    this.#made = []
    await writeItems(this.#database, world, this.#writes, this.#author, now)
    this.#writes = []
  }
}

/** Reads items a part at a time, locked until the transaction ends. */
async function* lockedItems(
  database: Sequelize,
  actor: ActorContext,
  ids: readonly number[],
): AsyncGenerator<StoredItem[]> {
  for (let from = 0; from < ids.length; from += atATime) {
    const part = ids.slice(from, from + atATime)
    const { items } = await lockBatch(database, actor, part, { deletedToo: false })
    yield [...items]
  }
}

/** Brings a file in, all of it or nothing, in one transaction; how far it is is told beside it. */
async function bringIn(
  database: Sequelize,
  actor: ActorContext,
  row: ImportFileModel,
  signal: AbortSignal,
): Promise<void> {
  const files = modelsOf(database).importFile
  const project = projectOf(actor, row)
  const file = { project, records: recordsOf(row), reading: row.reading }
  const given = rowsGiven(actor, file)
  const first = await reserveNumbers(database, project.number, given.length)
  const last = await lastPosition(database, project.number)
  const positions = orderKeys(given.length, last)
  const counts = { made: 0, changed: 0, same: 0, wrong: 0 }
  const rest: LeftRow[] = []
  let done = 0
  await inTransaction(database, async () => {
    await holdEdition(database, actor.world)
    judgeReading(actor, project, row.reading, row.columns.length)
    const ground = await groundOf(database, actor, file, given, lockedItems)
    await lockTree(database)
    await lockLinkKinds(database, actor, row.reading)
    const { rows, links } = await settleLinks(database, actor, file, given, ground, first)
    const linked = new Set(links.map(({ line }) => line))
    const writer = new Writer(database, actor, ground, project, positions)
    const nextRef = refsFrom(project, first)
    await judgeRows(actor, file, rows, { ...ground.at, nextRef }, async (outcome) => {
      counts[effectOf(outcome, linked)] += 1
      done += 1
      if (outcome.kind === 'wrong') {
        const why = outcome.problems.map((problem) => problem.message).join(' ')
        if (!row.goodOnly) throw new JobRefused(`Line ${outcome.line}: ${why} Nothing came in.`)
        rest.push({ line: outcome.line, why })
      }
      await writer.take(outcome)
      if (done % atATime !== 0) return
      if (signal.aborted) throw new Stopped()
      // Told outside of the transaction, which nobody sees before it ends.
      await files.update({ done }, { where: { id: row.id }, transaction: null })
      await giveWay()
    })
    await writer.flush()
    await writeLinks(database, actor, ground, links, (ref) =>
      certain(writer.idOf(ref), `item ${ref}`),
    )
    await files.update(
      { state: 'done', done: rows.length, counts, rest, reason: null },
      { where: { id: row.id } },
    )
  })
}

/** Holds the kinds of link that refuse circles, always in the same order. */
async function lockLinkKinds(
  database: Sequelize,
  { world }: ActorContext,
  { columns }: FileReading,
): Promise<void> {
  const kinds = columns.flatMap((target) => linkColumnOf(target)?.kind ?? [])
  const refusing = kinds.filter((kind) => entryOf(world.document.linkKinds, kind).refusesCircles)
  const numbers = refusing.map((kind) => world.numbers.numberOf('linkKind', kind))
  for (const number of [...new Set(numbers)].sort((a, b) => a - b))
    await lockLinks(database, number)
}

/** The server stops: nothing came in, and the job begins anew. */
class Stopped extends Error {}

/** Brings files in. A file that is cut off leaves nothing, and is begun anew. */
export const carryOutImport =
  (database: Sequelize, worlds: Worlds, clock: () => Date): Work =>
  async (job, signal) => {
    const files = modelsOf(database).importFile
    const row = await files.findOne({ where: { identity: job.subject } })
    if (!row || (row.state !== 'waiting' && row.state !== 'at work')) return undefined
    await row.update({ state: 'at work' })
    try {
      const actor = await actorOfJob(worlds, row.byId, clock())
      await bringIn(database, actor, row, signal)
    } catch (error) {
      if (error instanceof Stopped) return clock()
      const isFinal =
        error instanceof JobRefused || (error instanceof Problem && error.status < 500)
      if (!isFinal || (error instanceof Problem && error.more['retry'] === true)) throw error
      await row.update({ state: 'refused', reason: error.message })
      throw new JobRefused(error.message)
    } finally {
      await announce(database, 'import', row.identity, { person: row.byId }, clock())
    }
    return undefined
  }
