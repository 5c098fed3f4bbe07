import type { Sequelize } from 'sequelize'
import { run } from '../database/connect.ts'
import type { World } from '../workspace/world.ts'
import { personId } from './events.ts'
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

/** Keeps the demo's teams and the calendar the inspectors work by. */
export async function keepTeams(database: Sequelize, world: World): Promise<void> {
  const day = [
    ['07:00', '12:00'],
    ['12:30', '16:30'],
  ]
  await run(
    database,
    `INSERT INTO calendar (identity, title, hours) VALUES ('ca_inspection', 'Inspection days', $1::jsonb)`,
    [JSON.stringify({ 2: day, 3: day, 4: day, 5: day, 6: [['07:00', '12:00']] })],
  )
  for (const { id, title, from, remit, calendar = null } of teams) {
    const members = people.flatMap((person, index) =>
      person.projects.includes(from) ? [personId(index + 1)] : [],
    )
    await run(
      database,
      'INSERT INTO team (identity, title, content, calendar_id) VALUES ($1, $2, $3::jsonb, (SELECT id FROM calendar WHERE identity = $4))',
      [id, title, JSON.stringify({ remit: keptFilter(world, title, remit) }), calendar],
    )
    await run(
      database,
      'INSERT INTO team_member (team_id, person_id) SELECT t.id, p.id FROM team t, person p WHERE t.identity = $1 AND p.identity = ANY($2::text[])',
      [id, members],
    )
  }
}
