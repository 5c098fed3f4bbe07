import { mayStandBelow } from '../definitions/rulebook/rulebook.ts'
import type { Ground } from './ground.ts'
import { refused, type Refusal } from './refusal.ts'
import type { WorkRules } from './rules.ts'

/** Refuses a parent that is not of a higher tier, that takes no items of the type, or that stands below the item itself. */
export function judgeParent(
  { document }: WorkRules,
  ground: Ground,
  ref: string | null,
  type: string,
  parent: string,
): Refusal | undefined {
  const above = ground.relative(parent)
  if (!above) throw new Error(`${parent} is not on the ground`)
  const tier = (text: string): number => document.types[text]?.tier ?? 0
  const title = (text: string): string => document.types[text]?.title ?? text
  const [mine, theirs] = [title(type), title(above.type)]
  if (tier(above.type) <= tier(type))
    return refused(
      `${parent} is a ${theirs}, of tier ${tier(above.type)}; what stands above a ${mine} (tier ${tier(type)}) must be of a higher tier.`,
      [
        {
          pointer: '/parent',
          message: 'The parent must be of a higher tier.',
          expected: `an item above tier ${tier(type)}`,
        },
      ],
    )
  if (!mayStandBelow(document, type, above.type)) {
    const allowed = (document.types[above.type]?.below ?? []).map(title).join(', ')
    return refused(
      `Below ${parent}, a ${theirs}, only ${allowed || 'nothing'} may stand, no ${mine}.`,
      [
        {
          pointer: '/parent',
          message: 'This type may not stand below that one.',
          expected: allowed,
        },
      ],
    )
  }
  if (ref !== null && ground.standsAbove(ref, parent))
    return refused('An item cannot stand below itself, nor below what stands below it.', [
      {
        pointer: '/parent',
        message: 'An item cannot stand below itself.',
        expected: 'an item that does not stand below this one',
      },
    ])
  return undefined
}

/** Refuses a type below which something that is there could not stand. */
export function judgeBelow(
  { document }: WorkRules,
  ground: Ground,
  ref: string,
  type: string,
): Refusal | undefined {
  const misfit = [...ground.below(ref).types].find(([text]) => !mayStandBelow(document, text, type))
  if (!misfit) return undefined
  const [below, { ref: example }] = misfit
  const title = (text: string): string => document.types[text]?.title ?? text
  return refused(
    `A ${title(type)} cannot have a ${title(below)} below it, and ${example ?? 'something'} stands there; move that first.`,
    [{ pointer: '/type', message: 'What stands below does not fit this type.' }],
  )
}
