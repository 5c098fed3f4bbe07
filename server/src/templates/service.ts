import { firstIn } from '@bluestem/core/known'
import { find, seen, seenTemplates, templateBy, type TemplateRow } from './read.ts'
import type { AnswerOf } from '@bluestem/core/contract'
import {
  blanksOf,
  mendTemplate,
  type NewTemplate,
  type Stale,
  staleParts,
  type TemplateAnswer,
  type TemplateContent,
  type TemplateGround,
} from '@bluestem/core/templates'
import { type Sequelize, Transaction } from 'sequelize'
import { inTransaction } from '../database/connect.ts'
import { modelsOf } from '../database/models/models.ts'
import { changeVersion } from '../database/versioned.ts'
import type { World } from '../workspace/world.ts'
import { forbidden, invalid, judgeMatch, notFound, refused } from '../problems/problem.ts'
import type { ActorContext } from '../workspace/actor.ts'
import { newIdentity } from '../workspace/identity.ts'
import { auditorOf } from '../audit/recorder.ts'
import { isKeeperOfProject, rulebooksKeptBy } from '../workspace/rights.ts'

const recorded = auditorOf('template')

export const templateEtag = ({ version }: { version: number }): string => `"${version}"`

/** What a template is judged against: the rulebook it belongs to, or the one its project follows. */
export function groundOf(
  world: World,
  template: Pick<TemplateRow, 'rulebook' | 'project'>,
): TemplateGround {
  const rulebook = template.rulebook ?? world.document.projects[template.project ?? ''] ?? ''
  return {
    document: world.document,
    rulebook,
    offered: (domain, id) => {
      if (domain === 'label')
        return world.labels.some(
          (label) =>
            label.id === id &&
            !label.retired &&
            (label.project === null || label.project === template.project),
        )
      if (domain === 'component')
        return world.components.some(
          (component) =>
            component.id === id && !component.retired && component.project === template.project,
        )
      if (domain === 'person') return id === 'me' || world.people.some((person) => person.id === id)
      return world.vocabulary.choice(domain, id) !== undefined
    },
  }
}

function mayKeep(
  { world, person }: ActorContext,
  template: Pick<TemplateRow, 'rulebook' | 'project'>,
): boolean {
  if (person.role === 'administrator') return true
  return template.project === null
    ? person.role === 'member' && rulebooksKeptBy(world, person).includes(template.rulebook ?? '')
    : isKeeperOfProject(world, person, template.project)
}

function shown(actor: ActorContext, row: TemplateRow): TemplateAnswer {
  const stales: readonly Stale[] = row.retired
    ? []
    : staleParts(row.content, groundOf(actor.world, row))
  return {
    id: row.identity,
    title: row.title,
    description: row.description,
    rulebook: row.rulebook,
    project: row.project,
    content: row.content,
    retired: row.retired,
    version: row.version,
    usedAt: row.usedAt?.toISOString() ?? null,
    changedAt: row.changedAt.toISOString(),
    stale: stales,
    blanks: blanksOf(row.content),
    mayEdit: mayKeep(actor, row),
  }
}

export async function templates(
  database: Sequelize,
  actor: ActorContext,
): Promise<AnswerOf<'GET /templates'>> {
  const found = await find(database, { where: seenTemplates(actor) })
  return { templates: found.map((row) => shown(actor, row)) }
}

export async function readTemplate(
  database: Sequelize,
  actor: ActorContext,
  id: string,
): Promise<{ body: TemplateAnswer; etag: string }> {
  const row = await templateBy(database, actor, id)
  return { body: shown(actor, row), etag: templateEtag(row) }
}

export interface TemplateGiven {
  readonly title?: string
  readonly description?: string
  readonly content?: TemplateContent
  readonly retired?: boolean
}

function judgeContent(
  actor: ActorContext,
  owner: Pick<TemplateRow, 'rulebook' | 'project'>,
  content: TemplateContent,
): void {
  const found = staleParts(content, groundOf(actor.world, owner))
  if (found.length > 0)
    throw invalid(
      found.map(({ pointer, message, mend }) => ({
        pointer: `/content${pointer}`,
        message,
        expected: mend ?? 'something the rulebook offers',
      })),
    )
}

