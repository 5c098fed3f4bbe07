import { article, listed } from '../language/listed.ts'
import type { DefinitionsDocument } from '../definitions/document/document.ts'
import { type Flow, movesFrom } from '../definitions/rulebook/rulebook.ts'

/** Why a move is refused, in words, and where the item may go instead. */
export interface MoveRefusal {
  readonly message: string
  readonly allowed: readonly { readonly id: string; readonly title: string }[]
}

/** Whether a type's flow lets an item go from one status to another; undefined when it does. */
export function refuseMove(
  document: DefinitionsDocument,
  flow: Flow,
  from: string,
  to: string,
): MoveRefusal | undefined {
  const retired = document.statuses[to]?.retired === true
  if (from === to || (flow.statuses.includes(to) && flow.moves.has(`${from}:${to}`) && !retired))
    return undefined
  const title = (status: string): string => document.statuses[status]?.title ?? status
  const type = document.types[flow.type]?.title ?? flow.type
  const allowed = movesFrom(flow, from, document.statuses).map((id) => ({ id, title: title(id) }))
  const instead =
    allowed.length === 0
      ? 'Nothing leads on from there.'
      : `From ${title(from)} it may go to ${listed(allowed.map((entry) => entry.title))}.`
  if (retired && flow.statuses.includes(to))
    return {
      message: `${title(to)} is retired: what is in it stays, and nothing more enters it. ${instead}`,
      allowed,
    }
  const message = flow.statuses.includes(to)
    ? `${article(type)} ${type} does not go from ${title(from)} to ${title(to)}. ${instead}`
    : `${title(to)} is not in the flow of ${type}. ${instead}`
  return { message, allowed }
}
