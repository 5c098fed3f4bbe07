import { codeOf } from '../problems/failure.ts'
import { firstIn } from '@bluestem/core/known'
import { recordEdition } from './recordEdition.ts'
import {
  DefinitionsDocument,
  diff,
  fold,
  inWords,
  judgeSuccession,
  type Mapping,
  mappingNeeds,
  mappingsOf,
  openNeeds,
  validate,
} from '@bluestem/core/definitions'
import type { Sequelize } from 'sequelize'
import { inTransaction } from '../database/connect.ts'
import { closeGate, limitLockWait, oldestRunning } from '../sql/locks.ts'
import { project as projectTables } from './projection.ts'
import { atOnce } from '../items/remap.ts'
import { audit } from '../sql/audit.ts'
import { announce } from '../sql/outbox.ts'
import { judge } from '../http/judge.ts'
import { Problem, refused } from '../problems/problem.ts'
import type { ActorContext } from '../workspace/actor.ts'
import { placeOnBoards } from './boards.ts'
import { judgeVersion } from './drafts.ts'
import {
  closeDraft,
  type Draft,
  draftBy,
  draftEtag,
  rebasedChanges,
  judgeClashes,
} from './openDraft.ts'
import { fieldsWithOptions } from './describeDraft.ts'
import { projectTitles } from './editions.ts'
import { judgeDrafting, judgeRight } from '../workspace/rights.ts'
import { usageOf } from './usage.ts'
import { carryOut } from './carryOut.ts'
import { lockEdition } from '../workspace/edition.ts'
import { type CountedMapping, judgeSince } from './judgeSince.ts'

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
  actor: ActorContext,
  identity: string,
  publishing: Publishing,
): Promise<{ edition: number; mapping: number }> {
  judgeDrafting(actor)
  const until = performance.now() + 60_000
  for (let tries = 1; ; tries += 1) {
    try {
      return await publishOnce(database, actor, identity, publishing)
    } catch (error) {
      if (codeOf(error) !== '55P03') throw error
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
  actor: ActorContext,
  identity: string,
  { note, match, most = atOnce }: Publishing,
): Promise<{ edition: number; mapping: number }> {
  const { person, now } = actor
  const { whole: world } = actor.world
  // Counting takes long with many items, so it is done before anybody is held up; what changed since is looked at again below.
  const before = await oldestRunning(database)
  const counted = await draftBy(database, actor, identity)
  judgeVersion(counted, match)
  const ready = await readyToPublish(database, actor, counted)
  return await inTransaction(database, async () => {
    await closeGate(database, 5000)
    await limitLockWait(database, 150)
    const draft = await draftBy(database, actor, identity, 'for update')
    judgeVersion(draft, draftEtag(counted))
    if ((await lockEdition(database, 'UPDATE')) !== world.edition)
      throw refused(
        'Another edition was published at this moment; look at what it changed, then try again.',
        [],
        { retry: true },
      )
    const { document, mappings } = ready
    await judgeSince(database, actor, document, draft, before)
    const differences = diff(world.document, document)
    await projectTables(database, document)
    const number = world.edition + 1
    const words = differences.map((difference) =>
      inWords(world.document, document, difference, projectTitles(world)),
    )
    await recordEdition(database, actor, {
      document,
      words,
      paths: differences.map((difference) => difference.path),
      note,
    })
    await closeDraft(database, draft, now)
    await placeOnBoards(database, actor, document, draft.boards)
    const left = await carryOut(database, actor, document, number, mappings, most)
    await audit(
      database,
      person.number,
      'published',
      `edition ${number}`,
      { after: { note, words, mappings } },
      now,
    )
    await announce(database, 'edition', String(number), {}, now)
    return { edition: number, mapping: left }
  })
}

/** A draft that may become an edition now, with what it maps. @throws Problem that says what is missing */
export async function readyToPublish(
  database: Sequelize,
  actor: ActorContext,
  draft: Draft,
): Promise<{ document: DefinitionsDocument; mappings: readonly CountedMapping[] }> {
  const { whole: world } = actor.world
  const based = await rebasedChanges(database, world, draft)
  judgeClashes(based)
  const document = fold(world.document, based.changes)
  const differences = diff(world.document, document)
  if (differences.length === 0) throw refused('This draft changes nothing.')
  judgeRight(
    actor,
    differences.map((difference) => difference.path),
  )
  judge(DefinitionsDocument, document)
  const problems = [...validate(document), ...judgeSuccession(world.document, document)]
  if (problems.length > 0)
    throw refused(`This draft cannot be published yet: ${firstIn(problems).message}`, problems)
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
  const counted = (mapping: Mapping): number =>
    usage.held
      .filter(
        (held) =>
          held.column === mapping.column &&
          held.value === mapping.from &&
          mapping.projects.includes(held.project) &&
          mapping.types.includes(held.type),
      )
      .reduce((sum, held) => sum + held.items, 0)
  return {
    document,
    mappings: mappings.map((mapping) => ({ ...mapping, items: counted(mapping) })),
  }
}
