import { entryOf } from '../../known/index.ts'
import type { DefinitionsDocument } from '../document/document.ts'
import { inOrder } from '../document/ordered.ts'
import { entriesOf } from '../rulebook/resolve.ts'
import { flowOf, rungsOf, typesOf } from '../rulebook/rulebook.ts'
import type { Holding, MappedColumn, Usage } from './usage.ts'

/** What happens to items that hold a value: in the projects and types named, `from` becomes `to` (null empties it). */
export interface Mapping {
  readonly column: MappedColumn
  readonly from: string
  readonly to: string | null
  readonly projects: readonly string[]
  readonly types: readonly string[]
}

/** A value in use that a draft puts out of use, and what it may become. */
export interface MappingNeed {
  /** names the need in the choices a draft holds */
  readonly key: string
  readonly column: MappedColumn
  readonly from: string
  readonly projects: readonly string[]
  readonly types: readonly string[]
  readonly items: number
  readonly choices: readonly string[]
  /** whether it may become empty */
  readonly mayEmpty: boolean
  /** an open question stops publishing; a retired value may also stay where it is */
  readonly needed: boolean
}

/** What each need is answered with: a value, null for empty, undefined while it is open. */
export type MappingChoices = Readonly<Record<string, string | null>>

interface Place {
  readonly rulebook: string
  readonly offered: boolean
  readonly choices: readonly string[]
  readonly scope: string
}

/**
 * The values in use that a draft puts out of use. The choices made so far count: what a status may become depends on what its
 * items' type becomes.
 */
export function mappingNeeds(
  before: DefinitionsDocument,
  after: DefinitionsDocument,
  usage: Usage,
  choices: MappingChoices = {},
): MappingNeed[] {
  const needs = new Map<string, MappingNeed>()
  // Types first: what else an item may hold follows from its type.
  const ordered = [...usage.held].sort(
    (a, b) => Number(b.column === 'type') - Number(a.column === 'type'),
  )
  for (const held of ordered) {
    if (held.items === 0) continue
    const [then, now] = [placeOf(before, held, {}), placeOf(after, held, choices)]
    const retires = newlyRetired(before, after, held)
    if (!now || (now.offered && !retires) || (then && !then.offered && !retires)) continue
    add(needs, held, now, !now.offered)
  }
  return [...needs.values()]
}

function add(
  needs: Map<string, MappingNeed>,
  held: Holding,
  { choices, scope }: Place,
  needed: boolean,
): void {
  const key = `${held.column}:${held.value}:${scope}`
  const known = needs.get(key)
  const more = (list: readonly string[] | undefined, text: string): readonly string[] => [
    ...new Set([...(list ?? []), text]),
  ]
  needs.set(key, {
    key,
    column: held.column,
    from: held.value,
    projects: more(known?.projects, held.project),
    types: more(known?.types, held.type),
    items: (known?.items ?? 0) + held.items,
    choices: choices.filter((choice) => choice !== held.value),
    mayEmpty: held.column !== 'type' && held.column !== 'status',
    needed: needed || (known?.needed ?? false),
  })
}

/** What a document offers where a value is held; undefined where it says nothing of the project. */
function placeOf(
  document: DefinitionsDocument,
  { column, project, type, value }: Holding,
  chosen: MappingChoices,
): Place | undefined {
  const rulebook = document.projects[project]
  if (!rulebook || !document.rulebooks[rulebook]) return undefined
  if (column === 'type')
    return place(
      rulebook,
      value,
      typesOf(document, rulebook).filter((id) => !document.types[id]?.retired),
      typesOf(document, rulebook),
      rulebook,
    )
  if (column === 'status') {
    const becomes = entriesOf(document, rulebook).has(`type:${type}`)
      ? type
      : chosen[`type:${type}:${rulebook}`]
    if (!becomes) return undefined
    const { statuses } = flowOf(document, rulebook, becomes)
    return place(
      rulebook,
      value,
      statuses.filter((id) => !document.statuses[id]?.retired),
      statuses,
      `${rulebook}:${type}`,
    )
  }
  if (column === 'priority') {
    const rungs = rungsOf(document, rulebook)
    return place(
      rulebook,
      value,
      rungs.filter((id) => !document.priorities[id]?.retired),
      rungs,
      rulebook,
    )
  }
  const options = inOrder(document.fields[column.slice('option:'.length)]?.options ?? {})
  return place(
    rulebook,
    value,
    options.filter((option) => !option.retired).map((option) => option.id),
    options.map((option) => option.id),
    'all',
  )
}

