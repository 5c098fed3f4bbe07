import { isDay } from '@bluestem/core/calendar'
import type { AnswerOf } from '@bluestem/core/contract'
import type { AbsenceAnswer, NewAbsence } from '@bluestem/core/iterations'
import type { Sequelize } from 'sequelize'
import type { AbsenceModel } from '../database/models/absence.ts'
import { modelsOf } from '../database/models/models.ts'
import { forbidden, invalid, noSuchPerson, notFound } from '../problems/problem.ts'
import { isNumber } from '../work/storedItem.ts'
import type { ActorContext } from '../workspace/actor.ts'
import type { World } from '../workspace/world.ts'
import type { Person } from '../workspace/living.ts'

function shown(world: World, absence: AbsenceModel): AbsenceAnswer {
  const person = world.people.find(({ number }) => number === absence.personId)
  return {
    id: absence.id,
    person: { id: person?.id ?? '', title: person?.name ?? '' },
    start: absence.startDate,
    end: absence.endDate,
    note: absence.note,
  }
}

/** The days on which people are away, the earliest first. */
export async function absences(
  database: Sequelize,
  { world }: ActorContext,
): Promise<AnswerOf<'GET /absences'>> {
  const found = await modelsOf(database).absence.findAll({ order: ['startDate', 'id'] })
  return { absences: found.map((absence) => shown(world, absence)) }
}

/** @throws Problem 403 where somebody else is meant, but for administrators */
function judgeOwn({ person }: ActorContext, number: number): void {
  if (number !== person.number && person.role !== 'administrator')
    throw forbidden('Everybody tells their own absences; those of others are an administrator’s.')
}

/** What is wrong with the first and the last day of a span, at their places in a request. */
export function judgeDays(start: string, end: string): void {
  const wrong = [['/start', start] as const, ['/end', end] as const].filter(
    ([, day]) => !isDay(day),
  )
  if (wrong.length > 0)
    throw invalid(
      wrong.map(([pointer, found]) => ({
        pointer,
        message: `${found} is no day.`,
        expected: 'a day such as 2026-03-31',
        found,
      })),
    )
  if (end < start)
    throw invalid([
      {
        pointer: '/end',
        message: 'The last day comes before the first.',
        expected: `${start} or a later day`,
        found: end,
      },
    ])
}

export async function addAbsence(
  database: Sequelize,
  actor: ActorContext,
  { person: id, start, end, note = '' }: NewAbsence,
): Promise<AbsenceAnswer> {
  const person: Person | undefined = actor.world.people.find((person) => person.id === id)
  if (!person) throw invalid([noSuchPerson('/person', id)])
  judgeOwn(actor, person.number)
  judgeDays(start, end)
  const made = await modelsOf(database).absence.create({
    personId: person.number,
    startDate: start,
    endDate: end,
    note: note.trim(),
  })
  return shown(actor.world, made)
}

export async function dropAbsence(
  database: Sequelize,
  actor: ActorContext,
  id: string,
): Promise<void> {
  const absence = isNumber(id)
    ? await modelsOf(database).absence.findOne({ where: { id: Number(id) } })
    : null
  if (!absence) throw notFound('such absence')
  judgeOwn(actor, absence.personId)
  await absence.destroy()
}
