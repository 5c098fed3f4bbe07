import type { ShownWhen } from './shown.ts'
import type { DefinitionsDocument } from '../document/document.ts'
import type { Requirement, RulebookEntry } from '../document/rules.ts'
import { inOrder } from '../document/ordered.ts'
import { orderBetween } from '../document/order.ts'
import { entriesOf } from './resolve.ts'

/** The flow of one type in one rulebook: its statuses in order, where it starts, the moves allowed and what entering requires. */
export interface Flow {
  readonly type: string
  readonly start: string | null
  readonly statuses: readonly string[]
  /** allowed moves as `FROM:TO` */
  readonly moves: ReadonlySet<string>
  /** by status */
  readonly requirements: ReadonlyMap<string, Requirement>
}

type Below = readonly (readonly [rest: string, entry: RulebookEntry])[]
const indexes = new WeakMap<ReadonlyMap<string, RulebookEntry>, ReadonlyMap<string, Below>>()

/** The entries of a rulebook whose keys begin with `KIND:TYPE:`, by what follows; sorted by their order. */
function below(document: DefinitionsDocument, rulebook: string, prefix: string): Below {
  const entries = entriesOf(document, rulebook)
  let index = indexes.get(entries)
  if (!index) {
    const made = new Map<string, (readonly [string, RulebookEntry])[]>()
    for (const [key, entry] of entries) {
      const end = key.indexOf(':', key.indexOf(':') + 1)
      if (end < 0) continue
      const prefix = key.slice(0, end)
      const list = made.get(prefix) ?? []
      list.push([key.slice(end + 1), entry])
      made.set(prefix, list)
    }
    for (const list of made.values()) list.sort(byOrder)
    index = made
    indexes.set(entries, index)
  }
  return index.get(prefix) ?? []
}

/** Entries stand by their sortable key, then by their own, by code point. */
function byOrder(
  [a, x]: readonly [string, RulebookEntry],
  [b, y]: readonly [string, RulebookEntry],
): number {
  const [first, second] = [x.order ?? '', y.order ?? '']
  return first < second ? -1 : first > second ? 1 : a < b ? -1 : 1
}

/** The types a rulebook offers, in their defined order. */
export function typesOf(document: DefinitionsDocument, rulebook: string): string[] {
  const entries = entriesOf(document, rulebook)
  return inOrder(document.types)
    .map((type) => type.id)
    .filter((id) => entries.has(`type:${id}`))
}

/** The flow of a type as a rulebook has it. */
export function flowOf(document: DefinitionsDocument, rulebook: string, type: string): Flow {
  return {
    type,
    start: entriesOf(document, rulebook).get(`type:${type}`)?.start ?? null,
    statuses: below(document, rulebook, `status:${type}`).map(([id]) => id),
    moves: new Set(below(document, rulebook, `move:${type}`).map(([move]) => move)),
    requirements: new Map(
      below(document, rulebook, `requirement:${type}`).map(([status, entry]) => [
        status,
        entry.requires ?? {},
      ]),
    ),
  }
}

/** The order that stands after the last entry under a key: `status:TY` for a flow, `form:TY` for the forms of a type. */
export const lastPlace = (document: DefinitionsDocument, rulebook: string, key: string): string =>
  orderBetween(below(document, rulebook, key).at(-1)?.[1].order ?? null, null)

/** The order that puts an entry under a key at a place among the others, which are counted without it. */
export function placeAmong(
  document: DefinitionsDocument,
  rulebook: string,
  key: string,
  id: string,
  at: number,
): string {
  const others = below(document, rulebook, key)
    .filter(([text]) => text !== id)
    .map(([, entry]) => entry.order ?? null)
  const [before, after] = [others[at - 1] ?? null, others[at] ?? null]
  const isBetween = before === null || after === null || before < after
  return orderBetween(before, isBetween ? after : null)
}

/** The statuses an item of a type may be moved to from where it stands; nothing enters a retired one. */
export const movesFrom = (
  flow: Flow,
  status: string,
  statuses: DefinitionsDocument['statuses'] = {},
): string[] =>
  flow.statuses.filter((to) => flow.moves.has(`${status}:${to}`) && !statuses[to]?.retired)

/** One field on a form: a custom field by identity, a built-in one by handle. */
export interface FormField {
  readonly field: string
  readonly section: string
  readonly required: boolean
  /** shown only while another field holds one of these values */
  readonly shownWhen?: ShownWhen
}

/** The fields of a type on an item (`item`) or when making one (`make`), in order. */
export function formOf(
  document: DefinitionsDocument,
  rulebook: string,
  type: string,
  form: 'item' | 'make',
): FormField[] {
  return below(document, rulebook, `form:${type}`)
    .filter(([key]) => key.startsWith(`${form}:`))
    .map(([key, entry]) => ({
      field: key.slice(form.length + 1),
      section: entry.section ?? '',
      required: entry.required ?? false,
      ...(entry.shownWhen ? { shownWhen: entry.shownWhen } : {}),
    }))
    .filter(({ field }) => !document.fields[field]?.retired)
}

/** The ladder a rulebook follows. */
export const ladderOf = (document: DefinitionsDocument, rulebook: string): string | null =>
  entriesOf(document, rulebook).get('ladder')?.ladder ?? null

/** The rungs of a rulebook's ladder, most urgent first, as identities of priorities. */
export function rungsOf(document: DefinitionsDocument, rulebook: string): string[] {
  const ladder = ladderOf(document, rulebook)
  return ladder ? inOrder(document.ladders[ladder]?.rungs ?? {}).map((rung) => rung.id) : []
}

/** The priority a new item gets: the default of the rulebook's ladder. */
export function defaultPriority(document: DefinitionsDocument, rulebook: string): string | null {
  const ladder = ladderOf(document, rulebook)
  return (ladder && document.ladders[ladder]?.default) || null
}

/** The unit in which a rulebook's projects estimate; hours where nothing is said. */
export const unitOf = (
  document: DefinitionsDocument,
  rulebook: string,
): 'hours' | 'points' | 'days' => entriesOf(document, rulebook).get('unit')?.unit ?? 'hours'

/** What a rulebook offers of a kind that is simply taken or not: families, link kinds, time limits. */
export function offeredOf(
  document: DefinitionsDocument,
  rulebook: string,
  kind: 'family' | 'link' | 'limit',
): string[] {
  return [...entriesOf(document, rulebook).keys()]
    .filter((key) => key.startsWith(`${kind}:`))
    .map((key) => key.slice(kind.length + 1))
}

/** Whether one type may stand below another: of a lower tier, and among those named where any are. */
export function mayStandBelow(
  document: DefinitionsDocument,
  child: string,
  parent: string,
): boolean {
  const [below_, above] = [document.types[child], document.types[parent]]
  return (
    below_ !== undefined &&
    above !== undefined &&
    above.tier > below_.tier &&
    (above.below === undefined || above.below.includes(child))
  )
}
