import type { OfferedType } from '@bluestem/core/projects'
import type { WholeItemAnswer } from '@bluestem/core/work'
import { heldIds } from '../parts/heldIds.ts'
import { valueOf } from '../parts/valueOf.ts'

/** What says how far an item has come is not copied with it. */
const ofItsOwn: ReadonlySet<string> = new Set(['status', 'remaining', 'on_hold', 'hold_reason'])

const isSomething = (value: unknown): boolean =>
  value !== null && value !== undefined && !(Array.isArray(value) && value.length === 0)

/** What a new item starts from that is to be like another: what is on its forms, where it stands, its words. */
export function copyOf(item: WholeItemAnswer, type: OfferedType): Record<string, unknown> {
  const onForms = [...type.item, ...type.make].map(({ handle }) => handle)
  const handles = new Set(['description', 'parent', 'labels', 'components', ...onForms])
  const values = [...handles]
    .filter((handle) => !ofItsOwn.has(handle) && isSomething(valueOf(item, handle)))
    .map((handle): [string, unknown] => {
      const ids = heldIds(valueOf(item, handle))
      return [handle, Array.isArray(valueOf(item, handle)) ? ids : ids[0]]
    })
  return { ...Object.fromEntries(values), type: item.type.id, title: item.title }
}
