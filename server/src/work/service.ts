import {
  defaultPriority,
  flowOf,
  movesFrom,
  orderBetween,
  typesOf,
} from '@bluestem/core/definitions'
import { rememberLabels } from '../definitions/labels.ts'
import { phases } from '@bluestem/core/queries'
import { refuseMove, cleanText, type EditItem, type MakeItem } from '@bluestem/core/work'
import type { Sequelize } from 'sequelize'
import { inTransaction, rows } from '../database/connect.ts'
import { changeItems, keepText, makeItem, tell, type Author } from '../database/write.ts'
import { visibleProjects, type Person, type Project, type World } from '../database/world.ts'
import { invalid, refused, stale } from '../http/problem.ts'
import { askingOf } from '../queries/answers.ts'
import { Binds, type Asking } from '../sql/statement.ts'
import { clocksOf } from './clocks.ts'
import { enteringFacts, flowFor, judgeEntering, missingFor } from './entering.ts'
import { etagOf, find, stateMeant, type Acting } from './find.ts'
import { judgeFamilies, judgeRequired, keeperOf, standardValues } from './making.ts'
import { judgeBelow, judgeParent, pickOne, readValues } from './given.ts'
import { changedSince } from './history.ts'
import { authorOf, itemColumns, itemOf, refOf, type Row } from './row.ts'

/** Holds publishing off while items are written, and says when the statement at hand was built for an older edition. */
async function holdEdition(database: Sequelize, world: World): Promise<void> {
  const [current] = await rows<{ number: number }>(
    database,
    'SELECT number FROM current_edition FOR SHARE',
  )
  if (current?.number !== world.edition)
    throw refused('A new edition was published at this moment; try again.', [], { retry: true })
}

/** One item whole: its values, where it may go, and how it stands to its relatives. */
export async function readItem(
  database: Sequelize,
  acting: Acting,
  ref: string,
): Promise<{ body: object; etag: string }> {
  const { world } = acting
  const { row, id } = await find(database, acting, ref)
  const asking = askingOf(world, acting.person, acting.now)
  const item = await itemById(database, asking, id)
  const project = world.numbers.identity('project', row['project_id'] as number)!
  const type = world.numbers.identity('type', row['type_id'] as number)!
  const status = world.numbers.identity('status', row['status_id'] as number)!
  const flow = flowFor(world, project, type)
  const entering =
    flow.requirements.size > 0
      ? await enteringFacts(
          database,
          acting,
          world.projects.find((one) => one.id === project)!,
          row,
          false,
        )
      : undefined
  const title = (one: string): { id: string; title: string; mark: string } => ({
    id: one,
    title: world.document.statuses[one]!.title,
    mark: world.document.statuses[one]!.phase,
  })
  const children = await rows<Row>(
    database,
    `SELECT i.number, i.project_id, i.type_id, i.status_id, i.title FROM item i WHERE i.parent_id = $1 AND NOT i.deleted AND i.project_id = ANY($2::int[]) ORDER BY i.position, i.id LIMIT 200`,
    [id, asking.visible],
  )
  const [since] = await rows<{ since: Date }>(
    database,
    `SELECT coalesce((SELECT max(valid_to) FROM item_version WHERE id = $1 AND status_id <> $2), created_at) AS since FROM item WHERE id = $1`,
    [id, row['status_id']],
  )
  return {
    etag: etagOf(world, row),
    body: {
      ...item,
      etag: etagOf(world, row),
      rulebook: world.document.projects[project],
      statusSince: since!.since.toISOString(),
      holdSince: row['held_since'],
      moves: movesFrom(flow, status, world.document.statuses).map((to) => ({
        ...title(to),
        missing: entering ? missingFor(world, flow.requirements.get(to), entering) : [],
        says: flow.requirements.get(to)?.says ?? null,
        asksReason:
          flow.requirements.get(to)?.reason === true || flow.requirements.get(to)?.comment === true,
      })),
      limits: await clocksOf(database, acting, id, project, row),
      refusals: flow.statuses
        .filter((to) => to !== status && refuseMove(world.document, flow, status, to))
        .map((to) => ({
          ...title(to),
          message: refuseMove(world.document, flow, status, to)!.message,
        })),
      children: children.map((child) => ({
        ref: refOf(world, child),
        title: child['title'],
        type: chosenType(world, child),
        status: title(world.numbers.identity('status', child['status_id'] as number)!),
      })),
    },
  }
}

const chosenType = (world: World, row: Row): object => {
  const id = world.numbers.identity('type', row['type_id'] as number)!
  const type = world.document.types[id]!
  return { id, title: type.title, mark: `${type.monogram}${type.tier}` }
}

async function itemById(
  database: Sequelize,
  asking: Asking,
  id: number,
): Promise<Record<string, unknown>> {
  const binds = new Binds()
  const properties = [...asking.world.vocabulary.properties.values()]
  const { sql, bind } = binds.statement(
    `SELECT ${itemColumns(asking, properties)('x', binds).join(', ')} FROM item x WHERE x.id = ${binds.bind(id, 'int')}`,
  )
  const [row] = await rows<Row>(database, sql, bind)
  return itemOf(asking.world, row!, properties)
}

