import { asRecord, entryOf, firstIn } from '../../known/index.ts'
import type { DefinitionsDocument } from '../document/document.ts'
import { holdsSeveral } from '../document/fieldKinds.ts'
import type { Usage } from './usage.ts'
import { inOrder, type Ordered } from '../document/ordered.ts'
import { offeredOf } from '../rulebook/rulebook.ts'
import { clocksOf } from './clocks.ts'
import { projectsReached } from '../rulebook/resolve.ts'

/** The operation of a filter as CQL2 JSON writes it, and its arguments. */
export function operationOf(filter: unknown): { op: unknown; args: readonly unknown[] } {
  const { op, args } = asRecord(filter)
  return { op, args: Array.isArray(args) ? args : [] }
}

/** One filter for whatever meets any of several, each once; values of one property stand in one list. */
export function anyOf(filters: readonly unknown[]): unknown {
  const values = new Map<string, Set<string>>()
  const others = new Map<string, unknown>()
  for (const filter of filters) {
    const { op, args } = operationOf(filter)
    const property = asRecord(args[0])['property']
    if (op === 'or') for (const one of args) others.set(JSON.stringify(one), one)
    else if (typeof property === 'string' && op === '=' && typeof args[1] === 'string')
      values.set(property, (values.get(property) ?? new Set()).add(args[1]))
    else others.set(JSON.stringify(filter), filter)
  }
  const parts = [
    ...[...values].map(([property, set]) => within(property, [...set])),
    ...others.values(),
  ]
  return parts.length === 1 ? parts[0] : { op: 'or', args: parts }
}

const onForms = new WeakMap<DefinitionsDocument, ReadonlyMap<string, string[]>>()

/** The types on whose forms each field stands, in any rulebook. */
export function typesWithField(document: DefinitionsDocument): ReadonlyMap<string, string[]> {
  const known = onForms.get(document)
  if (known) return known
  const types = new Map<string, Set<string>>()
  for (const { entries } of Object.values(document.rulebooks)) {
    for (const key of Object.keys(entries)) {
      const [kind, type = '', , field = ''] = key.split(':')
      if (kind === 'form') types.set(field, (types.get(field) ?? new Set()).add(type))
    }
  }
  const found = new Map([...types].map(([field, ones]) => [field, [...ones]]))
  onForms.set(document, found)
  return found
}

export interface Reach {
  readonly items: number | null
  readonly filter?: unknown
}

export const equals = (property: string, value: string): unknown => ({
  op: '=',
  args: [{ property }, value],
})

export const all = (...args: readonly unknown[]): unknown =>
  args.length === 1 ? args[0] : { op: 'and', args }

export const within = (property: string, values: readonly string[]): unknown =>
  values.length === 1
    ? equals(property, firstIn(values))
    : { op: 'in', args: [{ property }, values] }

export const reach = (items: number, filter: unknown): Reach =>
  items === 0 ? { items } : { items, filter }

/** The property that holds a value of a section. */
export const held: Partial<Record<string, string>> = {
  types: 'type',
  statuses: 'status',
  priorities: 'priority',
}

export const isSet = (property: string): unknown => ({
  op: 'not',
  args: [{ op: 'isNull', args: [{ property }] }],
})

export const contains = (property: string, value: string): unknown => ({
  op: 'a_contains',
  args: [{ property }, [value]],
})

function reachOfOption(
  after: DefinitionsDocument,
  field: string,
  option: string,
  usage: Usage,
): Reach {
  const { kind = 'choice', handle = '' } = after.fields[field] ?? {}
  const filter = holdsSeveral(kind) ? contains(handle, option) : equals(handle, option)
  return reach(usage.items[option] ?? 0, filter)
}

/** The items a change of an entry of the document reaches. */
export function reachOf(
  after: DefinitionsDocument,
  [section = '', id = '', part, key = '']: readonly string[],
  usage: Usage,
): Reach {
  if (section === 'fields' && part === 'options' && key) return reachOfOption(after, id, key, usage)
  const count = usage.items[id] ?? 0
  const property = held[section]
  if (property) return reach(count, equals(property, id))
  switch (section) {
    case 'families':
      return reach(count, { op: 'in_family', args: [id] })
    case 'linkKinds':
      return reach(count, contains('links', id))
    case 'fields':
      return reach(count, isSet(after.fields[id]?.handle ?? ''))
    default:
      return { items: count }
  }
}

/** What people see of a ladder is the number of the rung an item stands on: the items whose rung gets another one. */
export function reachOfLadder(
  before: DefinitionsDocument,
  after: DefinitionsDocument,
  ladder: string,
  part: string | undefined,
): Reach {
  if (part !== undefined && part !== 'rungs') return { items: 0 }
  const rungs = (document: DefinitionsDocument): string[] =>
    inOrder<Ordered>(document.ladders[ladder]?.rungs ?? {}).map((rung) => rung.id)
  const [then, now] = [rungs(before), rungs(after)]
  const moved = [...new Set([...then, ...now])].filter(
    (priority) => then.indexOf(priority) !== now.indexOf(priority),
  )
  const projects = [
    ...new Set([...projectsOnLadder(before, ladder), ...projectsOnLadder(after, ladder)]),
  ]
  return moved.length === 0 || projects.length === 0
    ? { items: 0 }
    : { items: null, filter: all(within('project', projects), within('priority', moved)) }
}

/** The projects whose rulebook offers a time limit. */
export const projectsWithLimit = (document: DefinitionsDocument, limit: string): string[] =>
  Object.entries(document.projects)
    .filter(
      ([, rulebook]) =>
        document.rulebooks[rulebook] && offeredOf(document, rulebook, 'limit').includes(limit),
    )
    .map(([project]) => project)

export const hasBeenIn = (statuses: readonly string[]): unknown[] =>
  statuses.map((status) => ({
    op: '>',
    args: [{ op: 'days_in', args: [{ property: 'status' }, status] }, 0],
  }))

export const either = (parts: readonly unknown[]): unknown =>
  parts.length === 1 ? parts[0] : { op: 'or', args: parts }

export function reachOfLimit(
  before: DefinitionsDocument,
  after: DefinitionsDocument,
  limit: string,
): Reach {
  const clocks = [before, after]
    .filter((document) => document.limits[limit] && !document.limits[limit].retired)
    .flatMap((document) => {
      const projects = projectsWithLimit(document, limit)
      return projects.length === 0 ? [] : [clocksOf(document, limit, projects)]
    })
  return clocks.length === 0 ? { items: 0 } : { items: null, filter: anyOf(clocks) }
}

/** The projects whose rulebook follows a ladder. */
export function projectsOnLadder(document: DefinitionsDocument, ladder: string): string[] {
  return [
    ...new Set(
      Object.keys(document.rulebooks).flatMap((rulebook) => {
        const own = entryOf(document.rulebooks, rulebook).entries['ladder']
        return own && own !== 'out' && own.ladder === ladder
          ? projectsReached(document, rulebook, 'ladder')
          : []
      }),
    ),
  ]
}

export function reachOfProject(project: string, usage: Usage): Reach {
  const items = usage.held
    .filter((one) => one.column === 'type' && one.project === project)
    .reduce((sum, one) => sum + one.items, 0)
  return reach(items, equals('project', project))
}
