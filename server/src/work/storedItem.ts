import { asNumbers, certain, elementAt } from '@bluestem/core/known'
import type { Sequelize } from 'sequelize'
import {
  type Holds,
  type LockedRow,
  lockRows,
  movedItem,
  rowById,
  rowByNumber,
} from '../items/read.ts'
import { concerns, rewriteItems } from '../items/remap.ts'
import type { PendingMapping } from '../workspace/mappings.ts'
import type { World } from '../workspace/world.ts'
import type { Project } from '../workspace/living.ts'
import { visibleProjects } from '../workspace/visibility.ts'
import { notFound, Problem } from '../problems/problem.ts'
import { judgeEdition } from '../workspace/edition.ts'
import { type ItemRow, refOf } from '../items/row.ts'
import type { ActorContext } from '../workspace/actor.ts'

/** The instant of the state that a change is meant for; undefined for any. The edition has no part in it: new words are nobody's change. */
export const stateMeant = (match: string): number | undefined =>
  match === '*' ? undefined : Number(/^"(\d{1,15})(?:\.\d+)?"$/.exec(match)?.[1] ?? -1)

export interface StoredItem {
  readonly row: ItemRow
  readonly id: number
  readonly project: Project
}

/** Whether a text is the number of an item, as refs write it. */
export const isNumber = (text: string | undefined): boolean => /^[1-9]\d{0,8}$/.test(text ?? '')

/** The project and the number that a ref names; undefined where the person sees no such project. */
export function placeIn(
  { world, person }: ActorContext,
  ref: string,
): { readonly project: Project; readonly number: number } | undefined {
  const [code, number] = ref.split('/')
  const project = world.projects.find((project) => project.code === code)
  const sees = project && visibleProjects(world, person).includes(project.number)
  return sees && isNumber(number) ? { project, number: Number(number) } : undefined
}

/** @throws Problem 404 where the person sees no such project */
export function placeOf(
  actor: ActorContext,
  ref: string,
): { readonly project: Project; readonly number: number } {
  const place = placeIn(actor, ref)
  if (!place) throw notFound(`item ${ref}`)
  return place
}

/**
 * Holds publishing off, locks items and reads them: all in one statement, for an edit waits for each. The edition stands first, so
 * that it is locked before the items, as publishing locks them; what else an edit holds stands after them.
 *
 * @returns the items in the order of their refs @throws Problem 404 for the first that is not there
 */
export async function findToEdit(
  database: Sequelize,
  actor: ActorContext,
  refs: readonly string[],
  holds: Holds,
): Promise<StoredItem[]> {
  const { world } = actor
  const places = refs.map((ref) => placeOf(actor, ref))
  const found = await lockRows(
    database,
    world,
    places.map(({ project, number }) => ({ project: project.number, number })),
    holds,
  )
  const rows = new Map(found.map((row) => [refOf(world, row), row]))
  const items: StoredItem[] = []
  for (const [index, ref] of refs.entries()) {
    const row = rows.get(ref)
    if (!row) throw notFound(`item ${ref}`)
    items.push(await toEdit(database, actor, row, elementAt(places, index).project))
  }
  return items
}

/** A locked item as it is edited: of the edition at hand, and mapped. */
export async function toEdit(
  database: Sequelize,
  { world, now }: ActorContext,
  { edition, ...row }: LockedRow,
  project: Project,
): Promise<StoredItem> {
  judgeEdition(world, edition)
  return await settle(database, world, { row, id: row.id, project }, now)
}

/** The present row of an item by its ref, if the person may see it, locked when it is about to be changed. */
export async function findItem(
  database: Sequelize,
  actor: ActorContext,
  ref: string,
  lock: '' | 'FOR UPDATE' = '',
): Promise<StoredItem> {
  const { world, now } = actor
  const { project, number } = placeOf(actor, ref)
  const row = await rowByNumber(database, world, project.number, number, lock)
  if (!row) throw (await movedAway(database, actor, ref)) ?? notFound(`item ${ref}`)
  const found = { row, id: row.id, project }
  return lock === ''
    ? { ...found, row: asMapped(world.mappings, row) }
    : await settle(database, world, found, now)
}

/** Tells where an item is that went to another project; nothing where that may not be seen. */
async function movedAway(
  database: Sequelize,
  actor: ActorContext,
  ref: string,
): Promise<Problem | undefined> {
  const { world, person } = actor
  const { project, number } = placeOf(actor, ref)
  const moved = await movedItem(database, project.number, number)
  if (!moved || !visibleProjects(world, person).includes(moved.project_id)) return undefined
  const now = refOf(world, moved)
  const words = `${ref} went to another project; it is ${now} now.`
  return new Problem(404, 'Not found', words, [], { moved: now })
}

/** A row as mappings will leave it, or would have. */
export function asMapped(mappings: readonly PendingMapping[], row: ItemRow): ItemRow {
  return mappings.reduce<ItemRow>((all, mapping) => {
    if (!concerns(mapping, row)) return all
    const value = mapping.several
      ? [
          ...new Set(
            asNumbers(all[mapping.column]).flatMap((number) =>
              number === mapping.from ? (mapping.to ?? []) : number,
            ),
          ),
        ].sort((a, b) => a - b)
      : mapping.to
    return {
      ...all,
      [mapping.column]: value,
      ...(mapping.phase === null ? {} : { phase: mapping.phase }),
    }
  }, row)
}

/** An item that a mapping still concerns is mapped before anything else is written to it. */
async function settle(
  database: Sequelize,
  world: World,
  { row, id, project }: StoredItem,
  now: Date,
): Promise<StoredItem> {
  const mappings = world.mappings.filter((mapping) => concerns(mapping, row))
  if (mappings.length === 0) return { row, id, project }
  for (const mapping of mappings) await rewriteItems(database, world.columns, mapping, [id], now)
  const mapped = await rowById(database, world, id)
  return { row: certain(mapped, `item ${id}`), id, project }
}
