import {
  DefinitionsDocument,
  diff,
  fold,
  inWords,
  judgeSuccession,
  mappingNeeds,
  mappingsOf,
  noUsage,
  openNeeds,
  validate,
  type Holding,
  type Mapping,
} from '@bluestem/core/definitions'
import { phases } from '@bluestem/core/queries'
import type { Sequelize } from 'sequelize'
import { fieldColumn, stateColumns } from '../database/columns.ts'
import { inTransaction, rows, run } from '../database/connect.ts'
import { closeGate } from '../database/gate.ts'
import { project as projectTables } from '../database/projection.ts'
import { atOnce, keepMapping, rewriteNow, type PendingMapping } from '../database/remap.ts'
import { audit, tell } from '../database/write.ts'
import type { World } from '../database/world.ts'
import { judge } from '../http/endpoint.ts'
import { invalid, Problem, refused } from '../http/problem.ts'
import { addJob } from '../jobs/jobs.ts'
import type { Acting } from '../work/find.ts'
import { placeOnBoards } from './boards.ts'
import {
  draftBy,
  draftEtag,
  fieldsWithOptions,
  judgeClashes,
  judgeVersion,
  onCurrent,
  type Draft,
} from './drafts.ts'
import { projectTitles } from './editions.ts'
import { judgeDrafting, judgeRight } from './rights.ts'
import { usageOf } from './usage.ts'

export interface Publishing {
  readonly note: string
  readonly match: string
  /** more items than these are mapped by a job */ readonly most?: number
}

/**
 * Publishes a draft as the next edition, all or nothing. Long questions are let out first, and new ones wait at the gate.
 * Adding a column waits at most 150 ms at a time behind other readers and tries again, so that nobody queues behind the
 * waiting; after 40 tries, or a minute, the person is told to try later.
 */
export async function publish(
  database: Sequelize,
  acting: Acting,
  identity: string,
  publishing: Publishing,
): Promise<{ edition: number; mapping: number }> {
  judgeDrafting(acting)
  const until = performance.now() + 60_000
  for (let tries = 1; ; tries += 1) {
    try {
      return await publishOnce(database, acting, identity, publishing)
    } catch (error) {
      if ((error as { parent?: { code?: string } }).parent?.code !== '55P03') throw error
      if (tries >= 40 || performance.now() > until)
        throw new Problem(
          503,
          'Busy',
          'Long questions are being answered at the moment and hold the tables; nothing was published. Try again in a minute.',
        )
      await new Promise((done) => setTimeout(done, 20 * tries))
    }
  }
}

async function publishOnce(
  database: Sequelize,
  acting: Acting,
  identity: string,
  { note, match, most = atOnce }: Publishing,
): Promise<{ edition: number; mapping: number }> {
  const { person, now } = acting
  const { whole: world } = acting.world
  // Counting takes long with many items, so it is done before anybody is held up; what changed since is looked at again below.
  const [before] = await rows<{ xmin: string }>(
    database,
    'SELECT pg_snapshot_xmin(pg_current_snapshot())::text AS xmin',
  )
  const counted = await draftBy(database, identity)
  judgeVersion(counted, match)
  const ready = await readyToPublish(database, acting, counted)
  return await inTransaction(database, async () => {
    await closeGate(database, 5000)
    await run(database, `SET LOCAL lock_timeout = '150ms'`)
    const draft = await draftBy(database, identity, 'FOR UPDATE')
    judgeVersion(draft, draftEtag(counted))
    const [present] = await rows<{ number: number }>(
      database,
      'SELECT number FROM current_edition FOR UPDATE',
    )
    if (present!.number !== world.edition)
      throw refused(
        'Another edition was published at this moment; look at what it changed, then try again.',
        [],
        { retry: true },
      )
    const { document, mappings } = ready
    await judgeSince(database, acting, document, draft, before!.xmin)
    const differences = diff(world.document, document)
    await projectTables(database, document)
    const number = world.edition + 1
    const words = differences.map((difference) =>
      inWords(world.document, document, difference, projectTitles(world)),
    )
    await run(
      database,
      'INSERT INTO edition (number, document, changes, paths, note, by_id, published_at) VALUES ($1, $2::jsonb, $3::jsonb, $4::jsonb, $5, $6, $7)',
      [
        number,
        JSON.stringify(document),
        JSON.stringify(words),
        JSON.stringify(differences.map((one) => one.path)),
        note,
        person.number,
        now,
      ],
    )
    await run(database, 'UPDATE current_edition SET number = $1', [number])
    await run(database, 'UPDATE draft SET closed_at = $2 WHERE id = $1', [draft.id, now])
    await placeOnBoards(database, acting, document, draft.boards)
    const left = await carryOut(database, acting, document, number, mappings, most)
    await audit(
      database,
      person.number,
      'published',
      `edition ${number}`,
      { after: { note, words, mappings } },
      now,
    )
    await tell(database, 'edition', String(number), {}, now)
    return { edition: number, mapping: left }
  })
}

