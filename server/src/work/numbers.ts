import { orderKeys } from '@bluestem/core/definitions'
import type { Sequelize } from 'sequelize'
import type { ItemWrite } from '../items/change.ts'
import { reserveNumbers } from '../items/makeMany.ts'
import { holdProject, lastPosition } from '../items/place.ts'

const projectOf = ({ values }: ItemWrite): number | undefined =>
  // The column is one of numbers.
  values['project_id'] as number | undefined

/** Gives items that go to another project their numbers there, and the last places of its hand order, as they come. */
export async function withNumbers(
  database: Sequelize,
  writes: readonly ItemWrite[],
): Promise<readonly ItemWrite[]> {
  const projects = new Set(writes.flatMap((write) => projectOf(write) ?? []))
  let all = writes
  // Projects are held in their order, so that two who move between the same two never wait for each other.
  for (const project of [...projects].sort((a, b) => a - b)) {
    const moved = writes.filter((write) => projectOf(write) === project)
    await holdProject(database, project)
    const first = await reserveNumbers(database, project, moved.length)
    const places = orderKeys(moved.length, await lastPosition(database, project))
    const given = new Map(
      moved.map((write, index) => [
        write.id,
        { ...write.values, number: first + index, position: places[index] },
      ]),
    )
    all = all.map((write) => ({ ...write, values: given.get(write.id) ?? write.values }))
  }
  return all
}
