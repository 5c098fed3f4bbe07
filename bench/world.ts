import { connect } from '../server/src/database/connect.ts'
import { Worlds } from '../server/src/workspace/world.ts'
import { readStamp } from '../server/src/sql/stamp.ts'
import { dayOf } from '@bluestem/core/calendar'
import type { QueryContext } from '../server/src/sql/statement.ts'
import { readQuery } from '@bluestem/core/queries'

const url = process.env['BLUESTEM_BENCH_URL']!

export const origin = process.env['BLUESTEM_ORIGIN']!

export const database = connect(url, { statementTimeout: 0 })

export const world = await new Worlds(database, readStamp).now()

export const today = dayOf(Date.now(), world.zone)

export const queryContext: QueryContext = {
  world,
  me: 1,
  moment: Date.now(),
  asOf: false,
  visible: world.projects.map((project) => project.number),
}

export const projects = `ARRAY[${queryContext.visible.join(',')}]::int[]`

export const number = (domain: 'status' | 'type' | 'priority' | 'label', id: string): number =>
  world.numbers.of(domain, id)!

export const column = (handle: string): string =>
  `f${world.numbers.of('field', Object.entries(world.document.fields).find(([, field]) => field.handle === handle)![0])}`

export const conditionOf = (filter: string) => {
  const read = readQuery({ lang: 'cql2-text', filter }, world.vocabulary)
  if (!read.ok) throw new Error(read.errors[0]!.message)
  return read.value.condition
}