/** Items written since they were counted may hold a value that goes out of use and that nobody was asked about. @throws Problem to be tried again */
async function judgeSince(
  database: Sequelize,
  { world: { whole: world } }: Acting,
  document: DefinitionsDocument,
  draft: Draft,
  xmin: string,
): Promise<void> {
  const held = await rows<{
    project_id: number
    type_id: number
    status_id: number
    priority_id: number | null
  }>(
    database,
    `SELECT DISTINCT i.project_id, i.type_id, i.status_id, i.priority_id FROM outbox o JOIN project p ON p.code = split_part(o.subject, '/', 1)
    JOIN item i ON i.project_id = p.id AND i.number = split_part(o.subject, '/', 2)::int WHERE o.kind = 'item' AND o.xid >= $1::text::xid8 AND NOT i.deleted`,
    [xmin],
  )
  const holdings = held.flatMap(({ project_id, type_id, status_id, priority_id }): Holding[] => {
    const [project, type] = [
      world.numbers.identity('project', project_id)!,
      world.numbers.identity('type', type_id)!,
    ]
    const of = (column: 'type' | 'status' | 'priority', value: string | undefined): Holding[] =>
      value === undefined ? [] : [{ column, project, type, value, items: 1 }]
    return [
      ...of('type', type),
      ...of('status', world.numbers.identity('status', status_id)),
      ...of(
        'priority',
        priority_id === null ? undefined : world.numbers.identity('priority', priority_id),
      ),
    ]
  })
  const open = openNeeds(
    mappingNeeds(world.document, document, { ...noUsage, held: holdings }, draft.choices),
    draft.choices,
  )
  if (open.length > 0)
    throw refused(
      'An item came to hold a value that goes out of use while this was being published; try again.',
      [],
      { retry: true },
    )
}

/** A mapping with how many items it was counted to concern. */
export type Counted = Mapping & { readonly items: number }

/** A draft that may become an edition now, with what it maps. @throws Problem that says what is missing */
export async function readyToPublish(
  database: Sequelize,
  acting: Acting,
  draft: Draft,
): Promise<{ document: DefinitionsDocument; mappings: readonly Counted[] }> {
  const { whole: world } = acting.world
  const based = await onCurrent(database, world, draft)
  judgeClashes(based)
  const document = fold(world.document, based.changes)
  const differences = diff(world.document, document)
  if (differences.length === 0) throw refused('This draft changes nothing.')
  judgeRight(
    acting,
    differences.map((one) => one.path),
  )
  judge(DefinitionsDocument, document)
  const problems = [...validate(document), ...judgeSuccession(world.document, document)]
  if (problems.length > 0)
    throw refused(`This draft cannot be published yet: ${problems[0]!.message}`, problems)
  const usage = await usageOf(
    database,
    world,
    world.projects.map((project) => project.number),
    { optionsOf: fieldsWithOptions(differences) },
  )
  const needs = mappingNeeds(world.document, document, usage, draft.choices)
  const open = openNeeds(needs, draft.choices)
  if (open.length > 0)
    throw refused(
      `This draft leaves open what ${open.length === 1 ? 'a value in use becomes' : `${open.length} values in use become`}; choose that first.`,
      open.map((need) => ({
        pointer: `/choices/${need.key}`,
        message: `${need.items} items hold a value that goes out of use.`,
        expected: need.choices.join(', '),
      })),
      { open },
    )
  const mappings = mappingsOf(world.document, document, usage, draft.choices)
  if (mappings.length > 0 && world.mappings.length > 0)
    throw refused(
      'Items are still being rewritten for an earlier edition; a draft that rewrites items too waits until that is done.',
    )
  const counted = (one: Mapping): number =>
    usage.held
      .filter(
        (held) =>
          held.column === one.column &&
          held.value === one.from &&
          one.projects.includes(held.project) &&
          one.types.includes(held.type),
      )
      .reduce((sum, held) => sum + held.items, 0)
  return { document, mappings: mappings.map((one) => ({ ...one, items: counted(one) })) }
}