type Owner = Pick<TemplateRow, 'rulebook' | 'project'>

/** The number of the project a new template belongs to, or null. @throws Problem where nobody may own it so */
function judgeOwner(actor: ActorContext, { rulebook, project }: Owner): number | null {
  const { world } = actor
  const pointer = '/rulebook'
  if ((rulebook === null) === (project === null))
    throw invalid([
      {
        pointer,
        message: 'A template belongs to a rulebook or to a project.',
        expected: 'one of them',
      },
    ])
  if (rulebook !== null && !world.document.rulebooks[rulebook])
    throw invalid([
      {
        pointer,
        message: 'There is no such rulebook.',
        expected: 'the identity of a rulebook',
        found: rulebook,
      },
    ])
  const number = project === null ? null : world.numbers.of('project', project)
  if (number === undefined || (number !== null && !seen(actor).includes(number)))
    throw notFound('project of this identity')
  if (!mayKeep(actor, { rulebook, project }))
    throw forbidden('Only the keepers of the rulebook or project make its templates.')
  return number
}

/** Makes a template of a rulebook or a project. */
export async function makeTemplate(
  database: Sequelize,
  actor: ActorContext,
  given: NewTemplate,
): Promise<{ body: TemplateAnswer; etag: string }> {
  const { person, now } = actor
  const { title, description = '', rulebook = null, content } = given
  const owner = { rulebook, project: given.project ?? null }
  const project = judgeOwner(actor, owner)
  judgeContent(actor, owner, content)
  const id = newIdentity('te')
  return await inTransaction(database, async () => {
    await modelsOf(database).template.create({
      identity: id,
      title: title.trim(),
      description,
      rulebook,
      projectId: project,
      content,
      changedAt: now,
      changedBy: person.number,
    })
    await recorded(database, actor, 'made a template', id, { after: { title } }, { project })
    return await readTemplate(database, actor, id)
  })
}

export async function changeTemplate(
  database: Sequelize,
  actor: ActorContext,
  id: string,
  given: TemplateGiven,
  match: string,
): Promise<{ body: TemplateAnswer; etag: string }> {
  const { person, now } = actor
  return await inTransaction(database, async () => {
    await modelsOf(database).template.findOne({
      where: { identity: id },
      lock: Transaction.LOCK.UPDATE,
    })
    const row = await templateBy(database, actor, id)
    if (!mayKeep(actor, row))
      throw forbidden('Only the keepers of its rulebook or project change this template.')
    judgeMatch(match, templateEtag(row), { title: row.title })
    if (given.content) judgeContent(actor, row, given.content)
    await changeVersion(modelsOf(database).template, id, '*', {
      title: given.title?.trim() || undefined,
      description: given.description,
      content: given.content,
      retired: given.retired,
      changedAt: now,
      changedBy: person.number,
    })
    await recorded(
      database,
      actor,
      given.retired ? 'retired a template' : 'changed a template',
      id,
      { before: { title: row.title, content: row.content }, after: given },
      { project: actor.world.numbers.of('project', row.project ?? '') ?? null },
    )
    return await readTemplate(database, actor, id)
  })
}

/** Takes out of a template what no longer fits. */
export async function mend(
  database: Sequelize,
  actor: ActorContext,
  id: string,
  match: string,
): Promise<{ body: TemplateAnswer; etag: string }> {
  const row = await templateBy(database, actor, id)
  const content = mendTemplate(row.content, groundOf(actor.world, row))
  const left = staleParts(content, groundOf(actor.world, row))
  if (left.length > 0)
    throw refused(
      `This takes a decision: ${firstIn(left).message}`,
      left.map(({ pointer, message }) => ({ pointer: `/content${pointer}`, message })),
    )
  return await changeTemplate(database, actor, id, { content }, match)
}
