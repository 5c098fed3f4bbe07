import { certain, elementAt, firstIn, valueFor } from '@bluestem/core/known'
import type { AnswerOf } from '@bluestem/core/contract'
import {
  type FileJots,
  type JotAnswer,
  type JotLine,
  mostJots,
  readJots,
} from '@bluestem/core/jots'
import type { Sequelize } from 'sequelize'
import { inTransaction } from '../database/connect.ts'
import type { JotModel } from '../database/models/jot.ts'
import { modelsOf } from '../database/models/models.ts'
import { invalid, notFound, Problem, type ProblemDetail } from '../problems/problem.ts'
import { makeInside } from '../work/makeItem.ts'
import type { ActorContext } from '../workspace/actor.ts'
import { newIdentity } from '../workspace/identity.ts'

/** how long the title of an item may be, in characters */
const longest = 300

function answerOf(jots: readonly JotModel[]): JotAnswer[] {
  const identityOf = new Map(jots.map(({ id, identity }) => [id, identity]))
  return jots.map(({ identity, title, aboveId, at }) => ({
    id: identity,
    title,
    above: (aboveId && identityOf.get(aboveId)) ?? null,
    at: at.toISOString(),
  }))
}

/** What somebody jotted and did not file yet, as they wrote it. */
export async function jotsOf(
  database: Sequelize,
  { person }: ActorContext,
): Promise<AnswerOf<'GET /jots'>> {
  const jots = await modelsOf(database).jot.findAll({
    where: { byId: person.number },
    order: ['id'],
  })
  return { jots: answerOf(jots) }
}

/** The lines of a text to jot. @throws Problem where there are none, too many, or one is too long for a title */
function linesOf(text: string): JotLine[] {
  const lines = readJots(text)
  if (lines.length === 0)
    throw invalid([{ pointer: '/text', message: 'There is no title in what was written.' }])
  if (lines.length > mostJots)
    throw invalid([
      {
        pointer: '/text',
        message: `These are ${lines.length} titles; at most ${mostJots} are jotted at once. Bring more in as a file.`,
      },
    ])
  const tooLong = lines.flatMap(({ title }, index): ProblemDetail[] =>
    title.length > longest
      ? [
          {
            pointer: '/text',
            message: `Title ${index + 1}, “${title.slice(0, 40)}…”, has ${title.length} characters; at most ${longest} fit.`,
          },
        ]
      : [],
  )
  if (tooLong.length > 0) throw invalid(tooLong)
  return lines
}

/** Keeps titles as jots, each below the one it is written below. */
export async function keepJots(
  database: Sequelize,
  { person, now }: ActorContext,
  text: string,
): Promise<AnswerOf<'POST /jots'>> {
  const lines = linesOf(text)
  return await inTransaction(database, async () => {
    const kept: JotModel[] = []
    for (const { title, above } of lines)
      kept.push(
        await modelsOf(database).jot.create({
          identity: newIdentity('jo'),
          title,
          aboveId: above === null ? null : elementAt(kept, above).id,
          byId: person.number,
          at: now,
        }),
      )
    return { jots: answerOf(kept) }
  })
}

/** @throws Problem 404 where nobody, or somebody else, jotted it */
async function ownJot(
  database: Sequelize,
  { person }: ActorContext,
  identity: string,
): Promise<JotModel> {
  const jot = await modelsOf(database).jot.findOne({ where: { identity, byId: person.number } })
  if (!jot) throw notFound('such jot')
  return jot
}

export async function renameJot(
  database: Sequelize,
  actor: ActorContext,
  identity: string,
  title: string,
): Promise<JotAnswer> {
  const jot = await ownJot(database, actor, identity)
  await jot.update({ title: firstIn(linesOf(title.replace(/\s+/gu, ' '))).title })
  const { jots } = await jotsOf(database, actor)
  return certain(
    jots.find((jot) => jot.id === identity),
    'jot that was just renamed',
  )
}

/** Drops a jot; what stood below it stands by itself. */
export async function dropJot(
  database: Sequelize,
  actor: ActorContext,
  identity: string,
): Promise<void> {
  const jot = await ownJot(database, actor, identity)
  await jot.destroy()
}

/** What kept one of several jots from being filed, told at its place. */
function placed(error: unknown, jot: JotModel, index: number): unknown {
  if (!(error instanceof Problem)) return error
  const parts = error.errors.length > 0 ? error.errors : [{ message: error.message }]
  const told = parts.map((part) => ({
    ...part,
    pointer: `/jots/${index}${part.pointer ?? ''}`,
    message: `“${jot.title}”: ${part.message}`,
  }))
  return new Problem(error.status, error.title, told.map((entry) => entry.message).join(' '), told)
}

/** Files jots as items of a project, all or none. @throws Problem with each jot that cannot become what was asked */
export async function fileJots(
  database: Sequelize,
  actor: ActorContext,
  { project, jots }: FileJots,
): Promise<string[]> {
  return await inTransaction(database, async () => {
    const found = await modelsOf(database).jot.findAll({
      where: { identity: jots.map(({ id }) => id), byId: actor.person.number },
      lock: true,
    })
    const jotOf = new Map(found.map((jot) => [jot.identity, jot]))
    const missing = jots.findIndex(({ id }) => !jotOf.has(id))
    if (missing >= 0)
      throw invalid([
        {
          pointer: `/jots/${missing}`,
          message:
            'One of these was filed or dropped meanwhile; look at what is left, and file again.',
        },
      ])
    const refOf = new Map<number, string>()
    for (const [index, { id, type }] of jots.entries()) {
      const jot = valueFor(jotOf, id)
      const parent = jot.aboveId === null ? undefined : refOf.get(jot.aboveId)
      try {
        const { ref } = await makeInside(
          database,
          actor,
          { project, type, title: jot.title, ...(parent ? { parent } : {}) },
          undefined,
        )
        refOf.set(jot.id, ref)
      } catch (error) {
        throw placed(error, jot, index)
      }
    }
    await modelsOf(database).jot.destroy({ where: { id: [...refOf.keys()] } })
    return [...refOf.values()]
  })
}
