import { firstIn, valueFor } from '@bluestem/core/known'
import {
  type CellProblem,
  type CheckImport,
  detectSeparator,
  linkTargets,
  type ImportAnswer,
  type ImportCheck,
  type NewImport,
  unknownChoices,
} from '@bluestem/core/exchange'
import type { Sequelize } from 'sequelize'
import type { ImportFileModel, LeftRow } from '../database/models/importFile.ts'
import { modelsOf } from '../database/models/models.ts'
import { nextNumber } from '../items/makeMany.ts'
import { addJob } from '../jobs/queue.ts'
import { notFound, refused } from '../problems/problem.ts'
import type { ActorContext } from '../workspace/actor.ts'
import { newIdentity } from '../workspace/identity.ts'
import { visibleProjects } from '../workspace/visibility.ts'
import type { Project } from '../workspace/living.ts'
import { projectGiven } from '../work/makeItem.ts'
import { type FileToJudge, groundOf, judgeRows, refsFrom, rowsGiven } from './judgeFile.ts'
import { effectOf, settleLinks } from './judgeLinks.ts'
import { type CsvRecord, filled, readCsv } from './readCsv.ts'
import { columnsOf, firstReading, judgeReading, linksOffered } from './reading.ts'

/** how many rows are looked at before it is told how far that is */
const toldEvery = 2000
/** how many problems, and how many values that are no choices, are told */
const mostTold = 1000

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
    reading: await firstReading(database, actor, project, columns, records),
    byId: person.number,
    at: now,
  })
  return answerOf(actor, file)
}

/** One’s own file. @throws Problem 404 */
async function fileBy(
  database: Sequelize,
  { person }: ActorContext,
  identity: string,
  only: { readonly attributes?: { exclude: string[] } } = {},
): Promise<ImportFileModel> {
  const where = { identity, byId: person.number }
  const file = await modelsOf(database).importFile.findOne({ where, ...only })
  if (!file) throw notFound('file of this identity')
  return file
}

/** What a file holds stays away where only how it stands is asked, again and again. */
const withoutContent = { attributes: { exclude: ['text', 'rest'] } }

export const recordsOf = ({ text, separator }: ImportFileModel): CsvRecord[] =>
  filled(text, separator)

/** The project a file is for. @throws Problem 404 where it is no longer to be seen */
export function projectOf({ world, person }: ActorContext, file: ImportFileModel): Project {
  const project = world.projects.find(({ number }) => number === file.projectId)
  if (!project || !visibleProjects(world, person).includes(project.number))
    throw notFound('such project')
  return project
}

const answerOf = (actor: ActorContext, file: ImportFileModel): ImportAnswer => ({
  id: file.identity,
  project: actor.world.numbers.identityOf('project', file.projectId),
  name: file.name,
  separator: file.separator,
  columns: file.columns,
  links: linkTargets(linksOffered(actor.world, projectOf(actor, file))),
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
  return answerOf(actor, await fileBy(database, actor, identity, withoutContent))
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
  const project = projectOf(actor, row)
  judgeReading(actor, project, reading, firstIn(records).cells.length)
  const file: FileToJudge = { project, records, reading }
  const counts = { made: 0, changed: 0, same: 0, wrong: 0 }
  const problems: CellProblem[] = []
  const rest: LeftRow[] = []
  await row.update({ done: 0 })
  const first = await nextNumber(database, project.number)
  const given = rowsGiven(actor, file)
  const ground = await groundOf(database, actor, file, given)
  const { rows, links } = await settleLinks(database, actor, file, given, ground, first)
  const linked = new Set(links.map(({ line }) => line))
  const nextRef = refsFrom(project, first)
  let done = 0
  await judgeRows(actor, file, rows, { ...ground.at, nextRef }, async (outcome) => {
    counts[effectOf(outcome, linked)] += 1
    if ((done += 1) % toldEvery === 0) await row.update({ done })
    if (outcome.kind !== 'wrong') return
    problems.push(...outcome.problems)
    rest.push({
      line: outcome.line,
      why: outcome.problems.map((problem) => problem.message).join(' '),
    })
  })
  await row.update({ reading, counts, rest, done, state: 'checked' })
  return {
    rows: records.length - 1,
    ...counts,
    links: links.length,
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
  const all = recordsOf(file)
  const why = new Map((file.rest ?? []).map((row) => [row.line, row.why]))
  const left = all.slice(1).filter(({ line }) => why.has(line))
  return {
    name: `left-${file.name.replace(/[^\w.-]+/g, '_')}`,
    rows: [
      [...firstIn(all).cells, 'What is wrong'],
      ...left.map(({ line, cells }) => [...cells, valueFor(why, line)]),
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
