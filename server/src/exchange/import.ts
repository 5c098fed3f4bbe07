import {
  type CellProblem,
  type CheckImport,
  detectSeparator,
  type FileReading,
  importable,
  type ImportAnswer,
  type ImportCheck,
  type NewImport,
  proposeColumns,
  proposeDayOrder,
  unknownChoices,
} from '@bluestem/core/exchange'
import type { Sequelize } from 'sequelize'
import type { ImportFileModel, LeftRow } from '../database/models/importFile.ts'
import { modelsOf } from '../database/models/models.ts'
import { nextNumber } from '../items/makeMany.ts'
import { addJob } from '../jobs/queue.ts'
import { invalid, notFound, type ProblemDetail, refused } from '../problems/problem.ts'
import type { ActorContext } from '../workspace/actor.ts'
import { newIdentity } from '../workspace/identity.ts'
import { visibleProjects } from '../workspace/visibility.ts'
import type { Project, World } from '../workspace/world.ts'
import { projectGiven } from '../work/makeItem.ts'
import { type FileToJudge, groundOf, judgeRows, rowsGiven } from './judgeFile.ts'
import { type CsvRecord, filled, readCsv } from './readCsv.ts'

/** how many values of a column are shown */
const shownSamples = 3
/** how many rows columns are guessed by */
const guessedBy = 200
/** how many problems are told */
const mostTold = 200

/** The values of each column in the first rows, the empty ones left out. */
const samplesOf = (records: readonly CsvRecord[]): string[][] =>
  records[0]!.cells.map((_, index) =>
    records
      .slice(1, guessedBy)
      .map(({ cells }) => (cells[index] ?? '').trim())
      .filter((cell) => cell !== ''),
  )

/** Takes a file in and says what its columns are taken for. Nothing is made of it yet. */
export async function takeFile(
  database: Sequelize,
  actor: ActorContext,
  { project: given, name, text, separator = detectSeparator(text) }: NewImport,
): Promise<ImportAnswer> {
  const { person, now } = actor
  const project = projectGiven(actor, given)
  const records = readCsv(text, separator)
  const columns = columnsOf(records)
  const file = await modelsOf(database).importFile.create({
    identity: newIdentity('im'),
    projectId: project.number,
    name,
    text,
    separator,
    columns,
    rows: records.length - 1,
    reading: (await lastReading(database, actor, project, columns)) ?? proposed(actor, records),
    byId: person.number,
    at: now,
  })
  return answerOf(actor, file)
}

/** How a file is read by its headings and values alone. */
function proposed({ world }: ActorContext, records: readonly CsvRecord[]): FileReading {
  const samples = samplesOf(records)
  const columns = proposeColumns(records[0]!.cells, samples, world.vocabulary)
  const days = proposeDayOrder(columns, samples, world.vocabulary) ?? 'YMD'
  return { columns, key: null, days }
}

const headingsOf = (columns: ImportAnswer['columns']): string =>
  JSON.stringify(columns.map(({ heading }) => heading))

/** The headings of a file with their first values. */
function columnsOf(records: readonly CsvRecord[]): ImportAnswer['columns'] {
  const samples = samplesOf(records)
  return records[0]!.cells.map((heading, index) => ({
    heading,
    samples: samples[index]!.slice(0, shownSamples),
  }))
}

/** What a column can become. */
const targetsIn = ({ vocabulary }: World): ReadonlySet<string> =>
  new Set(['ref', ...importable(vocabulary).map(({ handle }) => handle)])

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
  const fields = targetsIn(world)
  const isKnown = last?.reading.columns.every((target) => target === null || fields.has(target))
  return isSame && isKnown ? last.reading : undefined
}

/** One’s own file. @throws Problem 404 */
async function fileBy(
  database: Sequelize,
  { person }: ActorContext,
  identity: string,
): Promise<ImportFileModel> {
  const where = { identity, byId: person.number }
  const file = await modelsOf(database).importFile.findOne({ where })
  if (!file) throw notFound('file of this identity')
  return file
}

export const recordsOf = ({ text, separator }: ImportFileModel): CsvRecord[] =>
  filled(text, separator)

/** The project a file is for. @throws Problem 404 where it is no longer to be seen */
export function projectOf({ world, person }: ActorContext, file: ImportFileModel): Project {
  const project = world.projects.find(({ number }) => number === file.projectId)
  if (!project || !visibleProjects(world, person).includes(project.number))
    throw notFound('such project')
  return project
}

