import { inOrder, type DefinitionsDocument, type RulebookEntry } from './document.ts'

/** The flow of one type in one rulebook: its statuses in order, where it starts, and the moves allowed. */
export interface Flow {
  readonly type: string
  readonly start: string | null
  readonly statuses: readonly string[]
  /** allowed moves as `FROM:TO` */
  readonly moves: ReadonlySet<string>
}

/** The entries of a rulebook, its own over those it inherits. Circles are cut where they close; `validate` reports them. */
export function entriesOf(document: DefinitionsDocument, rulebook: string): ReadonlyMap<string, RulebookEntry> {
  const chain: string[] = []
  for (let id: string | null | undefined = rulebook; id && !chain.includes(id); id = document.rulebooks[id]?.extends) chain.push(id)
  const entries = new Map<string, RulebookEntry>()
  for (const id of chain.reverse()) {
    for (const [key, entry] of Object.entries(document.rulebooks[id]?.entries ?? {})) {
      if (entry === 'out') entries.delete(key)
      else entries.set(key, entry)
    }
  }
  return entries
}

/** The types a rulebook offers, in their defined order. */
export function typesOf(document: DefinitionsDocument, rulebook: string): string[] {
  const entries = entriesOf(document, rulebook)
  return inOrder(document.types).map((type) => type.id).filter((id) => entries.has(`type:${id}`))
}

/** Entries stand by their sortable key, then by their own, by code point. */
function byOrder([a, x]: readonly [string, RulebookEntry], [b, y]: readonly [string, RulebookEntry]): number {
  const [first, second] = [x.order ?? '', y.order ?? '']
  return first < second ? -1 : first > second ? 1 : a < b ? -1 : 1
}

/** The flow of a type as a rulebook has it. */
export function flowOf(document: DefinitionsDocument, rulebook: string, type: string): Flow {
  const entries = entriesOf(document, rulebook)
  const below = (prefix: string): [string, RulebookEntry][] => [...entries].filter(([key]) => key.startsWith(prefix)).map(([key, entry]) => [key.slice(prefix.length), entry])
  const statuses = below(`status:${type}:`).sort(byOrder).map(([id]) => id)
  return { type, start: entries.get(`type:${type}`)?.start ?? null, statuses, moves: new Set(below(`move:${type}:`).map(([move]) => move)) }
}

/** The statuses an item of a type may be moved to from where it stands. */
export const movesFrom = (flow: Flow, status: string): string[] => flow.statuses.filter((to) => flow.moves.has(`${status}:${to}`))

/** One field on a form: a custom field by identity, a built-in one by handle. */
export interface FormField { readonly field: string; readonly section: string; readonly required: boolean }

/** The fields of a type on an item (`item`) or when making one (`make`), in order. */
export function formOf(document: DefinitionsDocument, rulebook: string, type: string, form: 'item' | 'make'): FormField[] {
  const prefix = `form:${type}:${form}:`
  return [...entriesOf(document, rulebook)]
    .filter(([key]) => key.startsWith(prefix))
    .sort(byOrder)
    .map(([key, entry]) => ({ field: key.slice(prefix.length), section: entry.section ?? '', required: entry.required ?? false }))
}

/** The rungs of a rulebook's ladder, most urgent first, as identities of priorities. */
export function rungsOf(document: DefinitionsDocument, rulebook: string): string[] {
  const ladder = entriesOf(document, rulebook).get('ladder')?.ladder
  return ladder ? inOrder(document.ladders[ladder]?.rungs ?? {}).map((rung) => rung.id) : []
}

/** The priority a new item gets: the default of the rulebook's ladder. */
export function defaultPriority(document: DefinitionsDocument, rulebook: string): string | null {
  const ladder = entriesOf(document, rulebook).get('ladder')?.ladder
  return (ladder && document.ladders[ladder]?.default) || null
}
