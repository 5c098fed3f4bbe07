import { unitOf } from '@bluestem/core/definitions'
import { finishedFor, sumBelow, type TreeAnswer, type TreeRow } from '@bluestem/core/tree'
import type { Sequelize } from 'sequelize'
import { choiceShown, refOf } from '../items/row.ts'
import { foldedCount, type TreeAsked, type TreeItemRow, treeRows } from '../items/treeRows.ts'
import { notFound } from '../problems/problem.ts'
import { queryContextOf } from '../sql/queryContext.ts'
import { findItem } from '../work/storedItem.ts'
import type { ActorContext } from '../workspace/actor.ts'
import { visibleProjects } from '../workspace/visibility.ts'
import type { World } from '../workspace/world.ts'

/** How many rows are told at once; what is left is told below a place of its own. */
const mostRows = 10_000

/** What of a tree is asked for. */
export interface TreeQuery {
  readonly above?: string
  readonly depth?: string
  readonly finished?: 'folded' | 'shown'
  readonly 'as-of'?: string
}

/** The kinds that make one item wait for another: those in which nothing may wait for itself. */
const waitingKinds = ({ document, numbers }: World): number[] =>
  Object.entries(document.linkKinds)
    .filter(([, kind]) => kind.refusesCircles)
    .map(([id]) => numbers.numberOf('linkKind', id))

const unitIn =
  (world: World) =>
  (project: number): ReturnType<typeof unitOf> => {
    const found = world.projects.find(({ number }) => number === project)
    const rulebook = found && world.document.projects[found.id]
    return rulebook ? unitOf(world.document, rulebook) : 'hours'
  }

function rowOf(world: World, row: TreeItemRow, refs: ReadonlyMap<number, string>): TreeRow {
  const project = world.numbers.identityOf('project', row.project_id)
  const shown = (domain: 'type' | 'status', number: number): TreeRow['type'] =>
    choiceShown(world, domain, world.numbers.identityOf(domain, number), project)
  const titleOf = (kind: number): string =>
    world.document.linkKinds[world.numbers.identityOf('linkKind', kind)]?.title ?? ''
  return {
    ref: refOf(world, row),
    parent: row.parent_id === null ? null : (refs.get(row.parent_id) ?? null),
    title: row.title,
    type: shown('type', row.type_id),
    status: shown('status', row.status_id),
    assignee: world.people.find(({ number }) => number === row.assignee_id)?.name ?? null,
    onHold: row.on_hold,
    waits: row.waits.map((wait) => ({ id: refOf(world, wait), title: titleOf(wait.kind) })),
    directly: row.directly,
    below: sumBelow(row.below, unitIn(world)),
  }
}

/** The tree of a project, or what stands below one of its items, now or as of a moment. */
export async function readTree(
  database: Sequelize,
  actor: ActorContext,
  code: string,
  { above, depth = '2', finished = 'folded', 'as-of': asOf }: TreeQuery,
): Promise<TreeAnswer> {
  const { world, person, now } = actor
  const visible = visibleProjects(world, person)
  const project = world.projects.find((project) => project.code === code)
  if (!project || !visible.includes(project.number)) throw notFound('project of this code')
  const queryContext = queryContextOf(world, person, now, asOf)
  const asked: TreeAsked = {
    project: project.number,
    above: above === undefined ? null : (await findItem(database, actor, above)).id,
    depth: Number(depth),
    since: finished === 'shown' ? null : new Date(queryContext.moment - finishedFor * 86_400_000),
    waiting: waitingKinds(world),
    limit: mostRows,
  }
  const found = await treeRows(database, queryContext, asked)
  const refs = new Map(found.map((row) => [row.id, refOf(world, row)]))
  if (asked.above !== null && above !== undefined) refs.set(asked.above, above)
  return {
    rows: found.map((row) => rowOf(world, row, refs)),
    folded: await foldedCount(database, queryContext, asked),
    more: found.length === mostRows,
  }
}
