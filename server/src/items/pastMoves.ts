import { elementAt, entryOf, valueFor } from '@bluestem/core/known'
import {
  type DefinitionsDocument,
  type PastMoves,
  requiredRoles,
  type Requirement,
} from '@bluestem/core/definitions'
import type { Sequelize } from 'sequelize'
import { rows } from '../database/connect.ts'
import { throughGate } from '../sql/locks.ts'
import { columnOf } from '../sql/property.ts'
import { fieldColumn } from '../workspace/columns.ts'
import type { World } from '../workspace/world.ts'

/** One part of what is known of a move: “filled:fi_cost”, “been:st_open”, “role:assignee”, “open below”, “commented” or “reasoned”. */
type Part = string
/** The parts that must be known to judge moves, each with the statuses whose entering asks for it: reading more would be slow. */
export type Asked = ReadonlyMap<Part, ReadonlySet<string>>

const partsOf = ({
  role,
  filled = [],
  belowDone,
  comment,
  reason,
  been = [],
}: Requirement): Part[] => [
  ...(role ? [`role:${role}`] : []),
  ...filled.map((field) => `filled:${field}`),
  ...(belowDone ? ['open below'] : []),
  ...(comment ? ['commented'] : []),
  ...(comment || reason ? ['reasoned'] : []),
  ...been.map((status) => `been:${status}`),
]

/** What the requirements of documents ask. */
export function askedBy(...documents: readonly DefinitionsDocument[]): Asked {
  const asked = new Map<Part, Set<string>>()
  for (const { entries } of documents.flatMap((document) => Object.values(document.rulebooks))) {
    for (const [key, entry] of Object.entries(entries)) {
      if (entry === 'out' || !entry.requires) continue
      for (const part of partsOf(entry.requires))
        asked.set(part, (asked.get(part) ?? new Set()).add(elementAt(key.split(':'), 2)))
    }
  }
  return asked
}

/** Whether who made a move is what a requirement may ask, over the state s it made. */
const whoMadeIt: Readonly<Record<NonNullable<Requirement['role']>, string>> = {
  assignee: 's.by_id = s.assignee_id',
  administrator: `s.by_id IN (SELECT id FROM person WHERE role = 'administrator')`,
  'keeper of the project': `s.by_id IN (SELECT id FROM person WHERE role = 'administrator') OR (s.project_id, s.by_id) IN (SELECT project_id, person_id FROM project_member WHERE keeper)`,
}

/** Whether a part holds of a move, over the state s it made; before and comments_before are of the state it left. */
function conditionOf(world: World, part: Part): string {
  const [what, id] = [part.slice(0, part.indexOf(':')), part.slice(part.indexOf(':') + 1)]
  if (what === 'role') return entryOf(whoMadeIt, id)
  if (what === 'filled') return filledCondition(world, id)
  if (what === 'been')
    return `EXISTS (SELECT FROM item_version v WHERE v.id = s.id AND v.valid_from < s.valid_from AND v.status_id = ${world.numbers.of('status', id) ?? -1})`
  if (part === 'reasoned') return 's.comment_count > s.comments_before'
  if (part === 'commented')
    return `EXISTS (SELECT FROM comment c WHERE c.item_id = s.id AND c.first_id IS NULL AND c.at < s.valid_from
    AND c.at >= coalesce((SELECT max(v.valid_to) FROM item_version v WHERE v.id = s.id AND v.valid_from < s.valid_from AND v.status_id <> s.before), '-infinity'))`
  return 'open_below.id IS NOT NULL'
}

function filledCondition(world: World, field: string): string {
  const number = world.numbers.of('field', field)
  const property = [...world.vocabulary.properties.values()].find(
    (property) => property.handle === (world.document.fields[field]?.handle ?? field),
  )
  const column =
    number === undefined ? property && columnOf({ world }, property) : fieldColumn(number)
  return !column
    ? 'false'
    : property?.type.kind === 'array'
      ? `cardinality(s.${column}) > 0`
      : `s.${column} IS NOT NULL`
}

interface MovesRow {
  readonly numbers: number[]
  readonly project_id: number
  readonly type_id: number
  readonly before: number
  readonly status_id: number
  readonly [part: `part${number}`]: boolean
}

/** The states in which something below was open. Past parents are under no index, so this is worked out for all states at once. */
const openBelow = `LEFT JOIN (
        SELECT DISTINCT p.id, p.valid_from FROM item_state p JOIN item_state c ON c.parent_id = p.id AND c.valid_from <= p.valid_from AND c.valid_to > p.valid_from
        WHERE p.valid_from >= $2 AND c.valid_to > $2 AND c.phase < 2 AND NOT c.deleted) open_below ON open_below.id = s.id AND open_below.valid_from = s.valid_from`

/**
 * The moves made by people since a moment, those together that are alike in what is asked: a hundred thousand moves are a few hundred
 * kinds. A state that a move since then left has ended since then, so older states need not be read for knowing it.
 */
export async function pastMoves(
  database: Sequelize,
  world: World,
  asked: Asked,
  projects: readonly number[],
  since: Date,
): Promise<PastMoves[]> {
  const parts = [...asked.keys()]
  const columns = [...asked].map(
    ([part, into], index) =>
      `s.status_id IN (-1${[...into].map((status) => `, ${world.numbers.of('status', status) ?? -1}`).join('')}) AND (${conditionOf(world, part)}) AS part${index}`,
  )
  const found = await throughGate(
    database,
    async () =>
      await rows<MovesRow>(
        database,
        `
    WITH s AS (
      SELECT *, lag(status_id) OVER w AS before, lag(comment_count) OVER w AS comments_before
      FROM item_state WHERE project_id = ANY($1::int[]) AND valid_to >= $2 WINDOW w AS (PARTITION BY id ORDER BY valid_from)),
    m AS (
      SELECT s.number, s.project_id, s.type_id, s.before, s.status_id${columns.map((column) => `, ${column}`).join('')}
      FROM s ${asked.has('open below') ? openBelow : ''} WHERE s.before <> s.status_id AND s.by_kind = 0 AND s.valid_from >= $2)
    SELECT array_agg(number) AS numbers, project_id, type_id, before, status_id${parts.map((_, index) => `, part${index}`).join('')}
    FROM m GROUP BY project_id, type_id, before, status_id${parts.map((_, index) => `, part${index}`).join('')}`,
        [projects, since],
      ),
  )
  const codes = new Map(world.projects.map((project) => [project.number, project]))
  return found.map((row): PastMoves => {
    const project = valueFor(codes, row.project_id)
    const has = (part: Part): boolean => row[`part${parts.indexOf(part)}`] === true
    return {
      refs: row.numbers.map((number) => `${project.code}/${number}`),
      project: project.id,
      type: world.numbers.identityOf('type', row.type_id),
      from: world.numbers.identityOf('status', row.before),
      to: world.numbers.identityOf('status', row.status_id),
      roles: requiredRoles.filter((role) => has(`role:${role}`)),
      filled: (field) => has(`filled:${field}`),
      openBelow: has('open below') ? 1 : 0,
      commented: has('commented'),
      reasoned: has('reasoned'),
      been: (status) => has(`been:${status}`),
    }
  })
}
