import { firstIn, valueFor } from '@bluestem/core/known'
import {
  type FileReading,
  parentsFirst,
  readRow,
  type RowGiven,
  type RowGround,
  RowJudge,
  type RowOutcome,
} from '@bluestem/core/exchange'
import { setImmediate as giveWay } from 'node:timers/promises'
import type { Sequelize } from 'sequelize'
import { itemsIn } from '../bulk/preview.ts'
import { idsOfPlaces } from '../items/bulk.ts'
import { itemsByValue } from '../items/makeMany.ts'
import { refOf } from '../items/row.ts'
import { columnOf } from '../sql/property.ts'
import { type GroundAsked, loadMany } from '../work/ground.ts'
import { rulesFor } from '../work/rules.ts'
import { placeIn, type StoredItem } from '../work/storedItem.ts'
import type { ActorContext } from '../workspace/actor.ts'
import type { Project } from '../workspace/living.ts'
import type { CsvRecord } from './readCsv.ts'

/** A file with how it is read. */
export interface FileToJudge {
  readonly project: Project
  readonly records: readonly CsvRecord[]
  readonly reading: FileReading
}

/** The rows of a file as they are given, in the order in which they are judged. */
export function rowsGiven({ world }: ActorContext, file: FileToJudge): RowGiven[] {
  const { cells: headings } = firstIn(file.records)
  return parentsFirst(
    file.records
      .slice(1)
      .map(({ line, cells }) => readRow(file.reading, headings, cells, line, world.vocabulary)),
  )
}

/** Ids of the items that rows name by their refs, to change them or to link with them, as far as they may be seen. */
async function idsNamed(
  database: Sequelize,
  actor: ActorContext,
  rows: readonly RowGiven[],
): Promise<number[]> {
  const named = rows.flatMap(({ ref, links }) => [
    ...(ref === null ? [] : [ref]),
    ...links.map(({ to }) => to.toUpperCase()).filter(isRef),
  ])
  const places = [...new Set(named)].flatMap((ref) => placeIn(actor, ref) ?? [])
  return await idsOfPlaces(
    database,
    places.map(({ project }) => project.number),
    places.map(({ number }) => number),
  )
}

/** Items of the project by the value of the key field that rows have, or that they name as a parent or to link with. */
async function itemsByKey(
  database: Sequelize,
  { world }: ActorContext,
  { project, reading }: FileToJudge,
  rows: readonly RowGiven[],
): Promise<ReadonlyMap<string, number>> {
  const property = reading.key === null ? undefined : world.vocabulary.properties.get(reading.key)
  const column = property && columnOf({ world }, property)
  if (!column) return new Map()
  const keys = [...new Set(rows.flatMap(keysNamed))]
  const found = await itemsByValue(database, project.number, column, keys)
  return new Map(found.map(({ id, value }) => [value, id]))
}

/** The keys that a row has or names. */
const keysNamed = ({ key, given, links }: RowGiven): string[] =>
  [key, given['parent'], ...links.map(({ to }) => to)].filter(
    (name): name is string => typeof name === 'string',
  )

/** Refs for new items of a project, one after the other. */
export function refsFrom({ code }: Project, first: number): () => string {
  let number = first
  return () => `${code}/${(number += 1) - 1}`
}

export const isRef = (text: unknown): text is string =>
  typeof text === 'string' && /^[A-Z][A-Z0-9]{1,9}\/[1-9]\d{0,8}$/.test(text)

/** What the rows of a file are judged on, and how the items around it are found. */
export interface FileGround {
  readonly at: Omit<RowGround, 'nextRef'>
  readonly items: ReadonlyMap<string, StoredItem>
  readonly idOf: (ref: string) => number | undefined
}

/**
 * Loads what the rows are judged on.
 *
 * @param read reads items by their ids, locked where they are about to be changed
 */
export async function groundOf(
  database: Sequelize,
  actor: ActorContext,
  file: FileToJudge,
  rows: readonly RowGiven[],
  read = itemsIn,
): Promise<FileGround> {
  const byKey = await itemsByKey(database, actor, file, rows)
  const ids = [...new Set([...(await idsNamed(database, actor, rows)), ...byKey.values()])].sort(
    (a, b) => a - b,
  )
  const items = new Map<string, StoredItem>()
  const refs = new Map<number, string>()
  async function* parts(): AsyncGenerator<readonly StoredItem[]> {
    // Where rows change nothing, their parents are asked for all the same.
    yield []
    for await (const part of read(database, actor, ids)) {
      for (const item of part) {
        const ref = refOf(actor.world, item.row)
        items.set(ref, item)
        refs.set(item.id, ref)
      }
      yield part
    }
  }
  const asked: GroundAsked = {
    parents: [...new Set(rows.map(({ given }) => given['parent']).filter(isRef))],
    around: true,
  }
  const { known, idOf } = await loadMany(database, actor, parts(), asked)
  const refByKey = new Map(
    [...byKey].flatMap(([key, id]) => (refs.has(id) ? [[key, valueFor(refs, id)] as const] : [])),
  )
  return { at: { project: file.project.id, known, refByKey }, items, idOf }
}

/** How many rows are judged before others get their turn. */
const atATime = 200

/** Judges all rows one after the other and tells each outcome; others get their turn in between. */
export async function judgeRows(
  actor: ActorContext,
  file: FileToJudge,
  rows: readonly RowGiven[],
  ground: RowGround,
  tell: (outcome: RowOutcome) => void | Promise<void>,
): Promise<RowJudge> {
  const judge = new RowJudge(rulesFor(actor), ground, file.reading, firstIn(file.records).cells)
  for (const [index, row] of rows.entries()) {
    await tell(judge.judge(row))
    if (index % atATime === atATime - 1) await giveWay()
  }
  return judge
}
