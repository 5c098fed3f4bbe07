import {
  mendTemplate,
  type Stale,
  staleParts,
  type TemplateContent,
  type TemplateGround,
} from '@bluestem/core/templates'
import type { Sequelize } from 'sequelize'
import { readItem } from '../work/readItem.ts'
import { find } from '../work/storedItem.ts'
import type { ActorContext } from '../workspace/actor.ts'
import { bare } from './apply.ts'
import { groundOf } from './service.ts'

/** A template made from an item that exists, with what stands below it if wished. */

export async function contentFrom(
  database: Sequelize,
  acting: ActorContext,
  ref: string,
  withChildren: boolean,
): Promise<{ content: TemplateContent; left: readonly Stale[] }> {
  const { document } = acting.world
  const node = async (
    one: string,
  ): Promise<{ item: TemplateContent['item']; children: readonly { ref: string }[] }> => {
    const { body } = await readItem(database, acting, one)
    const held = body as Readonly<Record<string, unknown>> & {
      title: string
      type: { id: string }
      fields?: Readonly<Record<string, unknown>>
      children: readonly { ref: string }[]
    }
    const given = ['priority', 'labels', 'components', 'assignee', 'estimate'].map(
      (handle) => [handle, bare(held[handle])] as const,
    )
    const filled = (entries: readonly (readonly [string, unknown])[]): Record<string, unknown> =>
      Object.fromEntries(
        entries.filter(
          ([, value]) =>
            value !== null && value !== undefined && !(Array.isArray(value) && value.length === 0),
        ),
      )
    const own = Object.entries(held.fields ?? {})
      .filter(
        ([handle]) =>
          !Object.values(document.fields).some(
            (field) =>
              field.handle === handle && (field.kind === 'score' || field.kind === 'roll-up'),
          ),
      )
      .map(([handle, value]) => [handle, bare(value)] as const)
    const description = held['description'] as string | null
    return {
      item: {
        title: held.title,
        type: held.type.id,
        ...(description ? { description } : {}),
        values: filled(given),
        fields: filled(own),
      },
      children: held.children,
    }
  }
  const top = await node(ref)
  const children = withChildren
    ? await Promise.all(
        top.children
          .slice(0, 200)
          .map(async (child, index) => ({ key: `c${index + 1}`, ...(await node(child.ref)).item })),
      )
    : []
  const { project } = await find(database, acting, ref)
  return fitting(
    { item: top.item, children, links: [] },
    groundOf(acting.world, { rulebook: null, project: project.id }),
  )
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
