import { firstIn } from '../known/index.ts'

/** A jot as it stands: below which other, if below any. */
export interface FiledJot {
  readonly id: string
  readonly above: string | null
}

/** A type that a project offers, with the types that may stand below it. */
export interface FilingType {
  readonly id: string
  readonly below: readonly string[]
}

/** A jot with the type it becomes; none where no type may stand so far down. */
export interface Filing {
  readonly id: string
  readonly above: string | null
  readonly type: string | null
}

/**
 * What becomes of chosen jots: those that stand below no other chosen one become items of the type given, those below them of
 * the first type that may stand there. They come with whatever comes above before what stands below it.
 */
export function planFiling(
  jots: readonly FiledJot[],
  chosen: ReadonlySet<string>,
  type: string,
  types: readonly FilingType[],
): Filing[] {
  const below = new Map(types.map((type) => [type.id, type.below]))
  const offered = types.map(({ id }) => id)
  const planned = new Map<string, Filing>()
  const typeBelow = (above: string): string | null => {
    const parent = planned.get(above)?.type
    const fitting = parent ? below.get(parent) : undefined
    return offered.find((id) => fitting?.includes(id)) ?? null
  }
  const waiting = jots.filter(({ id }) => chosen.has(id))
  while (waiting.length > 0) {
    const ready = waiting.findIndex(
      ({ above }) => !above || !chosen.has(above) || planned.has(above),
    )
    const { id, above } = firstIn(waiting.splice(ready, 1))
    const isBelow = above !== null && planned.has(above)
    planned.set(id, {
      id,
      above: isBelow ? above : null,
      type: isBelow ? typeBelow(above) : type,
    })
  }
  return [...planned.values()]
}

/** The jots that stand below one, at any depth, itself first. */
export function withBelow(jots: readonly FiledJot[], id: string): string[] {
  const found = [id]
  for (const at of found)
    found.push(...jots.filter(({ above }) => above === at).map((jot) => jot.id))
  return found
}
