import {
  queryContext,
  column,
  conditionOf,
  database,
  number,
  projects,
  today,
  world,
} from './world.ts'
import { addDays, startOfDay } from '@bluestem/core/calendar'
import { type Result, show, sideBySide } from './measure.ts'
import { pageStatement } from '../server/src/sql/answers.ts'
import { rows } from '../server/src/database/connect.ts'

/** the one project on the other ladder */
const fares = world.projects.find((project) => project.code === 'FARE')!.number

/** Eight questions of different kinds, each with the statement somebody would write by hand for it. */
export const questions: [string, string][] = [
  ["status = 'Waiting for parts'", `status_id = ${number('status', 'st_parts')}`],
  [
    "type = 'Defect' AND phase NOT IN ('done', 'dropped') AND rung <= 2",
    `type_id = ${number('type', 'ty_defect')} AND phase NOT IN (2, 3) AND ((project_id <> ${fares} AND priority_id IN (${number('priority', 'pi_stopped')}, ${number('priority', 'pi_risk')})) OR (project_id = ${fares} AND priority_id IN (${number('priority', 'pi_now')}, ${number('priority', 'pi_next')})))`,
  ],
  ['cost_of_parts > 500', `${column('cost_of_parts')} > 500`],
  ["has_label('ramp')", `labels @> ARRAY[${number('label', 'la_free1')}]`],
  ["CASEI(title) LIKE CASEI('%hinge%')", `lower(title) LIKE '%hinge%'`],
  ["due < today() AND phase IN ('idle', 'active')", `due_date < '${today}' AND phase IN (0, 1)`],
  [
    `created >= DATE('${addDays(today, -90)}') AND project = 'YARD'`,
    `created_at >= '${new Date(startOfDay(addDays(today, -90), world.zone)).toISOString()}' AND project_id = ${world.projects.find((project) => project.code === 'YARD')!.number}`,
  ],
  [
    '(estimate IS NULL OR estimate > 8) AND NOT on_hold = TRUE AND safety_relevant = TRUE',
    `(estimate IS NULL OR estimate > 8) AND NOT on_hold AND ${column('safety_relevant')}`,
  ],
]

export async function compiledAgainstHandwritten(): Promise<void> {
  const results: Result[] = []
  for (const [filter, predicate] of questions) {
    const page = pageStatement(
      queryContext,
      conditionOf(filter),
      [{ property: world.vocabulary.properties.get('changed')!, direction: 'down' }],
      { limit: 100, offset: 0 },
      (alias) => [`${alias}.id`, `${alias}.title`],
    )
    const where = `project_id = ANY(${projects}) AND NOT deleted AND ${predicate}`
    const byHand = `SELECT x.id, x.title, m.total, m.changed_at FROM (SELECT id, changed_at, (SELECT count(*) FROM item WHERE ${where}) AS total FROM item WHERE ${where} ORDER BY changed_at DESC, id LIMIT 100) m JOIN item x USING (id) ORDER BY m.changed_at DESC, m.id`
    const [a, b] = await Promise.all([
      rows<{ id: number; total: number }>(database, page.sql, page.bind),
      rows<{ id: number; total: number }>(database, byHand),
    ])
    if (
      JSON.stringify(a.map((row) => [row.id, row.total])) !==
      JSON.stringify(b.map((row) => [row.id, row.total]))
    )
      throw new Error(`compiled and handwritten disagree on ${filter}`)
    const [compiled, handwritten] = await sideBySide(
      async () => await rows(database, page.sql, page.bind),
      async () => await rows(database, byHand),
      15,
    )
    results.push({ what: filter.slice(0, 57), a: compiled, b: handwritten, budget: 'at most 1.25' })
  }
  show('Compiled query / handwritten statement (100 rows and the exact total)', results)
}
