import type { Sequelize } from 'sequelize'
import { rows } from '../database/connect.ts'
import { visibleProjects, type Person, type Project, type World } from '../database/world.ts'
import { notFound } from '../http/problem.ts'
import type { Row } from './row.ts'

/** Who acts, in which world, and when. */
export interface Acting { readonly world: World; readonly person: Person; readonly now: Date }

/** The ETag of an item is the instant its present state began. */
export const etagOf = (row: Row): string => `"${(row['row_from'] as Date).getTime()}"`

export interface StoredItem { readonly row: Row; readonly id: number; readonly project: Project }

/** The present row of an item by its ref, if the person may see it, locked when it is about to be changed. */
export async function find(database: Sequelize, { world, person }: Acting, ref: string, lock: '' | 'FOR UPDATE' = ''): Promise<StoredItem> {
  const [code, number] = ref.split('/')
  const project = world.projects.find((one) => one.code === code)
  if (!project || !visibleProjects(world, person).includes(project.number) || !/^[1-9]\d{0,8}$/.test(number ?? '')) throw notFound(`item ${ref}`)
  const [row] = await rows<Row>(database, `SELECT id, row_from, ${world.columns.join(', ')} FROM item WHERE project_id = $1 AND number = $2 AND NOT deleted ${lock}`, [project.number, Number(number)])
  if (!row) throw notFound(`item ${ref}`)
  return { row, id: row['id'] as number, project }
}

