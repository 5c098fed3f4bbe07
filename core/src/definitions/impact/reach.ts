import { entryOf } from '../../known/index.ts'
import type { DefinitionsDocument } from '../document/document.ts'
import { holdsSeveral } from '../document/fieldKinds.ts'
import type { Usage } from './usage.ts'
import { inOrder, type Ordered } from '../document/ordered.ts'
import { offeredOf } from '../rulebook/rulebook.ts'
import { clocksOf } from './clocks.ts'
import { all, anyOf, contains, equals, isSet, within } from './filters.ts'
import { projectsReached } from '../rulebook/resolve.ts'

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

export const reach = (items: number, filter: unknown): Reach =>
  items === 0 ? { items } : { items, filter }

/** The property that holds a value of a section. */
export const held: Partial<Record<string, string>> = {
  types: 'type',
  statuses: 'status',
  priorities: 'priority',
}

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
    .filter((holding) => holding.column === 'type' && holding.project === project)
    .reduce((sum, holding) => sum + holding.items, 0)
  return reach(items, equals('project', project))
}
