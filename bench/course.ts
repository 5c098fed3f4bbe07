import type { Condition, Property } from '@bluestem/core/queries'
import { addDays, startOfDay } from '@bluestem/core/calendar'
import { queryContext, conditionOf, database, number, projects, today, world } from './world.ts'
import { type Result, show, sideBySide } from './measure.ts'
import { courseStatement } from '../server/src/sql/measure.ts'
import { rows } from '../server/src/database/connect.ts'
import { countStatement } from '../server/src/sql/answers.ts'

const days = 540

/** The end of each day. */
const bounds = Array.from(
  { length: days },
  (_, index) => new Date(startOfDay(addDays(today, index - days + 1), world.zone)),
)

interface CourseCase {
  readonly what: string
  readonly condition: Condition
  /** the same condition, as one would write it by hand */
  readonly handwritten: string
}

const yard = world.projects.find((project) => project.code === 'YARD')!.number
const cases: readonly CourseCase[] = [
  { what: 'everything', condition: conditionOf('TRUE'), handwritten: 'true' },
  {
    what: 'one project',
    condition: conditionOf("project = 'YARD'"),
    handwritten: `project_id = ${yard}`,
  },
  {
    what: 'defects',
    condition: conditionOf("type = 'Defect'"),
    handwritten: `type_id = ${number('type', 'ty_defect')}`,
  },
]

const countOver = (condition: Condition, by: Property | undefined) =>
  courseStatement(
    queryContext,
    condition,
    { figure: { kind: 'count' }, field: undefined },
    by,
    bounds,
  )

/** A course by phase beside one count of the states it reads. */
async function byPhase({ what, condition, handwritten }: CourseCase): Promise<Result> {
  const course = countOver(condition, world.vocabulary.properties.get('phase'))
  const last = bounds.at(-1)!.toISOString()
  const text = `SELECT count(*) FROM item_state WHERE project_id = ANY(${projects}) AND NOT deleted AND ${handwritten} AND valid_from < '${last}'`
  const [a, b] = await sideBySide(
    async () => await rows(database, course.sql, course.bind),
    async () => await rows(database, text),
    7,
  )
  return {
    what: `540 days by phase, ${what} / one count of the same states`,
    a,
    b,
    budget: 'by phase at most 6',
  }
}

/** Each day asked alone, beside the whole course in one pass. */
async function dayByDay({ what, condition }: CourseCase): Promise<Result> {
  const plain = countOver(condition, undefined)
  const asked = bounds.filter((_, index) => index % (days / 10) === 0)
  const [daily, pass] = await sideBySide(
    async () => {
      for (const day of asked) {
        const moment = { ...queryContext, asOf: true, moment: day.getTime() }
        const { sql, bind } = countStatement(moment, condition)
        await rows(database, sql, bind)
      }
    },
    async () => await rows(database, plain.sql, plain.bind),
    3,
  )
  return {
    what: `each day asked alone (10 days × 54) / one pass, ${what}`,
    a: daily * (days / asked.length),
    b: pass,
    budget: 'at least 50',
  }
}

/** What a course over time costs. */
export async function courseAgainstCount(): Promise<void> {
  const results: Result[] = []
  for (const courseCase of cases)
    results.push(await byPhase(courseCase), await dayByDay(courseCase))
  show('The course over 540 days', results)
}
