/** A row of a tree: below which other it stands, if below any that is there. */
export interface Placed {
  readonly ref: string
  readonly parent: string | null
}

/** A row with where it stands: how deep, and which of how many beside it. */
export type Standing<Row extends Placed> = Row & {
  readonly depth: number
  readonly place: number
  readonly of: number
}

/** The rows that are in sight: those of the top, and those below unfolded ones, each after what it stands below. */
export function outline<Row extends Placed>(
  rows: readonly Row[],
  isOpen: (ref: string) => boolean,
): Standing<Row>[] {
  const known = new Set(rows.map(({ ref }) => ref))
  const below = new Map<string | null, Row[]>()
  for (const row of rows) {
    const parent = row.parent !== null && known.has(row.parent) ? row.parent : null
    const beside = below.get(parent)
    if (beside) beside.push(row)
    else below.set(parent, [row])
  }
  const walk = (parent: string | null, depth: number): Standing<Row>[] => {
    const siblings = below.get(parent) ?? []
    return siblings.flatMap((row, index) => [
      { ...row, depth, place: index + 1, of: siblings.length },
      ...(isOpen(row.ref) ? walk(row.ref, depth + 1) : []),
    ])
  }
  return walk(null, 0)
}

/** Where a row goes: what it stands below then, and the row it comes after or before. */
export interface TreeMove {
  readonly parent?: string | null
  readonly position?: { readonly after: string } | { readonly before: string }
}

/** The rows right before and right after a row that stand below the same one. */
function besideOf<Row extends Placed>(
  shown: readonly Standing<Row>[],
  row: Standing<Row>,
): { readonly previous: Standing<Row> | undefined; readonly next: Standing<Row> | undefined } {
  const beside = shown.filter(
    (standing) => standing.depth === row.depth && standing.parent === row.parent,
  )
  const at = beside.indexOf(row)
  return { previous: beside[at - 1], next: beside[at + 1] }
}

/** Where a row stands, as a move that brings it back there. */
export function placeOf<Row extends Placed>(
  shown: readonly Standing<Row>[],
  ref: string,
): TreeMove {
  const row = shown.find((standing) => standing.ref === ref)
  if (!row) return {}
  const { previous, next } = besideOf(shown, row)
  const { parent } = row
  if (previous) return { parent, position: { after: previous.ref } }
  return next ? { parent, position: { before: next.ref } } : { parent }
}

export type Step = 'up' | 'down' | 'in' | 'out'

/**
 * What a step by keyboard means for a row: up and down among those beside it, in below the one before it, out behind the one it
 * stands below; undefined where there is no such place.
 */
export function moveOf<Row extends Placed>(
  shown: readonly Standing<Row>[],
  ref: string,
  step: Step,
): TreeMove | undefined {
  const row = shown.find((standing) => standing.ref === ref)
  if (!row) return undefined
  const above = shown.find((standing) => standing.ref === row.parent)
  const { previous, next } = besideOf(shown, row)
  switch (step) {
    case 'up':
      return previous && { position: { before: previous.ref } }
    case 'down':
      return next && { position: { after: next.ref } }
    case 'in':
      return previous && { parent: previous.ref }
    case 'out':
      return above && { parent: above.parent, position: { after: above.ref } }
  }
}

/** Whether a row stands below another, at any depth, or is it. */
export function standsIn<Row extends Placed>(
  rows: readonly Row[],
  ref: string,
  above: string,
): boolean {
  const parentOf = new Map(rows.map((row) => [row.ref, row.parent]))
  for (let at: string | null = ref; at !== null; at = parentOf.get(at) ?? null)
    if (at === above) return true
  return false
}
