import { elementAt, entryOf, firstIn } from '@bluestem/core/known'
import { offeredOf } from '@bluestem/core/definitions'
import {
  type FileReading,
  importable,
  type ImportAnswer,
  type LinkKinds,
  linkTargets,
  proposeColumns,
  proposeDayOrder,
} from '@bluestem/core/exchange'
import type { Sequelize } from 'sequelize'
import { modelsOf } from '../database/models/models.ts'
import { invalid, type ProblemDetail } from '../problems/problem.ts'
import type { ActorContext } from '../workspace/actor.ts'
import type { World } from '../workspace/world.ts'
import type { Project } from '../workspace/living.ts'
import type { CsvRecord } from './readCsv.ts'

/** how many values of a column are shown */
const shownSamples = 3
/** how many rows columns are guessed by */
const guessedBy = 200

/** The values of each column in the first rows, the empty ones left out. */
const samplesOf = (records: readonly CsvRecord[]): string[][] =>
  firstIn(records).cells.map((_, index) =>
    records
      .slice(1, guessedBy)
      .map(({ cells }) => (cells[index] ?? '').trim())
      .filter((cell) => cell !== ''),
  )

/** The headings of a file with their first values. */
export function columnsOf(records: readonly CsvRecord[]): ImportAnswer['columns'] {
  const samples = samplesOf(records)
  return firstIn(records).cells.map((heading, index) => ({
    heading,
    samples: elementAt(samples, index).slice(0, shownSamples),
  }))
}

/** The kinds of link that a project offers. */
export const linksOffered = ({ document }: World, { id }: Project): LinkKinds =>
  Object.fromEntries(
    offeredOf(document, entryOf(document.projects, id), 'link').flatMap((kind) => {
      const found = document.linkKinds[kind]
      return found ? [[kind, found] as const] : []
    }),
  )

/** What a column of a file for a project can become. */
const targetsIn = (world: World, project: Project): ReadonlySet<string> =>
  new Set([
    'ref',
    ...importable(world.vocabulary).map(({ handle }) => handle),
    ...linkTargets(linksOffered(world, project)).map(({ target }) => target),
  ])

/** How a file is read by its headings and values alone. */
function proposed(
  { world }: ActorContext,
  project: Project,
  records: readonly CsvRecord[],
): FileReading {
  const samples = samplesOf(records)
  const { vocabulary } = world
  const kinds = linksOffered(world, project)
  const columns = proposeColumns(firstIn(records).cells, samples, vocabulary, kinds)
  const days = proposeDayOrder(columns, samples, vocabulary) ?? 'YMD'
  return { columns, key: null, days }
}

const headingsOf = (columns: ImportAnswer['columns']): string =>
  JSON.stringify(columns.map(({ heading }) => heading))

/** How the last file with the same headings was read that came into a project. */
async function lastReading(
  database: Sequelize,
  { world, person }: ActorContext,
  project: Project,
  columns: ImportAnswer['columns'],
): Promise<FileReading | undefined> {
  const last = await modelsOf(database).importFile.findOne({
    attributes: ['reading', 'columns'],
    where: { byId: person.number, projectId: project.number, state: 'done' },
    order: [['id', 'DESC']],
  })
  const isSame = last && headingsOf(last.columns) === headingsOf(columns)
  const fields = targetsIn(world, project)
  const isKnown = last?.reading.columns.every((target) => target === null || fields.has(target))
  return isSame && isKnown ? last.reading : undefined
}

/** How a file is read until its reader says otherwise. */
export const firstReading = async (
  database: Sequelize,
  actor: ActorContext,
  project: Project,
  columns: ImportAnswer['columns'],
  records: readonly CsvRecord[],
): Promise<FileReading> =>
  (await lastReading(database, actor, project, columns)) ?? proposed(actor, project, records)

/** @throws Problem 400 where a column is to become what is no field, or two columns the same */
export function judgeReading(
  { world }: ActorContext,
  project: Project,
  reading: FileReading,
  columns: number,
): void {
  const fields = targetsIn(world, project)
  const targets = reading.columns.filter((target) => target !== null)
  const unknown = targets.filter((target) => !fields.has(target))
  const twice = targets.filter((target, index) => targets.indexOf(target) < index)
  const problems: ProblemDetail[] = [
    ...unknown.map((found) => ({
      pointer: '/columns',
      message: `No column can become “${found}”.`,
      expected: 'the handle of a field that can be given',
      found,
    })),
    ...twice.map((found) => ({
      pointer: '/columns',
      message: `Two columns become “${found}”; leave one of them out.`,
      expected: 'each field once',
      found,
    })),
    ...(reading.columns.length === columns
      ? []
      : [
          {
            pointer: '/columns',
            message: `The file has ${columns} columns; ${reading.columns.length} are said.`,
            expected: `${columns} columns`,
          },
        ]),
    ...(reading.key === null || targets.includes(reading.key)
      ? []
      : [
          {
            pointer: '/key',
            message: 'The key is no column of the file.',
            expected: 'one of the fields that columns become',
            found: reading.key,
          },
        ]),
  ]
  if (problems.length > 0) throw invalid(problems)
}
