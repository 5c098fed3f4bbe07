import type { Difference } from './diff.ts'
import { inWords } from './words.ts'
import { mappingNeeds, type MappingChoices, type MappingNeed } from './mapping.ts'
import { projectsReached } from './resolve.ts'
import type { DefinitionsDocument } from './document.ts'
import { holding, type MappedColumn, type Named, type Usage } from './usage.ts'

/** One change in words, with what it touches: items a reader would see differently or that could be moved otherwise, and what names it. */
export interface Touched {
  readonly path: readonly string[]
  readonly words: string
  readonly items: number
  /** the items, as a filter in CQL2 JSON with identities; absent where there are none */
  readonly filter?: unknown
  readonly named: readonly Named[]
  /** types whose forms have the field */
  readonly forms: readonly string[]
}

export interface Impact { readonly changes: readonly Touched[]; readonly needs: readonly MappingNeed[] }

/** What a draft touches, change by change, and the questions it must answer. Pure: the counts come from outside. */
export function impact(before: DefinitionsDocument, after: DefinitionsDocument, differences: readonly Difference[], usage: Usage, choices: MappingChoices = {}): Impact {
  return { changes: differences.map((difference) => touched(before, after, difference, usage)), needs: mappingNeeds(before, after, usage, choices) }
}

function touched(before: DefinitionsDocument, after: DefinitionsDocument, difference: Difference, usage: Usage): Touched {
  const { path } = difference
  const [section, id = '', part, key = ''] = path
  const words = inWords(before, after, difference)
  const reach = section === 'rulebooks' ? reachOfEntry(before, after, id, part === 'entries' ? key : '', usage) : section === 'projects' ? reachOfProject(id, usage) : reachOf(after, path, usage)
  const named = usage.named[section === 'rulebooks' ? subjectOf(key) : section === 'fields' && part === 'options' && key ? key : id] ?? []
  const forms = section === 'fields' ? typesWithField(after).get(id) ?? [] : []
  return { path, words, named, forms, ...reach }
}

const onForms = new WeakMap<DefinitionsDocument, ReadonlyMap<string, string[]>>()

/** The types on whose forms each field stands, in any rulebook. */
function typesWithField(document: DefinitionsDocument): ReadonlyMap<string, string[]> {
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

/** What an entry is about, where saved things may name it: the status a requirement or a place in a flow is for. */
const subjectOf = (key: string): string => {
  const [kind, type = '', third = ''] = key.split(':')
  return kind === 'status' || kind === 'requirement' ? third : kind === 'type' || kind === 'family' || kind === 'link' ? type : ''
}

interface Reach { readonly items: number; readonly filter?: unknown }

const equals = (property: string, value: string): unknown => ({ op: '=', args: [{ property }, value] })
const all = (...args: readonly unknown[]): unknown => (args.length === 1 ? args[0] : { op: 'and', args })
const within = (property: string, values: readonly string[]): unknown => (values.length === 1 ? equals(property, values[0]!) : { op: 'in', args: [{ property }, values] })
const reach = (items: number, filter: unknown): Reach => (items === 0 ? { items } : { items, filter })

/** The property that holds a value of a section. */
const held: Partial<Record<string, string>> = { types: 'type', statuses: 'status', priorities: 'priority' }

function reachOf(after: DefinitionsDocument, [section, id = '', part, key = '']: readonly string[], usage: Usage): Reach {
  const count = usage.items[id] ?? 0
  if (held[section!]) return reach(count, equals(held[section!]!, id))
  if (section === 'fields' && part === 'options' && key) {
    const field = after.fields[id]
    return reach(usage.items[key] ?? 0, field?.kind === 'several choices' ? { op: 'a_contains', args: [{ property: field.handle }, [key]] } : equals(field?.handle ?? '', key))
  }
  if (section === 'fields') return reach(count, { op: 'not', args: [{ op: 'isNull', args: [{ property: after.fields[id]?.handle ?? '' }] }] })
  if (section === 'ladders') {
    const projects = projectsOnLadder(after, id)
    const rungs = part === 'rungs' && key ? [key] : Object.keys(after.ladders[id]?.rungs ?? {})
    return reach(rungs.reduce((sum, priority) => sum + holding(usage, 'priority', priority, { projects }), 0), all(within('project', projects), within('priority', rungs)))
  }
  return { items: count }
}

/** The projects whose rulebook follows a ladder. */
export function projectsOnLadder(document: DefinitionsDocument, ladder: string): string[] {
  return [...new Set(Object.keys(document.rulebooks).flatMap((rulebook) => {
    const own = document.rulebooks[rulebook]!.entries['ladder']
    return own && own !== 'out' && own.ladder === ladder ? projectsReached(document, rulebook, 'ladder') : []
  }))]
}

function reachOfProject(project: string, usage: Usage): Reach {
  const items = usage.held.filter((one) => one.column === 'type' && one.project === project).reduce((sum, one) => sum + one.items, 0)
  return reach(items, equals('project', project))
}

/** An entry reaches the items of its type in the projects that take its word; a move and a requirement only those that stand where it begins. */
function reachOfEntry(before: DefinitionsDocument, after: DefinitionsDocument, rulebook: string, key: string, usage: Usage): Reach {
  const [kind = '', type = '', third = ''] = key.split(':')
  const projects = [...new Set([...projectsReached(after, rulebook, key), ...(before.rulebooks[rulebook] ? projectsReached(before, rulebook, key) : [])])]
  if (projects.length === 0) return { items: 0 }
  const inside = (column: MappedColumn, value: string): number => holding(usage, column, value, { projects, ...(column === 'type' ? {} : { type }) })
  if (kind === 'move' || kind === 'status') return reach(inside('status', third), all(within('project', projects), equals('type', type), equals('status', third)))
  if (kind === 'requirement') {
    const sources = movesInto(after, rulebook, type, third)
    return reach(sources.reduce((sum, status) => sum + inside('status', status), 0), all(within('project', projects), equals('type', type), within('status', sources)))
  }
  if (kind === 'type' || kind === 'form') return reach(inside('type', type), all(within('project', projects), equals('type', type)))
  if (kind === 'ladder') return reach(usage.held.filter((one) => one.column === 'priority' && projects.includes(one.project)).reduce((sum, one) => sum + one.items, 0), all(within('project', projects), { op: 'not', args: [{ op: 'isNull', args: [{ property: 'priority' }] }] }))
  if (kind === 'family' || kind === 'link') return { items: usage.items[type] ?? 0 }
  return { items: 0 }
}

function movesInto(document: DefinitionsDocument, rulebook: string, type: string, status: string): string[] {
  const moves = [...new Set(Object.values(document.rulebooks).flatMap((one) => Object.keys(one.entries)))].filter((key) => key.startsWith(`move:${type}:`) && key.endsWith(`:${status}`))
  return rulebook === '' ? [] : [...new Set(moves.map((key) => key.split(':')[2]!))]
}
