/** Which rows of a list are chosen: some by their refs, or all answers but those. */
export interface Chosen {
  readonly all: boolean
  readonly refs: ReadonlySet<string>
}

export const noneChosen: Chosen = { all: false, refs: new Set() }
export const allChosen: Chosen = { all: true, refs: new Set() }

export const isChosen = ({ all, refs }: Chosen, ref: string): boolean => refs.has(ref) !== all

/** How many are chosen of so many answers. */
export const countChosen = ({ all, refs }: Chosen, total: number): number =>
  all ? Math.max(0, total - refs.size) : refs.size

/** The same with some refs chosen too, or left out. */
export function choosing(chosen: Chosen, refs: readonly string[], isTaken: boolean): Chosen {
  const next = new Set(chosen.refs)
  for (const ref of refs)
    if (isTaken === chosen.all) next.delete(ref)
    else next.add(ref)
  return { all: chosen.all, refs: next }
}
