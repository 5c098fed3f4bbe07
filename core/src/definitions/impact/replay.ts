import { type Entering, unmet, type Unmet } from '../rulebook/requirement.ts'
import type { DefinitionsDocument } from '../document/document.ts'
import { type Flow, flowOf, typesOf } from '../rulebook/rulebook.ts'

/** Moves that were really made and are alike in all that a flow can ask, with what was known of their items as they moved. */
export interface PastMoves extends Entering {
  /** the item of each move: one that moved so twice stands here twice */
  readonly refs: readonly string[]
  readonly project: string
  readonly type: string
  readonly from: string
  readonly to: string
}

/** Moves of one kind that a document would not have let pass, with the items that made them. */
export interface Refused {
  readonly type: string
  readonly from: string
  readonly to: string
  /** why: the flow has no such move, or a part of the requirement is not met */
  readonly why: 'flow' | Unmet['kind']
  readonly moves: number
  readonly refs: readonly string[]
}

export interface Replayed {
  readonly moves: number
  readonly refused: readonly Refused[]
}

/**
 * What a document's flows would have done to the past: which moves they would have refused, and which items would have failed a
 * requirement. Each is judged as it happened, together with those alike; a move out of a status that the new flow no longer has is
 * not counted, for its items would have been mapped. One pass, whatever the number of moves.
 */
export function replay(document: DefinitionsDocument, past: Iterable<PastMoves>): Replayed {
  const flows = new Map<string, Flow | undefined>()
  const found = new Map<
    string,
    { why: Refused['why']; moves: PastMoves; count: number; refs: Set<string> }
  >()
  let count = 0
  for (const moves of past) {
    count += moves.refs.length
    const flow = flowFor(document, flows, moves)
    for (const why of flow ? judged(flow, moves) : []) {
      const key = `${moves.type}:${moves.from}:${moves.to}:${why}`
      const known = found.get(key) ?? { why, moves, count: 0, refs: new Set() }
      known.count += moves.refs.length
      for (const ref of moves.refs) known.refs.add(ref)
      found.set(key, known)
    }
  }
  const refused = [...found.values()].map(({ why, moves, count: made, refs }): Refused => ({
    type: moves.type,
    from: moves.from,
    to: moves.to,
    why,
    moves: made,
    refs: [...refs],
  }))
  return {
    moves: count,
    refused: refused.sort(
      (a, b) =>
        b.moves - a.moves ||
        (`${a.type}${a.from}${a.to}${a.why}` < `${b.type}${b.from}${b.to}${b.why}` ? -1 : 1),
    ),
  }
}

/** How many moves a document refuses that the one before let pass: each counts once, however many reasons there are. */
export function newlyRefused(
  before: DefinitionsDocument,
  after: DefinitionsDocument,
  past: Iterable<PastMoves>,
): number {
  const flows = {
    before: new Map<string, Flow | undefined>(),
    after: new Map<string, Flow | undefined>(),
  }
  const refuses = (flow: Flow | undefined, moves: PastMoves): boolean =>
    flow !== undefined && judged(flow, moves).length > 0
  let count = 0
  for (const moves of past) {
    const newly =
      refuses(flowFor(after, flows.after, moves), moves) &&
      !refuses(flowFor(before, flows.before, moves), moves)
    if (newly) count += moves.refs.length
  }
  return count
}

/** The flow an item of this project and type would be in; undefined where the project no longer has the type. */
function flowFor(
  document: DefinitionsDocument,
  flows: Map<string, Flow | undefined>,
  { project, type }: PastMoves,
): Flow | undefined {
  const rulebook = document.projects[project]
  if (!rulebook) return undefined
  const key = `${rulebook}:${type}`
  if (!flows.has(key))
    flows.set(
      key,
      typesOf(document, rulebook).includes(type) ? flowOf(document, rulebook, type) : undefined,
    )
  return flows.get(key)
}

function judged(flow: Flow, move: PastMoves): Refused['why'][] {
  if (!flow.statuses.includes(move.from)) return []
  if (!flow.moves.has(`${move.from}:${move.to}`)) return ['flow']
  const requirement = flow.requirements.get(move.to)
  return requirement ? unmet(requirement, move).map((part) => part.kind) : []
}
