import { certain, elementAt, valueFor } from '@bluestem/core/known'
import { unitOf } from '@bluestem/core/definitions'
import {
  type FinishIteration,
  type Outcome,
  outcomeOf,
  type PlannedItem,
  type SpanAnswer,
} from '@bluestem/core/iterations'
import type { Sequelize } from 'sequelize'
import { plannedRows, type PlannedRow, type SpanKind } from '../items/span.ts'
import { refOf } from '../items/row.ts'
import { invalid, refused } from '../problems/problem.ts'
import { editMany } from '../work/editItem.ts'
import { problemOf } from '../work/refusal.ts'
import type { ActorContext } from '../workspace/actor.ts'
import { visibleProjects } from '../workspace/visibility.ts'
import type { World } from '../workspace/world.ts'

/** An iteration or a release, as the tables hold it. */
export interface StoredSpan {
  readonly id: number
  readonly identity: string
  readonly title: string
  readonly startDate: string | null
  readonly endDate: string | null
  readonly goal: string
  readonly startedAt: Date | null
  readonly finishedAt: Date | null
  readonly version: number
}

/** The phases by the numbers that items keep. */
const [doneNumber, droppedNumber] = [2, 3]

const stateOf = ({ startedAt, finishedAt }: StoredSpan): SpanAnswer['state'] =>
  finishedAt ? 'finished' : startedAt ? 'running' : 'planned'

/** A span as it is told, with how many items it has. */
export function spanShown(span: StoredSpan, { items, done } = { items: 0, done: 0 }): SpanAnswer {
  const { identity, title, startDate, endDate, goal, startedAt, finishedAt, version } = span
  return {
    id: identity,
    title,
    start: startDate,
    end: endDate,
    goal,
    state: stateOf(span),
    startedAt: startedAt?.toISOString() ?? null,
    finishedAt: finishedAt?.toISOString() ?? null,
    items,
    done,
    version,
  }
}

function plannedItem(world: World, row: PlannedRow): PlannedItem {
  const project = certain(
    world.projects.find(({ number }) => number === row.project_id),
    'project of an item',
  )
  const rulebook = world.document.projects[project.id]
  return {
    ref: refOf(world, row),
    isDone: row.phase === doneNumber,
    isOpen: row.phase < droppedNumber && row.phase !== doneNumber,
    isInside: row.inside,
    isCommitted: row.committed,
    unit: rulebook === undefined ? 'hours' : unitOf(world.document, rulebook),
    estimate: row.estimate,
  }
}

/** What became of a span: how its items stand, or stood just before it was finished. */
export async function outcomeIn(
  database: Sequelize,
  { world, person, now }: ActorContext,
  kind: SpanKind,
  { id, startedAt, finishedAt }: StoredSpan,
): Promise<Outcome> {
  // A state that begins at this very moment is there already.
  const until = finishedAt ?? new Date(now.getTime() + 1)
  const projects = visibleProjects(world, person)
  const rows = await plannedRows(database, kind, id, projects, startedAt, until)
  return outcomeOf(rows.map((row) => plannedItem(world, row)))
}

/** @throws Problem where a span was started before, or its days are over */
export function judgeStart({ title, startedAt, endDate }: StoredSpan, today: string): void {
  if (startedAt) throw refused(`“${title}” was started before.`)
  if (endDate !== null && endDate < today)
    throw refused(`“${title}” ended on ${endDate}. Give it later days before it is started.`)
}

/** @throws Problem where a span was not started, or was finished before */
export function judgeFinish({ title, startedAt, finishedAt }: StoredSpan): void {
  if (!startedAt) throw refused(`“${title}” was not started yet.`)
  if (finishedAt) throw refused(`“${title}” was finished before.`)
}

interface Move {
  readonly ref: string
  readonly to: string | null
}

/** Where each open item goes; those that stay where they are are left out. @throws Problem where a place or an item is none */
function movesOf(
  { world }: ActorContext,
  kind: SpanKind,
  identity: string,
  open: readonly string[],
  { to, others = [] }: FinishIteration,
): Move[] {
  const known = new Set(world.source[`${kind}s`].map(({ id }) => id))
  const isWrong = (place: string | null): boolean => place !== null && !known.has(place)
  const message = `There is no such ${kind}.`
  const wrong = [
    ...(isWrong(to) ? [{ pointer: '/to', message }] : []),
    ...others.flatMap((other, index) => [
      ...(isWrong(other.to) ? [{ pointer: `/others/${index}/to`, message }] : []),
      ...(open.includes(other.ref)
        ? []
        : [
            {
              pointer: `/others/${index}/ref`,
              message: `${other.ref} is not open in this ${kind}.`,
            },
          ]),
    ]),
  ]
  if (wrong.length > 0) throw invalid(wrong)
  const placeOf = new Map(others.map((other) => [other.ref, other.to]))
  return open
    .map((ref) => ({ ref, to: placeOf.has(ref) ? valueFor(placeOf, ref) : to }))
    .filter((move) => move.to !== identity)
}

/**
 * Takes what is open in a span where it is said to go, all or nothing.
 *
 * @returns the refs of what went elsewhere
 */
export async function moveOpen(
  database: Sequelize,
  actor: ActorContext,
  kind: SpanKind,
  span: StoredSpan,
  given: FinishIteration,
): Promise<readonly string[]> {
  const { open } = await outcomeIn(database, actor, kind, span)
  const moves = movesOf(actor, kind, span.identity, open.refs, given)
  const changes = moves.map(({ ref, to }) => ({ ref, change: { [kind]: to } }))
  const { judged } = await editMany(database, actor, changes)
  const kept = judged.findIndex(({ ok }) => !ok)
  const refusal = judged[kept]
  if (refusal && !refusal.ok) {
    const { message } = problemOf(refusal.refusal)
    throw refused(`${elementAt(moves, kept).ref} cannot go elsewhere: ${message}`)
  }
  return moves.map(({ ref }) => ref)
}