/** Sets a draft to be published later, as a job, once it could be published now. */
export async function publishLater(
  database: Sequelize,
  acting: Acting,
  identity: string,
  { note, match }: Publishing,
  at: string,
): Promise<void> {
  const { person, now } = acting
  judgeDrafting(acting)
  if (Number.isNaN(Date.parse(at)) || Date.parse(at) <= now.getTime())
    throw invalid([
      {
        pointer: '/at',
        message: 'The time lies in the past.',
        expected: 'a moment that is still to come',
        found: at,
      },
    ])
  await inTransaction(database, async () => {
    const draft = await draftBy(database, identity, 'FOR UPDATE')
    judgeVersion(draft, match)
    await readyToPublish(database, acting, draft)
    await run(
      database,
      'UPDATE draft SET publish_at = $2, publish_by = $3, publish_note = $4, version = version + 1 WHERE id = $1',
      [draft.id, new Date(at), person.number, note],
    )
    await addJob(database, 'publish', identity, new Date(at), person.number)
    await audit(
      database,
      person.number,
      'set a time to publish',
      `draft ${identity}`,
      { after: { at, note } },
      now,
    )
    await tell(database, 'draft', identity, {}, now)
  })
}

/** The tables that number what a mapping is about, and its column. */
const tables = { type: 'item_type', status: 'status', priority: 'priority' } as const

/** Rewrites the items an edition concerns: at once where they are few, else by a job. @returns how many are left to the job */
async function carryOut(
  database: Sequelize,
  { world: { whole: world }, now }: Acting,
  document: DefinitionsDocument,
  edition: number,
  mappings: readonly Counted[],
  most: number,
): Promise<number> {
  const kept: PendingMapping[] = []
  for (const mapping of mappings)
    kept.push(
      await keepMapping(
        database,
        await inNumbers(database, world, document, edition, mapping),
        now,
        mapping.items,
      ),
    )
  const total = kept.reduce((sum, mapping) => sum + mapping.total, 0)
  if (kept.length === 0) return 0
  const fields = new Map(
    (
      await rows<{ number: number; identity: string }>(
        database,
        'SELECT number, identity FROM field',
      )
    ).map((field) => [field.identity, field.number]),
  )
  if (total <= most) {
    await rewriteNow(
      database,
      stateColumns(document, (id) => fields.get(id)!),
      kept,
      now,
    )
    return 0
  }
  await addJob(database, 'mapping', String(edition), now, null, total)
  return total
}

async function inNumbers(
  database: Sequelize,
  world: World,
  document: DefinitionsDocument,
  edition: number,
  { column, from, to, projects, types }: Mapping,
): Promise<Omit<PendingMapping, 'id' | 'moved' | 'total'>> {
  const field = column.startsWith('option:') ? column.slice('option:'.length) : undefined
  const table = field ? 'field_option' : tables[column as keyof typeof tables]
  const number = async (identity: string): Promise<number> =>
    (
      await rows<{ number: number }>(database, `SELECT number FROM ${table} WHERE identity = $1`, [
        identity,
      ])
    )[0]!.number
  return {
    edition,
    column: field ? fieldColumn(world.numbers.of('field', field)!) : `${column}_id`,
    from: await number(from),
    to: to === null ? null : await number(to),
    several: field !== undefined && document.fields[field]?.kind === 'several choices',
    phase: column === 'status' && to !== null ? phases.indexOf(document.statuses[to]!.phase) : null,
    projects: projects.flatMap((id) => world.numbers.of('project', id) ?? []),
    types: types.flatMap((id) => world.numbers.of('type', id) ?? []),
    author: { kind: 'edition', number: edition },
  }
}
