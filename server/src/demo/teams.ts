import type { Sequelize } from 'sequelize'
import { modelsOf } from '../database/models/models.ts'
import type { World } from '../workspace/world.ts'
import { keptFilter } from './filter.ts'
import { people } from './people.ts'

/** The demo's teams, by the project their people are from: what is theirs, and the calendar they work by when it is not their project's. */
const teams: readonly {
  readonly id: string
  readonly title: string
  readonly from: string
  readonly remit: string
  readonly calendar?: string
}[] = [
  {
    id: 'tm_yard',
    title: 'Yard crew',
    from: 'YARD',
    remit: "project = 'YARD' AND type <> 'Inspection'",
  },
  { id: 'tm_shore', title: 'Shore crew', from: 'PIER', remit: "project = 'PIER'" },
  { id: 'tm_desk', title: 'Timetable desk', from: 'CREW', remit: "project = 'CREW'" },
  { id: 'tm_apps', title: 'Apps crew', from: 'FARE', remit: "project = 'FARE'" },
  {
    id: 'tm_inspectors',
    title: 'Inspectors',
    from: 'SAFE',
    remit: "type IN ('Inspection', 'Finding')",
    calendar: 'ca_inspection',
  },
]

type Window = readonly [from: string, to: string]

/** Keeps the demo's teams and the calendar the inspectors work by. */
export async function keepTeams(database: Sequelize, world: World): Promise<void> {
  const models = modelsOf(database)
  const day: Window[] = [
    ['07:00', '12:00'],
    ['12:30', '16:30'],
  ]
  const inspection = await models.calendar.create({
    identity: 'ca_inspection',
    title: 'Inspection days',
    hours: { 2: day, 3: day, 4: day, 5: day, 6: [['07:00', '12:00']] },
  })
  for (const { id, title, from, remit, calendar = null } of teams) {
    const team = await models.team.create({
      identity: id,
      title,
      content: { remit: keptFilter(world, title, remit) },
      calendarId: calendar === inspection.identity ? inspection.id : null,
    })
    const members = people.flatMap((person, index) =>
      person.projects.includes(from) ? [index + 1] : [],
    )
    await models.teamMember.bulkCreate(members.map((personId) => ({ teamId: team.id, personId })))
  }
}
