import { asTextOrNull, entryOf } from '@bluestem/core/known'
import {
  type CellProblem,
  judgeLinks,
  type LinkGround,
  linkColumnOf,
  type RowGiven,
  type RowLink,
  type RowOutcome,
} from '@bluestem/core/exchange'
import type { Sequelize } from 'sequelize'
import { linksLeaving } from '../items/links.ts'
import type { ActorContext } from '../workspace/actor.ts'
import { type FileGround, type FileToJudge, isRef, judgeRows, refsFrom } from './judgeFile.ts'

/** The links that are there already, by refs; an item outside of the file goes by its id. */
async function linksThere(
  database: Sequelize,
  { world }: ActorContext,
  { reading }: FileToJudge,
  { items }: FileGround,
): Promise<LinkGround['there']> {
  const kinds = reading.columns.flatMap((target) => linkColumnOf(target)?.kind ?? [])
  const numberOf = (kind: string): number => world.numbers.numberOf('linkKind', kind)
  const refusing = kinds.filter((kind) => entryOf(world.document.linkKinds, kind).refusesCircles)
  const refs = new Map([...items].map(([ref, { id }]) => [id, ref]))
  const nameOf = (id: number): string => refs.get(id) ?? `#${id}`
  const found = await linksLeaving(database, kinds.map(numberOf), refusing.map(numberOf), [
    ...refs.keys(),
  ])
  return found.map(({ kind, from_id: from, to_id: to }) => ({
    kind: world.numbers.identityOf('linkKind', kind),
    from: nameOf(from),
    to: nameOf(to),
  }))
}

/** Rows with all that is wrong with their links besides. */
function withProblems(rows: readonly RowGiven[], problems: readonly CellProblem[]): RowGiven[] {
  const byLine = new Map<number, CellProblem[]>()
  for (const problem of problems)
    byLine.set(problem.line, [...(byLine.get(problem.line) ?? []), problem])
  return rows.map((row) => ({ ...row, wrong: [...row.wrong, ...(byLine.get(row.line) ?? [])] }))
}

/**
 * Judges the links of all rows before the rows themselves: a row whose link cannot be is wrong as a whole, and so is a row that asks for
 * a link with an item that only a wrong row would make.
 *
 * @param first the number that the first new item gets
 * @returns the rows with what is wrong with their links, and the links that the others make
 */
export async function settleLinks(
  database: Sequelize,
  actor: ActorContext,
  file: FileToJudge,
  rows: readonly RowGiven[],
  ground: FileGround,
  first: number,
): Promise<{ readonly rows: readonly RowGiven[]; readonly links: readonly RowLink[] }> {
  if (rows.every(({ links }) => links.length === 0)) return { rows, links: [] }
  const there = await linksThere(database, actor, file, ground)
  const { document } = actor.world
  for (let settled = rows; ;) {
    const outcomes = new Map<number, RowOutcome>()
    const nextRef = refsFrom(file.project, first)
    const judge = await judgeRows(actor, file, settled, { ...ground.at, nextRef }, (outcome) => {
      outcomes.set(outcome.line, outcome)
    })
    const made = typesOf(outcomes)
    const typeOf = (ref: string): string | undefined =>
      made.get(ref) ?? asTextOrNull(ground.at.known.items.get(ref)?.['type']) ?? undefined
    const refOf = (name: string): string | undefined =>
      judge.refOfKey(name) ?? (isRef(name.toUpperCase()) ? name.toUpperCase() : undefined)
    const judged = judgeLinks(settled, outcomes, { document, refOf, typeOf, there })
    if (judged.problems.length === 0) return { rows: settled, links: judged.links }
    settled = withProblems(settled, judged.problems)
  }
}

/** The types of the items that rows make or change, by ref. */
const typesOf = (outcomes: ReadonlyMap<number, RowOutcome>): ReadonlyMap<string, string> =>
  new Map(
    [...outcomes.values()].flatMap((outcome): [string, string][] => {
      if (outcome.kind === 'wrong') return []
      const after = outcome.kind === 'made' ? outcome.item : outcome.judged.after
      return [[outcome.ref, String(after['type'])]]
    }),
  )

/** A row that says nothing new but makes a link changes its item. */
export function effectOf(outcome: RowOutcome, linked: ReadonlySet<number>): RowOutcome['kind'] {
  return outcome.kind === 'same' && linked.has(outcome.line) ? 'changed' : outcome.kind
}
