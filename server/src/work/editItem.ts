import { pickOne, readValues, type ReadValues } from './given.ts'
import type { ItemRow } from '../items/row.ts'
import { type EditItem, refuseMove } from '@bluestem/core/work'
import type { Sequelize } from 'sequelize'
import { inTransaction } from '../database/connect.ts'
import { presentDescription } from '../items/read.ts'
import { changeItems, saveText } from '../items/write.ts'
import { announce } from '../sql/outbox.ts'
import { personAuthor } from '../workspace/author.ts'
import { rememberLabels } from '../labels/recent.ts'
import type { ActorContext } from '../workspace/actor.ts'
import { enteringFacts, flowFor, judgeEntering } from './entering.ts'
import { judgeBelow, judgeParent } from './parent.ts'
import { judgeFamilies, keeperOf } from './making.ts'
import { placed } from './position.ts'
import { insertComment, judgeComment, judgeRead } from './comments.ts'
import { findToEdit, type StoredItem } from './storedItem.ts'
import { flowOf, typesOf } from '@bluestem/core/definitions'
import { phases } from '@bluestem/core/queries'
import { refused } from '../problems/problem.ts'
import type { Project, World } from '../workspace/world.ts'

type Values = Record<string, unknown>

/** Labels that are in the item's new state and were not in the one before. */
const added = (values: Values, row: ItemRow, column: 'labels' | 'components'): number[] =>
  (values[column] as number[]).filter((one) => !(row[column] as number[]).includes(one))

/** What follows from a change of hold: a reason stands only while an item is on hold. */
function holdValues(values: Values, row: ItemRow): Values {
  const { hold_reason: reason, ...others } = values
  if (values['on_hold'] === false) return { ...values, hold_reason: null }
  if (reason === undefined || values['on_hold'] !== undefined || row['on_hold']) return values
  return others
}

/** The keeper of a component that an item gets, where the item has nobody and nobody is given. */
function keeperValues(world: World, values: Values, row: ItemRow): Values {
  if (!Array.isArray(values['components']) || 'assignee_id' in values) return {}
  if (row['assignee_id'] !== null) return {}
  const keeper = keeperOf(world, added(values, row, 'components'))
  return keeper === undefined ? {} : { assignee_id: keeper }
}

/** Judges how an item would stand to its parent and to what is below it. */
async function judgeFamily(
  database: Sequelize,
  actor: ActorContext,
  id: number,
  type: string,
  values: Values,
  row: ItemRow,
): Promise<void> {
  const changesType = values['type_id'] !== undefined
  const parent = values['parent_id'] === undefined ? row['parent_id'] : values['parent_id']
  if (typeof parent === 'number' && (changesType || values['parent_id'] !== undefined))
    await judgeParent(database, actor, id, type, parent)
  if (changesType) await judgeBelow(database, actor, id, type)
}

/** The values an edit gives, with what follows from them, judged against the item as it is. */
async function judgeEdit(
  database: Sequelize,
  actor: ActorContext,
  { row, id, project }: StoredItem,
  given: EditItem,
): Promise<{ read: ReadValues; type: string; values: Values }> {
  const { world } = actor
  const { comment: _comment, ...changes } = given
  const read = await readValues(database, actor, { ...changes }, project, row)
  const position = await placed(database, actor, given, project)
  const values = holdValues({ ...read.values, ...position }, row)
  judgeMoves(world, project, row, values)
  if (Array.isArray(values['labels']))
    values['labels'] = pickOne(world, values['labels'] as number[], row['labels'] as number[])
  const type = world.numbers.identity('type', (values['type_id'] ?? row['type_id']) as number)!
  if (Array.isArray(values['labels']) || values['type_id'] !== undefined) {
    const labels = (values['labels'] ?? row['labels']) as number[]
    judgeFamilies(world, world.document.projects[project.id]!, type, labels)
  }
  await judgeFamily(database, actor, id, type, values, row)
  return { read, type, values: { ...values, ...keeperValues(world, values, row) } }
}

/** Judges what the status asks that an item enters. */
async function judgeStatus(
  database: Sequelize,
  actor: ActorContext,
  project: Project,
  type: string,
  after: ItemRow,
  before: ItemRow,
  commented: boolean,
): Promise<void> {
  const { world } = actor
  const status = world.numbers.identity('status', after['status_id'] as number)!
  const facts = await enteringFacts(
    database,
    actor,
    project,
    { ...after, status_id: before['status_id'] },
    commented,
  )
  judgeEntering(world, flowFor(world, project.id, type), status, facts)
}