const place = (
  rulebook: string,
  value: string,
  choices: readonly string[],
  all: readonly string[],
  scope: string,
): Place => ({ rulebook, offered: all.includes(value), choices, scope })

function newlyRetired(
  before: DefinitionsDocument,
  after: DefinitionsDocument,
  { column, value }: Holding,
): boolean {
  const entry = (document: DefinitionsDocument): { retired?: boolean } | undefined => {
    if (column === 'type') return document.types[value]
    if (column === 'status') return document.statuses[value]
    if (column === 'priority') return document.priorities[value]
    return document.fields[column.slice('option:'.length)]?.options?.[value]
  }
  return entry(after)?.retired === true && entry(before)?.retired !== true
}

/**
 * The mappings a draft publishes: each need that was answered, and the statuses in use whose phase changes, which stay what
 * they are in another phase. Statuses and priorities come before types, whose scope is told by the type items have now.
 */
export function mappingsOf(
  before: DefinitionsDocument,
  after: DefinitionsDocument,
  usage: Usage,
  choices: MappingChoices,
): Mapping[] {
  const everywhere = { projects: Object.keys(after.projects), types: Object.keys(before.types) }
  const chosen = mappingNeeds(before, after, usage, choices).flatMap((need): Mapping[] => {
    const to = choices[need.key]
    return to === undefined
      ? []
      : [{ column: need.column, from: need.from, to, ...scopeOf(after, need, everywhere) }]
  })
  const moved = Object.keys(after.statuses).filter(
    (id) => before.statuses[id] && before.statuses[id].phase !== entryOf(after.statuses, id).phase,
  )
  const rephased = moved.flatMap((id): Mapping[] => {
    const held = usage.held.some(
      (holding) => holding.column === 'status' && holding.value === id && holding.items > 0,
    )
    return held ? [{ column: 'status', from: id, to: id, ...everywhere }] : []
  })
  return [...chosen, ...rephased].sort(
    (a, b) => Number(a.column === 'type') - Number(b.column === 'type'),
  )
}

/** Where a need is answered: in every project of its rulebook, so that an item that came to hold the value since it was counted is mapped too. */
function scopeOf(
  after: DefinitionsDocument,
  need: MappingNeed,
  everywhere: Pick<Mapping, 'projects' | 'types'>,
): Pick<Mapping, 'projects' | 'types'> {
  if (need.column.startsWith('option:')) return everywhere
  const rulebooks = new Set(need.projects.map((project) => after.projects[project]))
  return {
    projects: everywhere.projects.filter((project) => rulebooks.has(after.projects[project])),
    types: need.column === 'priority' ? everywhere.types : need.types,
  }
}

/** The open questions of a draft: needs that must be answered and are not, or whose answer is no longer offered. */
export const openNeeds = (needs: readonly MappingNeed[], choices: MappingChoices): MappingNeed[] =>
  needs.filter((need) => {
    const to = choices[need.key]
    return to === undefined
      ? need.needed
      : to === null
        ? !need.mayEmpty
        : !need.choices.includes(to)
  })

/** What an item holds after mappings, for one column: reads and writes agree by it while a job still rewrites. */
export function mapped(
  mappings: readonly Mapping[],
  item: { readonly project: string; readonly type: string },
  column: MappedColumn,
  value: string | null,
): string | null {
  const found = mappings.find(
    (mapping) =>
      mapping.column === column &&
      mapping.from === value &&
      mapping.projects.includes(item.project) &&
      mapping.types.includes(item.type),
  )
  return found ? found.to : value
}
