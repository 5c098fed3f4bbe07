import { blanksOf, type TemplateContent } from '@bluestem/core/templates'
import type { ActorContext } from '../workspace/actor.ts'
import { visibleProjects } from '../workspace/visibility.ts'
import { type FindOptions, type InferAttributes, literal, Op, type Sequelize } from 'sequelize'
import type { TemplateModel } from '../database/models/template.ts'
import { modelsOf } from '../database/models/models.ts'
import type { World } from '../workspace/world.ts'
import type { OfferedTemplate } from '@bluestem/core/projects'
import { chainOf } from '@bluestem/core/definitions'
import { notFound } from '../problems/problem.ts'

export interface TemplateRow {
  readonly identity: string
  readonly title: string
  readonly description: string
  readonly rulebook: string | null
  readonly project: string | null
  readonly content: TemplateContent
  readonly retired: boolean
  readonly version: number
  readonly usedAt: Date | null
  readonly changedAt: Date
}

export const seen = (actor: ActorContext): readonly number[] =>
  visibleProjects(actor.world, actor.person)

/** Templates as they are read, with the project each belongs to. */
export async function find(
  database: Sequelize,
  options: FindOptions<InferAttributes<TemplateModel>>,
): Promise<TemplateRow[]> {
  const { project, template } = modelsOf(database)
  const found = await template.findAll({
    ...options,
    include: [{ model: project, as: 'project', attributes: ['identity'] }],
    order: [literal('template.title COLLATE "und-x-icu"'), 'id'],
  })
  return found.map((template) => ({
    identity: template.identity,
    title: template.title,
    description: template.description,
    rulebook: template.rulebook,
    project: template.project?.identity ?? null,
    content: template.content,
    retired: template.retired,
    version: template.version,
    usedAt: template.usedAt,
    changedAt: template.changedAt,
  }))
}

/** Templates of rulebooks, and of the projects whoever asks sees. */
export const seenTemplates = (actor: ActorContext) => ({
  projectId: { [Op.or]: [null, [...seen(actor)]] },
})

/** The templates that may be used in a project: its own, and those of the rulebooks it rests on. */
export async function templatesFor(
  database: Sequelize,
  actor: ActorContext,
  project: World['projects'][number],
): Promise<OfferedTemplate[]> {
  const { document } = actor.world
  const rulebooks = chainOf(document, document.projects[project.id] ?? '')
  const found = await find(database, {
    where: {
      retired: false,
      [Op.or]: [{ projectId: project.number }, { rulebook: rulebooks }],
    },
  })
  return found.map((row) => ({
    id: row.identity,
    title: row.title,
    description: row.description,
    type: row.content.item.type,
    below: row.content.children.length,
    blanks: blanksOf(row.content),
  }))
}

export async function templateBy(
  database: Sequelize,
  actor: ActorContext,
  id: string,
): Promise<TemplateRow> {
  const [row] = await find(database, { where: { identity: id, ...seenTemplates(actor) } })
  if (!row) throw notFound('template of this identity')
  return row
}
