import {
  type Condition,
  type Line,
  type QueryError,
  readCondition,
  readQuery,
  type Written,
} from '@bluestem/core/queries'
import type { World } from '../workspace/world.ts'
import { invalid } from '../problems/problem.ts'
import { readJson } from '../http/body.ts'

/** Reads a filter, or answers 400 with its errors and their places. None, or a blank one, asks for everything. */
export function readFilter(world: World, filter: unknown, lang: string | undefined): Condition {
  if (filter === undefined || (typeof filter === 'string' && filter.trim() === ''))
    return readFilter(world, true, 'cql2-json')
  const isJson = lang === 'cql2-json' || (lang === undefined && typeof filter !== 'string')
  const text = typeof filter === 'string' ? filter : undefined
  return conditionOf(
    world,
    isJson
      ? { lang: 'cql2-json', filter: text === undefined ? filter : parseJson(text) }
      : { lang: 'cql2-text', filter: text ?? '' },
  )
}

/** Reads the filter a saved query keeps, whose choices are identities. */
export const readSavedFilter = (world: World, filter: unknown): Condition =>
  conditionOf(world, { lang: 'cql2-json', filter, spelling: 'identity' })

/** A filter as a question brings it, written or with identities. */
export interface FilterGiven {
  readonly filter?: unknown
  readonly 'filter-lang'?: string
  readonly kept?: boolean
}

/** Reads the filter of a question, whose choices are identities where it says so. */
export const readQuestion = (world: World, { kept, filter, ...given }: FilterGiven): Condition =>
  kept ? readSavedFilter(world, filter ?? true) : readFilter(world, filter, given['filter-lang'])

function conditionOf(world: World, written: Written): Condition {
  const outcome = readCondition(written, world.vocabulary)
  if (!outcome.ok) throw invalidFilter(outcome.errors)
  return outcome.value
}

/** A kept filter as it is told: its text and its sentence, or what is wrong with it since something it names is gone. */
export function filterForms(
  world: World,
  filter: unknown,
): {
  readonly text: string
  readonly sentence: readonly Line[]
  readonly errors: readonly QueryError[]
} {
  const read = readQuery({ lang: 'cql2-json', filter, spelling: 'identity' }, world.vocabulary)
  return read.ok
    ? { text: read.value.text, sentence: read.value.sentence, errors: [] }
    : { text: '', sentence: [], errors: read.errors }
}

export const invalidFilter = (errors: readonly QueryError[]): ReturnType<typeof invalid> =>
  invalid(errors.map((error) => ({ ...error, pointer: `/filter${error.pointer ?? ''}` })))
export function parseJson(text: string): unknown {
  try {
    return readJson(text)
  } catch {
    throw invalid([
      {
        pointer: '/filter',
        message: 'The filter is not JSON.',
        expected: '{"op": …, "args": […]}',
      },
    ])
  }
}
