import { fold, replay, type PastMove, type Refused } from '@bluestem/core/definitions'
import type { Sequelize } from 'sequelize'
import { fieldColumn } from '../database/columns.ts'
import { rows } from '../database/connect.ts'
import { throughGate } from '../database/gate.ts'
import type { World } from '../database/world.ts'
import type { Acting } from '../work/find.ts'
import { columnOf } from '../sql/property.ts'
import type { Asking } from '../sql/statement.ts'
import { countedProjects, draftBy, onCurrent } from './drafts.ts'

/** How many refs are told of one finding: enough to open, few enough to travel. */
const mostRefs = 500

/**
 * What a draft's flows would have done to the moves really made in the last days: which they would have refused, and which items
 * would have failed a requirement.
 */
export async function replayDraft(database: Sequelize, acting: Acting, identity: string, days: number): Promise<object> {
  const draft = await draftBy(database, identity)
  const { changes } = await onCurrent(database, acting.world, draft)
  const document = fold(acting.world.document, changes)
  const since = new Date(acting.now.getTime() - days * 86_400_000)
  const moves = await pastMoves(database, acting.world, askedBy(acting.world.document, document), countedProjects(acting), since)
  const [then, now] = [replay(acting.world.document, moves), replay(document, moves)]
  const key = (one: Refused): string => `${one.type}:${one.from}:${one.to}:${one.why}`
  const before = new Map(then.refused.map((one) => [key(one), one.moves]))
  return {
    days, moves: now.moves,
    refused: now.refused.map(({ refs, ...one }) => ({ ...one, items: refs.length, refs: refs.slice(0, mostRefs), before: before.get(key({ ...one, refs })) ?? 0, words: words(one.why) })),
  }
}

const words = (why: Refused['why']): string => (why === 'flow' ? 'the flow has no such move' : why === 'filled' ? 'a field was empty' : why === 'role' ? 'somebody else made it' : why === 'been' ? 'it had not been where it must have been' : why === 'belowDone' ? 'something below was still open' : why === 'comment' ? 'nothing had been said' : 'no reason was given')

/** What must be known of a move to judge it: reading more of a hundred thousand moves than is asked would be slow. */
export interface Asked { readonly filled: readonly string[]; readonly belowDone: boolean; readonly comment: boolean; readonly been: boolean }

/** What the requirements of documents ask. */
function askedBy(...documents: readonly World['document'][]): Asked {
  const all = documents.flatMap((document) => Object.values(document.rulebooks)).flatMap((rulebook) => Object.values(rulebook.entries)).flatMap((entry) => (entry === 'out' || !entry.requires ? [] : [entry.requires]))
  return { filled: [...new Set(all.flatMap((one) => one.filled ?? []))], belowDone: all.some((one) => one.belowDone), comment: all.some((one) => one.comment), been: all.some((one) => one.been?.length) }
}

interface MoveRow { readonly id: number; readonly number: number; readonly project_id: number; readonly type_id: number; readonly before: number; readonly status_id: number; readonly by_id: number | null; readonly assignee_id: number | null; readonly commented: boolean; readonly reasoned: boolean; readonly been?: number[]; readonly open_below: number; readonly [filled: `filled${number}`]: boolean }

/** The moves made by people since a moment, with what was known of each item as it moved. Read once, in order of items and time. */
export async function pastMoves(database: Sequelize, world: World, asked: Asked, projects: readonly number[], since: Date): Promise<PastMove[]> {
  const columns = asked.filled.flatMap((field) => {
    const property = [...world.vocabulary.properties.values()].find((one) => one.handle === (world.document.fields[field]?.handle ?? field))
    const column = world.numbers.of('field', field) === undefined ? property && columnOf({ world } as Asking, property) : fieldColumn(world.numbers.of('field', field)!)
    return column ? [{ field, sql: property?.type.kind === 'array' ? `cardinality(s.${column}) > 0` : `s.${column} IS NOT NULL` }] : []
  })
  // Each state is told what went before it by windows over its item's states, sorted once.
  const found = await throughGate(database, async () => await rows<MoveRow>(database, `
    WITH a AS (
      SELECT id, number, project_id, type_id, status_id, by_id, by_kind, assignee_id, comment_count, valid_from, lag(status_id) OVER w AS before, lag(comment_count) OVER w AS comments_before${columns.map(({ sql }, index) => `, ${sql} AS filled${index}`).join('')}
      FROM item_state s WHERE project_id = ANY($1::int[]) AND id IN (SELECT id FROM item_state WHERE valid_from >= $2) WINDOW w AS (PARTITION BY id ORDER BY valid_from)),
    s AS (
      SELECT a.*, max(CASE WHEN status_id IS DISTINCT FROM before THEN valid_from END) OVER p AS entered${asked.been ? ', array_agg(status_id) OVER p AS been' : ''}
      FROM a WINDOW p AS (PARTITION BY id ORDER BY valid_from ROWS BETWEEN UNBOUNDED PRECEDING AND 1 PRECEDING))
    SELECT s.id, s.number, s.project_id, s.type_id, s.before, s.status_id, s.by_id, s.assignee_id, s.comment_count > coalesce(s.comments_before, 0) AS reasoned${asked.been ? ', s.been' : ''},
      ${asked.comment ? 'EXISTS (SELECT FROM comment c WHERE c.item_id = s.id AND c.at < s.valid_from AND c.at >= s.entered)' : 'false'} AS commented,
      ${asked.belowDone ? '(SELECT count(*)::int FROM item_state c WHERE c.parent_id = s.id AND c.valid_from <= s.valid_from AND c.valid_to > s.valid_from AND c.phase < 2 AND NOT c.deleted)' : '0'} AS open_below
      ${columns.map((_, index) => `, s.filled${index}`).join('')}
    FROM s WHERE s.before <> s.status_id AND s.by_kind = 0 AND s.valid_from >= $2`, [projects, since]))
  const people = new Map(world.people.map((one) => [one.number, one]))
  const codes = new Map(world.projects.map((project) => [project.number, project]))
  return found.map((row): PastMove => {
    const project = codes.get(row.project_id)!
    const person = row.by_id === null ? undefined : people.get(row.by_id)
    const been = new Set((row.been ?? []).map((number) => world.numbers.identity('status', number)!))
    return {
      ref: `${project.code}/${row.number}`, project: project.id, type: world.numbers.identity('type', row.type_id)!, from: world.numbers.identity('status', row.before)!, to: world.numbers.identity('status', row.status_id)!,
      roles: [...(person?.role === 'administrator' ? ['administrator' as const] : []), ...(person && (person.role === 'administrator' || project.keepers.has(person.number)) ? ['keeper of the project' as const] : []), ...(row.by_id !== null && row.by_id === row.assignee_id ? ['assignee' as const] : [])],
      filled: (field) => { const at = columns.findIndex((one) => one.field === field); return at >= 0 && row[`filled${at}`] === true },
      openBelow: row.open_below, commented: row.commented, reasoned: row.reasoned, been: (status) => been.has(status),
    }
  })
}