const personAuthor = (person: Person): Author => ({ kind: 'person', number: person.number })

/** Makes an item; with an idempotency key, asking again gives the item made the first time. */
export const make = async (
  database: Sequelize,
  acting: Acting,
  given: MakeItem,
  key: string | undefined,
): Promise<{ ref: string; made: boolean }> =>
  await inTransaction(database, async () => await makeInside(database, acting, given, key))

/** Makes an item inside a transaction that may make more. */
export async function makeInside(
  database: Sequelize,
  acting: Acting,
  given: MakeItem,
  key: string | undefined,
): Promise<{ ref: string; made: boolean }> {
  const { world, person, now } = acting
  const project = world.projects.find(
    (one) => one.id === given.project || one.code === given.project,
  )
  if (!project || !visibleProjects(world, person).includes(project.number))
    throw invalid([
      {
        pointer: '/project',
        message: `There is no project “${given.project}”.`,
        expected: 'a code such as YARD',
        found: given.project,
      },
    ])
  const rulebook = world.document.projects[project.id]
  if (!rulebook) throw refused(`${project.title} follows no rulebook yet.`)
  await holdEdition(database, world)
  const before = key ? await answeredBefore(database, person.number, key) : undefined
  if (before !== undefined) return { ref: before, made: false }
  const read = await readValues(
    database,
    acting,
    standardValues(acting, rulebook, project, given as unknown as Record<string, unknown>),
    project,
  )
  const type = world.numbers.identity('type', read.values['type_id'] as number)!
  const offered = typesOf(world.document, rulebook)
  if (!offered.includes(type))
    throw refused(`${project.title} has no items of type ${world.document.types[type]!.title}.`, [
      {
        pointer: '/type',
        message: 'The rulebook does not offer this type.',
        expected: offered.map((id) => world.document.types[id]!.title).join(', '),
      },
    ])
  const flow = flowOf(world.document, rulebook, type)
  const start = world.numbers.of('status', flow.start!)!
  const status = (read.values['status_id'] as number | undefined) ?? start
  const statusId = world.numbers.identity('status', status)!
  if (status !== start && !flow.statuses.includes(statusId))
    throw refused(
      `${world.document.statuses[statusId]!.title} is not in the flow of ${world.document.types[type]!.title}.`,
      [{ pointer: '/status', message: 'Not in the flow of the type.' }],
    )
  if (typeof read.values['parent_id'] === 'number')
    await judgeParent(database, acting, null, type, read.values['parent_id'])
  judgeRequired(world, rulebook, type, read)
  const labels = pickOne(world, (read.values['labels'] as number[] | undefined) ?? [], [])
  judgeFamilies(world, rulebook, type, labels)
  const standard = defaultPriority(world.document, rulebook)
  const { number, last } = await nextInProject(database, project)
  const values = {
    priority_id: standard ? world.numbers.of('priority', standard) : null,
    ...read.values,
    labels,
    project_id: project.number,
    number,
    status_id: status,
    phase: phases.indexOf(world.document.statuses[statusId]!.phase),
    raised_by: person.number,
    position: orderBetween(last, null),
  }
  const id = await makeItem(database, values, personAuthor(person), now, read.types)
  await keepText(database, id, String(read.values['title']), read.description ?? null, now)
  await rememberLabels(database, person.number, labels, now)
  const ref = `${project.code}/${number}`
  if (key)
    await rows(
      database,
      'INSERT INTO answered (by_id, key, subject) VALUES ($1, $2, $3) RETURNING key',
      [person.number, key, ref],
    )
  await tell(database, 'item', ref, { project: project.number }, now)
  return { ref, made: true }
}

/** The ref that a key was answered with; whoever uses the same key at the same moment waits. */
async function answeredBefore(
  database: Sequelize,
  person: number,
  key: string,
): Promise<string | undefined> {
  await rows(database, 'SELECT pg_advisory_xact_lock(hashtextextended($1, 7105))::text', [
    `${person} ${key}`,
  ])
  return (
    await rows<{ subject: string }>(
      database,
      'SELECT subject FROM answered WHERE by_id = $1 AND key = $2',
      [person, key],
    )
  )[0]?.subject
}

/** Holds a project, so that places in its hand order and numbers are given one after the other. */
const holdProject = async (database: Sequelize, project: Project): Promise<void> =>
  void (await rows(database, 'SELECT id FROM project WHERE id = $1 FOR NO KEY UPDATE', [
    project.number,
  ]))

/** The number of the next item of a project and the last place of its hand order. A number that is taken already is passed over. */
async function nextInProject(
  database: Sequelize,
  project: Project,
): Promise<{ number: number; last: string | null }> {
  await holdProject(database, project)
  const [found] = await rows<{ last: string | null }>(
    database,
    'SELECT max(position) AS last FROM item WHERE project_id = $1',
    [project.number],
  )
  const [counted] = await rows<{ last_number: number }>(
    database,
    'UPDATE project SET last_number = greatest(last_number, (SELECT coalesce(max(number), 0) FROM item WHERE project_id = $1)) + 1 WHERE id = $1 RETURNING last_number',
    [project.number],
  )
  return { number: counted!.last_number, last: found!.last }
}

