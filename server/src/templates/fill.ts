import { asRecord, firstIn, valueFor } from '@bluestem/core/known'
import type { AnswerOf } from '@bluestem/core/contract'
import { dayOf } from '@bluestem/core/calendar'
import {
  type Filled,
  type FillingAnswer,
  fillTemplate,
  mendTemplate,
  type Stale,
  staleParts,
  type TemplateContent,
} from '@bluestem/core/templates'
import { calendarOf } from '../calendars/service.ts'
import { notFound, refused } from '../problems/problem.ts'
import type { ActorContext } from '../workspace/actor.ts'
import type { World } from '../workspace/world.ts'
import { groundOf } from './service.ts'
import { seen, templateBy, type TemplateRow } from './read.ts'
import type { Sequelize } from 'sequelize'
import { inTransaction } from '../database/connect.ts'
import { modelsOf } from '../database/models/models.ts'
import { linkItems } from '../work/links.ts'
import { makeInside } from '../work/makeItem.ts'

export interface Using {
  readonly project: string
  readonly blanks?: Readonly<Record<string, string>>
  readonly title?: string
  readonly over?: Readonly<Record<string, unknown>>
}

/** A template's items for a project, without what no longer fits, and what was left out. */
export function filledFor(
  actor: ActorContext,
  row: TemplateRow,
  { project: code, blanks = {} }: Using,
): {
  project: World['projects'][number]
  items: Filled[]
  left: readonly Stale[]
  content: TemplateContent
} {
  const { world, now } = actor
  const project = world.projects.find((project) => project.code === code || project.id === code)
  if (!project || !seen(actor).includes(project.number)) throw notFound('project of this code')
  const ground = groundOf(world, { rulebook: null, project: project.id })
  const left = staleParts(row.content, ground)
  const undecided = left.find((entry) => entry.mend === null)
  if (undecided)
    throw refused(
      `This template does not fit ${project.title}: ${undecided.message}`,
      left.map(({ pointer, message }) => ({ pointer, message })),
    )
  const content = mendTemplate(row.content, ground)
  return {
    project,
    left,
    content,
    items: fillTemplate(content, {
      today: dayOf(now.getTime(), world.zone),
      working: calendarOf(world, project.id),
      blanks,
    }),
  }
}

/** What a form is filled with when a template is opened in it. */
export async function fill(
  database: Sequelize,
  actor: ActorContext,
  id: string,
  using: Using,
): Promise<FillingAnswer> {
  const { items, left } = filledFor(actor, await templateBy(database, actor, id), using)
  return { item: firstIn(items), children: items.slice(1), left }
}

/** Makes a template's item with everything below it: all of them, or none. */
export async function makeFrom(
  database: Sequelize,
  actor: ActorContext,
  id: string,
  using: Using,
): Promise<AnswerOf<'POST /templates/{id}/make'>> {
  const row = await templateBy(database, actor, id)
  const { project, items, left, content } = filledFor(actor, row, using)
  return await inTransaction(database, async () => {
    const refs = new Map<string, string>()
    for (const item of items) {
      const parent = item.under === null ? undefined : refs.get(item.under)
      const title = item.under === null && using.title?.trim() ? using.title.trim() : item.title
      const over = item.under === null ? (using.over ?? {}) : {}
      const fields = {
        ...withMe(actor, item.fields),
        ...asRecord(over['fields']),
      }
      const given = {
        ...(item.description === undefined ? {} : { description: item.description }),
        ...withMe(actor, item.values),
        ...(parent ? { parent } : {}),
        ...over,
        ...(Object.keys(fields).length > 0 ? { fields } : {}),
        project: project.code,
        type: item.type,
        title,
      }
      refs.set(item.key, (await makeInside(database, actor, given, undefined)).ref)
    }
    for (const link of content.links)
      await linkItems(
        database,
        actor,
        link.kind,
        valueFor(refs, link.from),
        valueFor(refs, link.to),
      )
    await modelsOf(database).template.update({ usedAt: actor.now }, { where: { identity: id } })
    return { ref: valueFor(refs, 'item'), refs: [...refs.values()], left }
  })
}

export const withMe = (
  { person }: ActorContext,
  values: Readonly<Record<string, unknown>>,
): Record<string, unknown> =>
  Object.fromEntries(
    Object.entries(values).map(([handle, value]) => [
      handle,
      value === 'me'
        ? person.id
        : Array.isArray(value)
          ? value.map((entry: unknown) => (entry === 'me' ? person.id : entry))
          : value,
    ]),
  )
