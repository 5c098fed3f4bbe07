import { type EditItem, refuseMove } from '@bluestem/core/work'
import type { Sequelize } from 'sequelize'
import { inTransaction, rows } from '../database/connect.ts'
import { changeItems, keepText, personAuthor, tell } from '../items/write.ts'
import { rememberLabels } from '../labels/recent.ts'
import type { ActorContext } from '../workspace/actor.ts'
import { enteringFacts, flowFor, judgeEntering } from './entering.ts'
import { pickOne, readValues } from './given.ts'
import { judgeBelow, judgeParent } from './parent.ts'
import { judgeFamilies, keeperOf } from './making.ts'
import { placed } from './position.ts'
import { holdEdition } from '../workspace/edition.ts'
import { judgeRead, keepComment, saidWell } from './comments.ts'
import { find } from './storedItem.ts'
import { flowOf, typesOf } from '@bluestem/core/definitions'
import { phases } from '@bluestem/core/queries'
import { refused } from '../problems/problem.ts'
import type { Project, World } from '../workspace/world.ts'
import type { Row } from './row.ts'

/** Changes an item. A move its flow does not allow is refused with where it may go instead. */

export async function edit(
  database: Sequelize,
  acting: ActorContext,
  ref: string,
  given: EditItem,
  match: string,
): Promise<void> {
  const { world, person, now } = acting
  await inTransaction(database, async () => {
    await holdEdition(database, world)
    const { row, id, project } = await find(database, acting, ref, 'FOR UPDATE')
    await judgeRead(database, acting, id, row, match)
    const { comment, ...changes } = given
    const read = await readValues(
      database,
      acting,
      changes as Record<string, unknown>,
      project,
      row,
    )
    const values: Record<string, unknown> = {
      ...read.values,
      ...(await placed(database, acting, given, project)),
    }
    const said = comment === undefined ? undefined : saidWell(comment)
    judgeMoves(world, project, row, values)
    if (values['hold_reason'] !== undefined && values['on_hold'] === undefined && !row['on_hold'])
      delete values['hold_reason']
    if (values['on_hold'] === false) values['hold_reason'] = null
    if (Array.isArray(values['labels']))
      values['labels'] = pickOne(world, values['labels'] as number[], row['labels'] as number[])
    const typeId = world.numbers.identity('type', (values['type_id'] ?? row['type_id']) as number)!
    const rulebook = world.document.projects[project.id]!
    if (Array.isArray(values['labels']) || values['type_id'] !== undefined)
      judgeFamilies(world, rulebook, typeId, (values['labels'] ?? row['labels']) as number[])
    const parent = values['parent_id'] === undefined ? row['parent_id'] : values['parent_id']
    if (
      typeof parent === 'number' &&
      (values['parent_id'] !== undefined || values['type_id'] !== undefined)
    )
      await judgeParent(database, acting, id, typeId, parent)
    if (values['type_id'] !== undefined) await judgeBelow(database, acting, id, typeId)
    if (
      Array.isArray(values['components']) &&
      given.assignee === undefined &&
      row['assignee_id'] === null
    ) {
      const keeper = keeperOf(
        world,
        (values['components'] as number[]).filter(
          (one) => !(row['components'] as number[]).includes(one),
        ),
      )
      if (keeper !== undefined) values['assignee_id'] = keeper
    }
    const [text] = await rows<{ description: string | null }>(
      database,
      `SELECT description FROM item_text WHERE item_id = $1 AND valid_to = 'infinity'`,
      [id],
    )
    const description =
      read.description === undefined ? (text?.description ?? null) : read.description
    const differs =
      description !== (text?.description ?? null) ||
      Object.entries(values).some(([column, value]) => !sameStored(row[column], value))
    if (values['status_id'] !== undefined)
      judgeEntering(
        world,
        flowFor(world, project.id, typeId),
        world.numbers.identity('status', values['status_id'] as number)!,
        await enteringFacts(
          database,
          acting,
          project,
          { ...row, ...values, status_id: row['status_id'], description },
          said !== undefined,
        ),
      )
    if (!differs && said === undefined) return
    if (said !== undefined) values['comment_count'] = (row['comment_count'] as number) + 1
    const [changed] = await changeItems(
      database,
      world.columns,
      [id],
      values,
      personAuthor(person),
      now,
      read.types,
    )
    await keepText(
      database,
      id,
      String(values['title'] ?? row['title']),
      description,
      changed!.row_from,
    )
    if (said !== undefined) await keepComment(database, acting, id, said, changed!.row_from)
    if (Array.isArray(values['labels']))
      await rememberLabels(
        database,
        person.number,
        (values['labels'] as number[]).filter(
          (label) => !(row['labels'] as number[]).includes(label),
        ),
        now,
      )
    await tell(database, 'item', ref, { project: project.number }, now)
  })
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
  row: Row,
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
