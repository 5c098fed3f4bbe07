/** Something kept that names a definition. */
export interface Named {
  readonly kind: 'query' | 'view' | 'measure' | 'dashboard' | 'template' | 'team'
  readonly id: string
  readonly title: string
}

/** Which column of an item a mapping is about; the options of a field have one each. */
export type MappedColumn = 'type' | 'status' | 'priority' | `option:${string}`

/** How many items of one project and type hold one value now. */
export interface Holding {
  readonly column: MappedColumn
  readonly project: string
  readonly type: string
  readonly value: string
  readonly items: number
}

/** How much of the present each definition is used by. */
export interface Usage {
  /** items by identity of a type, status, priority, option, field (filled), label family or link kind */
  readonly items: Readonly<Record<string, number>>
  readonly held: readonly Holding[]
  /** by identity; for fields too */
  readonly named: Readonly<Record<string, readonly Named[]>>
}

export const noUsage: Usage = { items: {}, held: [], named: {} }

/** Items of the projects and types given that hold a value. */
export const holding = (
  usage: Usage,
  column: MappedColumn,
  value: string,
  within: { readonly projects?: readonly string[]; readonly type?: string } = {},
): number =>
  usage.held
    .filter(
      (holding) =>
        holding.column === column &&
        holding.value === value &&
        (!within.type || holding.type === within.type) &&
        (!within.projects || within.projects.includes(holding.project)),
    )
    .reduce((sum, holding) => sum + holding.items, 0)
