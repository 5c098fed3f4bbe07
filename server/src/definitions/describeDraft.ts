import { elementAt } from '@bluestem/core/known'
import {
  type Change,
  type DefinitionsDocument,
  fold,
  impact,
  inWords,
  judgeSuccession,
  openNeeds,
  restingOn,
  sidesOf,
  type Touched,
  validate,
  type DraftAnswer,
  type DraftChange,
} from '@bluestem/core/definitions'
import { visibleProjects } from '../workspace/visibility.ts'
import type { ActorContext } from '../workspace/actor.ts'
import type { Sequelize } from 'sequelize'
import { lastFailure } from '../jobs/queue.ts'
import { mayDefine } from '../workspace/rights.ts'
import { type Draft, draftEtag, rebasedChanges } from './openDraft.ts'
import { usageLately } from './recentUsage.ts'
import { clocksTouched, countChanges, type CountedChange, countTogether } from './touched.ts'
import type { World } from '../workspace/world.ts'
import { projectTitles } from './editions.ts'

/** Fields whose options changes touch: those are counted, option by option. */
export const fieldsWithOptions = (changes: readonly Pick<Change, 'path'>[]): string[] => [
  ...new Set(
    changes
      .filter(
        (change) =>
          change.path[0] === 'fields' &&
          (change.path[2] === undefined || change.path[2] === 'options'),
      )
      .map((change) => elementAt(change.path, 1)),
  ),
]
/** What is counted for somebody: the items of the projects they see. Administrators see all. */
export const countedProjects = ({ world, person }: ActorContext): number[] =>
  visibleProjects(world, person)
/** A draft as it travels: its changes in words with what each touches, what must still be answered, and what is wrong with its document. */
export async function describeDraft(
  database: Sequelize,
  actor: ActorContext,
  draft: Draft,
): Promise<{ body: DraftAnswer; etag: string }> {
  const { world } = actor
  const { changes, clashes } = await rebasedChanges(database, world, draft)
  const before = world.whole.document
  const document = fold(before, changes)
  const usage = await usageLately(database, world, countedProjects(actor), {
    optionsOf: fieldsWithOptions(changes),
  })
  const found = impact(before, document, changes, usage, draft.choices)
  const counted = await countChanges(database, actor, found.changes)
  const failed = await lastFailure(database, 'publish', draft.identity)
  return {
    etag: draftEtag(draft),
    body: {
      id: draft.identity,
      title: draft.title,
      base: draft.base,
      etag: draftEtag(draft),
      proposed: draft.proposed,
      shared: draft.shared,
      mine: draft.madeBy === actor.person.number,
      by: nameOf(world, draft.madeBy),
      at: draft.madeAt.toISOString(),
      document,
      mayPublish: changes.every((change) => mayDefine(actor, change.path)),
      changes: changes.map((change, index) => ({
        ...told(world, document, change, elementAt(counted, index)),
        undoable: restingOn(changes, change.id).length === 0,
      })),
      problems: [...validate(document), ...judgeSuccession(before, document)],
      clashes,
      needs: found.needs,
      open: openNeeds(found.needs, draft.choices).map((need) => need.key),
      choices: draft.choices,
      boards: draft.boards,
      touched: {
        ...namedBy(counted),
        items: await countTogether(database, actor, found.changes),
        clocks: await clocksTouched(database, actor, document, found.changes),
      },
      schedule: draft.publishAt && {
        at: draft.publishAt.toISOString(),
        by: nameOf(world, draft.publishBy),
        note: draft.publishNote,
      },
      failed: draft.publishAt ? null : failed,
    },
  }
}

export const nameOf = (world: World, number: number | null): string =>
  world.people.find((person) => person.number === number)?.name ?? ''
export function told(
  world: World,
  document: DefinitionsDocument,
  change: Change,
  touched: CountedChange,
): Omit<DraftChange, 'undoable'> {
  const by = world.people.find((person) => person.id === change.by)?.name ?? change.by
  return {
    id: change.id,
    by,
    at: change.at,
    path: change.path,
    words: inWords(world.whole.document, document, change, projectTitles(world)),
    sides: sidesOf(world.whole.document, document, change, projectTitles(world)),
    items: touched.items,
    ...(touched.filter ? { filter: touched.filter } : {}),
    named: touched.named,
    forms: touched.forms,
  }
}

/** Everything kept that any change of a draft concerns, counted by its kind. */
export function namedBy(changes: readonly Touched[]): Pick<DraftAnswer['touched'], 'named'> {
  const named = new Map(
    changes
      .flatMap((change) => change.named)
      .map((named) => [`${named.kind} ${named.id} ${named.title}`, named.kind]),
  )
  const kinds = [...named.values()]
  return {
    named: Object.fromEntries(
      [...new Set(kinds)].map((kind) => [kind, kinds.filter((text) => text === kind).length]),
    ),
  }
}