/** Changes an item. A move its flow does not allow is refused with where it may go instead. */
export async function edit(
  database: Sequelize,
  acting: Acting,
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

const sameStored = (a: unknown, b: unknown): boolean => {
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

function judgeMoves(
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

/** The key of a place in hand order: right after one neighbour, or right before the other where there is none; what others put between the two meanwhile stays beside it. */
async function placed(
  database: Sequelize,
  acting: Acting,
  given: EditItem,
  project: Project,
): Promise<{ position?: string }> {
  if (!given.position) return {}
  await holdProject(database, project)
  const positionOf = async (ref: string | undefined): Promise<string | null> =>
    ref ? ((await find(database, acting, ref)).row['position'] as string) : null
  const [after, before] = [
    await positionOf(given.position.after),
    await positionOf(given.position.before),
  ]
  if (after !== null)
    return { position: orderBetween(after, await nextPosition(database, project, 'min', after)) }
  if (before !== null)
    return { position: orderBetween(await nextPosition(database, project, 'max', before), before) }
  return { position: orderBetween(await nextPosition(database, project, 'max', null), null) }
}

/** The nearest place after one (`min`) or before one (`max`) in a project; the last of all where none is given. */
async function nextPosition(
  database: Sequelize,
  project: Project,
  which: 'min' | 'max',
  from: string | null,
): Promise<string | null> {
  const [found] = await rows<{ position: string | null }>(
    database,
    `SELECT ${which}(position) AS position FROM item WHERE project_id = $1 AND ($2::text IS NULL OR position ${which === 'min' ? '>' : '<'} $2::text COLLATE "C")`,
    [project.number, from],
  )
  return found!.position
}

/** Deletes an item: it answers no question about the present any more, and its history stays. */
export async function remove(
  database: Sequelize,
  acting: Acting,
  ref: string,
  match: string,
): Promise<void> {
  await inTransaction(database, async () => {
    await holdEdition(database, acting.world)
    const { row, id, project } = await find(database, acting, ref, 'FOR UPDATE')
    await judgeRead(database, acting, id, row, match)
    await changeItems(
      database,
      acting.world.columns,
      [id],
      { deleted: true },
      personAuthor(acting.person),
      acting.now,
    )
    await tell(database, 'item', ref, { project: project.number }, acting.now)
  })
}

/** A state that only an edition or a merge rewrote since it was read is nobody's change. @throws Problem 412 with what others changed */
async function judgeRead(
  database: Sequelize,
  acting: Acting,
  id: number,
  row: Row,
  match: string,
): Promise<void> {
  const meant = stateMeant(match)
  if (meant === undefined || meant === (row['row_from'] as Date).getTime()) return
  const changed = await changedSince(database, acting, id, meant)
  if (
    changed.length === 0 ||
    changed.some((one) => one.by.kind !== 'edition' && one.by.kind !== 'bulk job')
  )
    throw stale(changed)
}

function saidWell(body: string): string {
  const clean = cleanText(body)
  if (!clean.ok || clean.text.trim() === '')
    throw invalid([
      {
        pointer: '/comment',
        message: clean.ok ? 'There is nothing said.' : clean.message,
        expected: 'something said',
      },
    ])
  return clean.text.trim()
}

const keepComment = async (
  database: Sequelize,
  { person }: Acting,
  id: number,
  body: string,
  at: Date,
): Promise<void> =>
  void (await rows(
    database,
    'INSERT INTO comment (item_id, body, by_id, at) VALUES ($1, $2, $3, $4) RETURNING id',
    [id, body, person.number, at],
  ))

/** Adds a comment; it is a new state of the item, whose count of comments moves. */
export async function say(
  database: Sequelize,
  acting: Acting,
  ref: string,
  body: string,
): Promise<void> {
  const said = saidWell(body)
  await inTransaction(database, async () => {
    await holdEdition(database, acting.world)
    const { row, id, project } = await find(database, acting, ref, 'FOR UPDATE')
    const [changed] = await changeItems(
      database,
      acting.world.columns,
      [id],
      { comment_count: (row['comment_count'] as number) + 1 },
      personAuthor(acting.person),
      acting.now,
    )
    await keepComment(database, acting, id, said, changed!.row_from)
    await tell(database, 'item', ref, { project: project.number }, acting.now)
  })
}

export async function comments(database: Sequelize, acting: Acting, ref: string): Promise<object> {
  const { id } = await find(database, acting, ref)
  const found = await rows<{ id: number; body: string; by_id: number; at: Date }>(
    database,
    `SELECT id, body, by_id, at FROM comment WHERE item_id = $1 AND valid_to = 'infinity' ORDER BY at, id`,
    [id],
  )
  return {
    comments: found.map(({ id: number, body, by_id, at }) => ({
      id: number,
      body,
      at: at.toISOString(),
      by: authorOf(acting.world, { by_kind: 0, by_id }),
    })),
  }
}
