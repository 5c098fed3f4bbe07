import { asTextOrNull } from '@bluestem/core/known'
import type { WholeItemAnswer } from '@bluestem/core/work'
import { isComputed } from '@bluestem/core/definitions'
import {
  mendTemplate,
  type Stale,
  staleParts,
  type TemplateContent,
  type TemplateGround,
} from '@bluestem/core/templates'
import type { Sequelize } from 'sequelize'
import { readItem } from '../work/readItem.ts'
import { findItem } from '../work/storedItem.ts'
import type { ActorContext } from '../workspace/actor.ts'
import { bare } from './apply.ts'
import { groundOf } from './service.ts'

/** What a template takes of an item beside its title, type and description. */
const takenHandles = ['priority', 'labels', 'components', 'assignee', 'estimate']

const isEmpty = (value: unknown): boolean =>
  value === null || value === undefined || (Array.isArray(value) && value.length === 0)

/** Values as a template holds them, without the empty ones. */
const filled = (entries: readonly (readonly [string, unknown])[]): Record<string, unknown> =>
  Object.fromEntries(
    entries
      .map(([handle, value]) => [handle, bare(value)] as const)
      .filter(([, value]) => !isEmpty(value)),
  )

/** One item as a node of a template, and the refs of what stands directly below it. */
async function nodeOf(
  database: Sequelize,
  actor: ActorContext,
  ref: string,
): Promise<Pick<TemplateContent, 'item'> & { children: WholeItemAnswer['children'] }> {
  const { body } = await readItem(database, actor, ref)
  const { title, type, children } = body
  const description = asTextOrNull(body['description'])
  const computed = new Set(
    Object.values(actor.world.document.fields)
      .filter((field) => isComputed(field.kind))
      .map((field) => field.handle),
  )
  const own = Object.entries(body.fields ?? {}).filter(([handle]) => !computed.has(handle))
  return {
    item: {
      title,
      type: type.id,
      ...(description ? { description } : {}),
      values: filled(takenHandles.map((handle) => [handle, body[handle]])),
      fields: filled(own),
    },
    children,
  }
}

/** How many children of an item a template takes. */
const mostChildren = 200

/** A template made from an item that exists, with what stands below it if wished. */
export async function contentFrom(
  database: Sequelize,
  actor: ActorContext,
  ref: string,
  withChildren: boolean,
): Promise<{ content: TemplateContent; left: readonly Stale[] }> {
  const top = await nodeOf(database, actor, ref)
  const below = withChildren ? top.children.slice(0, mostChildren) : []
  const children = await Promise.all(
    below.map(async (child, index) => {
      const { item } = await nodeOf(database, actor, child.ref)
      return { key: `c${index + 1}`, ...item }
    }),
  )
  const { project } = await findItem(database, actor, ref)
  const ground = groundOf(actor.world, { rulebook: null, project: project.id })
  return fitting({ item: top.item, children, links: [] }, ground)
}

/** A template without what does not fit its rulebook, and what that was: values are taken out, and children that no mend helps. */
export function fitting(
  content: TemplateContent,
  ground: TemplateGround,
): { content: TemplateContent; left: readonly Stale[] } {
  const left = staleParts(content, ground)
  const undecided = new Set(
    left
      .filter((part) => part.mend === null)
      .map((part) => part.pointer.split('/').slice(0, 3).join('/')),
  )
  const kept = {
    ...content,
    children: content.children.filter((_, index) => !undecided.has(`/children/${index}`)),
  }
  return { content: mendTemplate(kept, ground), left }
}