/** Changes an item. A move its flow does not allow is refused with where it may go instead. */
export async function editItem(
  database: Sequelize,
  actor: ActorContext,
  ref: string,
  given: EditItem,
  match: string,
): Promise<void> {
  await inTransaction(database, async () => {
    const found = await findToEdit(database, actor, ref)
    await judgeRead(database, actor, found.id, found.row, match)
    const said = given.comment === undefined ? undefined : judgeComment(given.comment)
    const { read, type, values } = await judgeEdit(database, actor, found, given)
    const { id, row, project } = found
    // A text read in the statement that waited for the item may be older than the item; whoever changes it reads it again.
    const changesText = read.description !== undefined || values['title'] !== undefined
    const before = changesText ? await presentDescription(database, id) : found.description
    const description = read.description === undefined ? before : read.description
    if (values['status_id'] !== undefined) {
      const after = { ...row, ...values, description }
      await judgeStatus(database, actor, project, type, after, row, said !== undefined)
    }
    const differs =
      description !== before ||
      Object.entries(values).some(([column, value]) => !sameStored(row[column], value))
    if (!differs && said === undefined) return
    await writeEdit(database, actor, found, {
      values,
      types: read.types,
      ...(changesText ? { description } : {}),
      said,
    })
    await announce(database, 'item', ref, { project: project.number }, actor.now)
  })
}

interface JudgedEdit {
  readonly values: Values
  readonly types: Readonly<Record<string, string>>
  /** the text after the edit, where title or description may differ */
  readonly description?: string | null
  readonly said: string | undefined
}

/** Writes a judged edit: the new state, its text, its comment, and which labels the person gave last. */
async function writeEdit(
  database: Sequelize,
  actor: ActorContext,
  { id, row }: StoredItem,
  { values, types, description, said }: JudgedEdit,
): Promise<void> {
  const { world, person, now } = actor
  const counted =
    said === undefined ? values : { ...values, comment_count: (row['comment_count'] as number) + 1 }
  const author = personAuthor(person)
  const [changed] = await changeItems(database, world.columns, [id], counted, author, now, types)
  const { row_from: from } = changed!
  if (description !== undefined)
    await saveText(database, id, String(values['title'] ?? row['title']), description, from)
  if (said !== undefined) await insertComment(database, actor, id, said, from)
  if (Array.isArray(values['labels']))
    await rememberLabels(database, person.number, added(values, row, 'labels'), now)
}

export const sameStored = (a: unknown, b: unknown): boolean => {
  if (a instanceof Date || b instanceof Date)
    return new Date(a as Date).getTime() === new Date(b as Date).getTime()
  if (
    typeof a === 'string' &&
    typeof b === 'string' &&
    /^-?[\d.]+$/.test(a) &&
    /^-?[\d.]+$/.test(b)
  )
    return Number(a) === Number(b)
  return JSON.stringify(a ?? null) === JSON.stringify(b ?? null)
}

export function judgeMoves(
  world: World,
  project: Project,
  row: ItemRow,
  values: Record<string, unknown>,
): void {
  const rulebook = world.document.projects[project.id]!
  const from = world.numbers.identity('status', row['status_id'] as number)!
  const type = world.numbers.identity('type', (values['type_id'] ?? row['type_id']) as number)!
  if (values['type_id'] !== undefined && !typesOf(world.document, rulebook).includes(type))
    throw refused(`${project.title} has no items of type ${world.document.types[type]!.title}.`, [
      { pointer: '/type', message: 'The rulebook does not offer this type.' },
    ])
  const to =
    values['status_id'] === undefined
      ? from
      : world.numbers.identity('status', values['status_id'] as number)!
  const flow = flowOf(world.document, rulebook, type)
  const refusal = refuseMove(world.document, flow, from, to)
  if (refusal)
    throw refused(
      refusal.message,
      [
        {
          pointer: '/status',
          message: refusal.message,
          expected: refusal.allowed.map((one) => one.title).join(', '),
        },
      ],
      { allowed: refusal.allowed },
    )
  if (to !== from) values['phase'] = phases.indexOf(world.document.statuses[to]!.phase)
  else delete values['status_id']
}
