import { firstIn } from '../../known/index.ts'
import { reachOfEntry } from './reachOfEntry.ts'
import {
  type Reach,
  reachOf,
  reachOfLadder,
  reachOfLimit,
  reachOfProject,
  typesWithField,
} from './reach.ts'
import { anyOf } from './filters.ts'
import { valueAt } from '../draft/change.ts'
import { between, type Difference } from '../draft/diff.ts'
import { inWords } from '../words/words.ts'
import { type MappingChoices, type MappingNeed, mappingNeeds } from './mapping.ts'
import type { DefinitionsDocument } from '../document/document.ts'
import type { Named, Usage } from './usage.ts'

/** One change in words, with what it touches: items a reader would see differently or that could be moved otherwise, and what names it. */
export interface Touched {
  readonly path: readonly string[]
  readonly words: string
  /** how many items will differ; null where only a count by the filter tells */
  readonly items: number | null
  /** the items, as a filter in CQL2 JSON with identities; absent where there are none */
  readonly filter?: unknown
  readonly named: readonly Named[]
  /** types whose forms have the field */
  readonly forms: readonly string[]
}

export interface Impact {
  readonly changes: readonly Touched[]
  readonly needs: readonly MappingNeed[]
}

/** What a draft touches, change by change, and the questions it must answer. Pure: the counts come from outside. */
export function impact(
  before: DefinitionsDocument,
  after: DefinitionsDocument,
  differences: readonly Difference[],
  usage: Usage,
  choices: MappingChoices = {},
): Impact {
  return {
    changes: differences.map((difference) => touched(before, after, difference, usage)),
    needs: mappingNeeds(before, after, usage, choices),
  }
}

function touched(
  before: DefinitionsDocument,
  after: DefinitionsDocument,
  difference: Difference,
  usage: Usage,
): Touched {
  const { path } = difference
  const [section, id = '', part, key = ''] = path
  const words = inWords(before, after, difference)
  const reach = together(
    partsOf(before, after, path).map((readonlyArray) =>
      reachAt(before, after, readonlyArray, usage),
    ),
  )
  const named =
    usage.named[
      section === 'rulebooks'
        ? subjectOf(key)
        : section === 'fields' && part === 'options' && key
          ? key
          : id
    ] ?? []
  const forms = section === 'fields' ? (typesWithField(after).get(id) ?? []) : []
  return { path, words, named, forms, ...reach }
}

/** The paths of what really differs at or below a path: a change may replace more than it changes. */
function partsOf(
  before: DefinitionsDocument,
  after: DefinitionsDocument,
  path: readonly string[],
): (readonly string[])[] {
  const inner = between(valueAt(before, path), valueAt(after, path), path).map(
    (difference) => difference.path,
  )
  return inner.length === 0 ? [path] : inner
}

function reachAt(
  before: DefinitionsDocument,
  after: DefinitionsDocument,
  path: readonly string[],
  usage: Usage,
): Reach {
  const [section, id = '', part, key = ''] = path
  if (section === 'rulebooks')
    return reachOfEntry(before, after, id, part === 'entries' ? key : '', usage)
  if (section === 'projects') return reachOfProject(id, usage)
  if (section === 'ladders') return reachOfLadder(before, after, id, part)
  if (section === 'limits') return reachOfLimit(before, after, id)
  return reachOf(after, path, usage)
}

/** Several reaches as one: a single one is known, of several only their filters tell how many items they are together. */
function together(reaches: readonly Reach[]): Reach {
  const filters = [
    ...new Map(
      reaches
        .filter((reach) => reach.filter !== undefined)
        .map((reach) => [JSON.stringify(reach.filter), reach]),
    ).values(),
  ]
  if (filters.length === 0)
    return { items: Math.max(0, ...reaches.map((reach) => reach.items ?? 0)) }
  return filters.length === 1
    ? firstIn(filters)
    : { items: null, filter: anyOf(filters.map((reach) => reach.filter)) }
}

/** What an entry is about, where saved things may name it: the status a requirement or a place in a flow is for. */
const subjectOf = (key: string): string => {
  const [kind, type = '', third = ''] = key.split(':')
  return kind === 'status' || kind === 'requirement'
    ? third
    : kind === 'type' || kind === 'family' || kind === 'link'
      ? type
      : ''
}
