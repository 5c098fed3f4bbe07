import { certain, entryOf } from '../known/index.ts'
import { type JoiningRules, whyNotJoined } from '../work/joining.ts'
import { closing, type Edge } from './circles.ts'
import type { RowOutcome } from './judgeRows.ts'
import type { CellProblem, LinkGiven, RowGiven } from './row.ts'

/** A link that a row makes, by the refs of its ends. */
export interface RowLink extends Edge {
  readonly line: number
  readonly kind: string
}

/** What the links of rows are judged on. */
export interface LinkGround {
  readonly document: JoiningRules
  /** the ref of the item that a cell names by its ref or its key */
  readonly refOf: (name: string) => string | undefined
  /** the type of an item that may be seen, one that rows make among them */
  readonly typeOf: (ref: string) => string | undefined
  /** links that are there already; where a kind refuses circles, all that lead on from items of the file */
  readonly there: readonly (Edge & { readonly kind: string })[]
}

type Wish = RowLink & { readonly given: LinkGiven }

const keyOf = ({ kind, from, to }: Edge & { readonly kind: string }): string =>
  JSON.stringify([kind, from, to])

/**
 * The links that rows make, and what is wrong with the others. A link that is there already is not made again.
 *
 * @param outcomes what the rows do; one that is wrong makes no link
 */
export function judgeLinks(
  rows: readonly RowGiven[],
  outcomes: ReadonlyMap<number, RowOutcome>,
  ground: LinkGround,
): { readonly links: readonly RowLink[]; readonly problems: readonly CellProblem[] } {
  const problems: CellProblem[] = []
  const wishes: Wish[] = []
  for (const { line, links } of rows) {
    const outcome = outcomes.get(line)
    if (!outcome || outcome.kind === 'wrong') continue
    for (const given of links) {
      const wish = wishOf(line, outcome.ref, given, ground)
      if (typeof wish === 'string') problems.push(problemOf(line, given, wish))
      else wishes.push(wish)
    }
  }
  const known = new Set(ground.there.map(keyOf))
  const fresh = wishes.filter((wish) => {
    const key = keyOf(wish)
    if (known.has(key)) return false
    known.add(key)
    return true
  })
  const circles = closingWishes(fresh, ground)
  for (const { line, given, kind } of circles)
    problems.push(
      problemOf(
        line,
        given,
        `This would close a circle of “${entryOf(ground.document.linkKinds, kind).title}”.`,
      ),
    )
  return { links: fresh.filter((wish) => !circles.has(wish)), problems }
}

const problemOf = (line: number, { column, to }: LinkGiven, message: string): CellProblem => ({
  line,
  column,
  message,
  expected: 'the ref of an item, or the key of a row',
  found: to,
})

/** The link that a cell asks for, or why it cannot be. */
function wishOf(
  line: number,
  ref: string,
  given: LinkGiven,
  { document, refOf, typeOf }: LinkGround,
): Wish | string {
  const other = refOf(given.to)
  const otherType = other === undefined ? undefined : typeOf(other)
  if (other === undefined || otherType === undefined)
    return `There is no item ${given.to} to link with, or you may not see it, or its row is wrong.`
  if (other === ref) return 'An item is not linked with itself.'
  const own = { ref, type: certain(typeOf(ref), `type of ${ref}`) }
  const its = { ref: other, type: otherType }
  const [from, to] = given.direction === 'out' ? [own, its] : [its, own]
  const why = whyNotJoined(document, given.kind, { from: from.type, to: to.type })
  return why ?? { line, kind: given.kind, from: from.ref, to: to.ref, given }
}

/** The links that close a circle where their kind refuses them. */
function closingWishes(
  wishes: readonly Wish[],
  { document, there }: LinkGround,
): ReadonlySet<Wish> {
  const kinds = Object.entries(document.linkKinds)
  const refusing = kinds.flatMap(([kind, { refusesCircles }]) => (refusesCircles ? [kind] : []))
  return new Set(
    refusing.flatMap((kind) => [
      ...closing(
        there.filter((entry) => entry.kind === kind),
        wishes.filter((wish) => wish.kind === kind),
      ),
    ]),
  )
}