const answerOf = ({ world }: ActorContext, file: ImportFileModel): ImportAnswer => ({
  id: file.identity,
  project: world.numbers.identityOf('project', file.projectId),
  name: file.name,
  separator: file.separator,
  columns: file.columns,
  rows: file.rows,
  reading: file.reading,
  state: file.state,
  done: file.done,
  counts: file.counts,
  reason: file.reason,
})

export async function readImport(
  database: Sequelize,
  actor: ActorContext,
  identity: string,
): Promise<ImportAnswer> {
  return answerOf(actor, await fileBy(database, actor, identity))
}

/** @throws Problem 400 where a column is to become what is no field, or two columns the same */
function judgeReading({ world }: ActorContext, reading: FileReading, columns: number): void {
  const fields = targetsIn(world)
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

/** What the rows of a file would do, and everything that is wrong with them; nothing is made. */
export async function checkImport(
  database: Sequelize,
  actor: ActorContext,
  identity: string,
  reading: CheckImport,
): Promise<ImportCheck> {
  const row = await fileBy(database, actor, identity)
  const records = recordsOf(row)
  judgeReading(actor, reading, records[0]!.cells.length)
  const project = projectOf(actor, row)
  const file: FileToJudge = { project, records, reading }
  const counts = { made: 0, changed: 0, same: 0, wrong: 0 }
  const problems: CellProblem[] = []
  const rest: LeftRow[] = []
  let number = await nextNumber(database, project.number)
  const rows = rowsGiven(actor, file)
  const { at } = await groundOf(database, actor, file, rows)
  const nextRef = (): string => `${project.code}/${(number += 1) - 1}`
  await judgeRows(actor, file, rows, { ...at, nextRef }, (outcome) => {
    counts[outcome.kind] += 1
    if (outcome.kind !== 'wrong') return
    problems.push(...outcome.problems)
    rest.push({ line: outcome.line, why: outcome.problems.map((one) => one.message).join(' ') })
  })
  await row.update({ reading, counts, rest, state: 'checked' })
  return {
    rows: records.length - 1,
    ...counts,
    problems: problems.sort((a, b) => a.line - b.line).slice(0, mostTold),
    problemCount: problems.length,
    unknown: unknownChoices(rows, actor.world.vocabulary).slice(0, mostTold),
  }
}

/** Brings a file in that was checked, as a job. @throws Problem 409 where rows are wrong and the good ones alone were not asked for */
export async function beginImport(
  database: Sequelize,
  actor: ActorContext,
  identity: string,
  goodOnly: boolean,
): Promise<ImportAnswer> {
  const file = await fileBy(database, actor, identity)
  if (file.state !== 'checked')
    throw refused('Look first at what the rows would do; then they can come in.')
  if (!goodOnly && (file.counts?.wrong ?? 0) > 0)
    throw refused(
      'Some rows are wrong. Mend the file and bring it anew, or let the good rows come in alone.',
    )
  const { person, now } = actor
  await file.update({ state: 'waiting', goodOnly, done: 0, reason: null })
  const job = {
    kind: 'import',
    subject: identity,
    at: now,
    by: person.number,
    total: file.rows,
  } as const
  await addJob(database, job, now)
  return answerOf(actor, file)
}

/** The rows that did not come in, as a file with what is wrong with each. */
export async function restOf(
  database: Sequelize,
  actor: ActorContext,
  identity: string,
): Promise<{ readonly rows: string[][]; readonly name: string }> {
  const file = await fileBy(database, actor, identity)
  const [head, ...records] = recordsOf(file)
  const why = new Map((file.rest ?? []).map((row) => [row.line, row.why]))
  const left = records.filter(({ line }) => why.has(line))
  return {
    name: `left-${file.name.replace(/[^\w.-]+/g, '_')}`,
    rows: [
      [...head!.cells, 'What is wrong'],
      ...left.map(({ line, cells }) => [...cells, why.get(line)!]),
    ],
  }
}

/** Forgets a file that is not at work. What came in from it stays. */
export async function forgetImport(
  database: Sequelize,
  actor: ActorContext,
  identity: string,
): Promise<void> {
  const file = await fileBy(database, actor, identity)
  if (file.state === 'waiting' || file.state === 'at work')
    throw refused('The file is coming in; it can be forgotten once it is done.')
  await file.destroy()
}
