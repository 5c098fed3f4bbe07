import { asRecord, entryOf, isRecord } from '@bluestem/core/known'
import type { AnswerOf } from '@bluestem/core/contract'
import {
  apply,
  chainOf,
  DefinitionsDocument,
  diff,
  type Difference,
  inWords,
  sections,
  succeed,
  validate,
  type CurrentAnswer,
  type DifferenceAnswer,
} from '@bluestem/core/definitions'
import type { Sequelize } from 'sequelize'
import type { EditionModel } from '../database/models/edition.ts'
import { modelsOf } from '../database/models/models.ts'
import type { World } from '../workspace/world.ts'
import { judge } from '../http/judge.ts'
import { invalid, notFound } from '../problems/problem.ts'
import type { ActorContext } from '../workspace/actor.ts'

/** The current document, its edition, and what was published last. */
export async function current(
  database: Sequelize,
  world: World,
): Promise<Omit<CurrentAnswer, 'keeps'>> {
  const { edition: editionModel, person } = modelsOf(database)
  const found = await editionModel.findOne({
    where: { number: world.edition },
    attributes: ['number', 'note', 'publishedAt'],
    include: [{ model: person, as: 'by' }],
    rejectOnEmpty: true,
  })
  const { number, note, publishedAt, by: publisher } = found
  const edition = {
    number,
    note,
    published_at: publishedAt.toISOString(),
    by: publisher?.name ?? null,
  }
  const mapping = world.mappings.map(({ edition: by, total, moved }) => ({
    edition: by,
    total,
    moved,
  }))
  return { edition, document: world.document, mapping }
}

interface PublishedChanges {
  readonly changes: readonly string[]
  readonly paths: readonly (readonly string[])[]
}

/** What an edition changed, in words; of what whoever asks may not see, only that something changed. */
const seenChanges = ({ hidden }: World, { changes, paths }: PublishedChanges): string[] =>
  changes.map((words, index) =>
    paths[index]?.some((part) => hidden.has(part))
      ? 'Something was changed that you may not see.'
      : words,
  )

/** Every edition: who published it, when, why, and what it changed, in words. */
export async function editions(
  database: Sequelize,
  world: World,
): Promise<AnswerOf<'GET /definitions/editions'>> {
  const { edition: editionModel, person } = modelsOf(database)
  const all = await editionModel.findAll({
    attributes: ['number', 'note', 'publishedAt', 'changes', 'paths'],
    include: [{ model: person, as: 'by' }],
    order: [['number', 'DESC']],
  })
  return {
    editions: all.map((edition) => ({
      number: edition.number,
      note: edition.note,
      published_at: edition.publishedAt.toISOString(),
      by: edition.by?.name ?? null,
      changes: seenChanges(world, edition),
    })),
  }
}

/** An edition by its number. @throws Problem 404 where there is none */
async function editionBy(database: Sequelize, number: number): Promise<EditionModel> {
  const isNumber = Number.isInteger(number) && Math.abs(number) < 2 ** 31
  const found = isNumber ? await modelsOf(database).edition.findByPk(number) : null
  if (!found) throw notFound(`edition ${number}`)
  return found
}

export const documentOf = async (
  database: Sequelize,
  number: number,
): Promise<DefinitionsDocument> => (await editionBy(database, number)).document

export async function edition(
  database: Sequelize,
  world: World,
  number: number,
): Promise<AnswerOf<'GET /definitions/editions/{number}'>> {
  const found = await editionBy(database, number)
  const { document, note, publishedAt } = found
  return {
    number,
    note,
    published_at: publishedAt.toISOString(),
    changes: seenChanges(world, found),
    document,
  }
}

export const projectTitles =
  (world: World) =>
  (id: string): string =>
    world.projects.find((project) => project.id === id)?.title ?? 'a project'

/** What is different from one edition to another, in words, entry by entry. */
export async function compareEditions(
  database: Sequelize,
  { world }: ActorContext,
  from: number,
  to: number,
): Promise<AnswerOf<'GET /definitions/editions/{number}/compare/{to}'>> {
  const [a, b] = [await documentOf(database, from), await documentOf(database, to)]
  return { from, to, changes: told(world, a, b, diff(a, b)) }
}

const told = (
  world: World,
  a: DefinitionsDocument,
  b: DefinitionsDocument,
  differences: readonly Difference[],
): DifferenceAnswer[] =>
  differences.map((difference) => ({
    path: difference.path,
    words: inWords(a, b, difference, projectTitles(world)),
    before: difference.before ?? null,
    after: difference.after ?? null,
  }))

/** The differences that lead from the current document to another, which keeps whatever was ever published: for files, and for going back. */
export function leadingTo({ whole: world }: World, document: unknown): Difference[] {
  judge(DefinitionsDocument, document)
  return diff(world.document, succeed(world.document, document))
}

/**
 * The document a file means: a whole one, or one rulebook with what it names, which is laid over the current document.
 * @throws Problem 400 with a pointer for every part that does not fit
 */
export function documentInFile({ whole: world }: World, file: unknown): DefinitionsDocument {
  if (!isRecord(file))
    throw invalid([
      {
        pointer: '',
        message: 'The file is not a JSON object.',
        expected: 'a document of definitions',
      },
    ])
  if (typeof file['rulebook'] !== 'string') return sound(world, file)
  const over = isRecord(file['definitions']) ? file['definitions'] : {}
  const whole: Record<string, unknown> = { ...world.document }
  for (const section of sections.filter((section) => over[section] !== undefined))
    whole[section] = { ...world.document[section], ...asRecord(over[section]) }
  return sound(world, whole)
}

/** What a document from outside makes of the current one, if it may become an edition. @throws Problem 400 with every place that does not fit */
function sound(world: World, document: unknown): DefinitionsDocument {
  judge(DefinitionsDocument, document)
  const next = succeed(world.document, document)
  const problems = validate(next)
  if (problems.length > 0) throw invalid(problems)
  return next
}

/** One rulebook as a file: itself, those it extends, and every entry it names. */
export function rulebookFile(
  world: World,
  rulebook: string,
): AnswerOf<'GET /definitions/rulebooks/{id}'> {
  const { document } = world
  if (!document.rulebooks[rulebook]) throw notFound('rulebook of this identity')
  const rulebooks = Object.fromEntries(
    chainOf(document, rulebook).map((id) => [id, entryOf(document.rulebooks, id)]),
  )
  const text = JSON.stringify(rulebooks)
  const named = (section: (typeof sections)[number]): object =>
    Object.fromEntries(Object.entries(document[section]).filter(([id]) => text.includes(id)))
  const ladders = named('ladders')
  const priorities = Object.fromEntries(
    Object.entries(document.priorities).filter(([id]) => JSON.stringify(ladders).includes(id)),
  )
  return {
    format: 1,
    rulebook,
    definitions: {
      ...Object.fromEntries(sections.map((section) => [section, named(section)])),
      priorities,
      rulebooks,
    },
  }
}

/** What a file would change, in words; nothing is kept. */
export function differencesOf(
  world: World,
  file: unknown,
): AnswerOf<'POST /definitions/differences'> {
  const differences = leadingTo(world, documentInFile(world, file))
  const { document } = world.whole
  return { changes: told(world, document, apply(document, differences), differences) }
}
