import { elementAt } from '@bluestem/core/known'
import { readJots } from '@bluestem/core/jots'
import type { Sequelize } from 'sequelize'
import type { JotModel } from '../database/models/jot.ts'
import { modelsOf } from '../database/models/models.ts'
import { people } from './people.ts'

/** What two people jotted down and did not file yet: by whom, how many hours ago, and the lines. */
const jotted = [
  {
    by: 'Mara Thiel',
    hoursAgo: 26,
    text: `Ask the surveyor for a date before the lay-up
Gangway wheels at Sellick squeal again
Haul out MV Linnet in February
\tMeasure plate thickness at frame 14
\tBlast below the waterline
\tNew anodes, port and starboard`,
  },
  {
    by: 'Tom Okafor',
    hoursAgo: 5,
    text: `Bilge alarm of MV Petrel came on twice, nothing found
Spare filters: only two left`,
  },
] as const

/** Keeps the unfiled lines of the demo. */
export async function keepDemoJots(database: Sequelize, now: Date): Promise<void> {
  for (const { by, hoursAgo, text } of jotted) {
    const at = new Date(now.getTime() - hoursAgo * 3_600_000)
    const byId = people.findIndex(({ name }) => name === by) + 1
    const kept: JotModel[] = []
    for (const [place, { title, above }] of readJots(text).entries())
      kept.push(
        await modelsOf(database).jot.create({
          identity: `jo_demo_${byId}_${place + 1}`,
          title,
          aboveId: above === null ? null : elementAt(kept, above).id,
          byId,
          at,
        }),
      )
  }
}
