import {
  type Cql2Json,
  type Line,
  type QueryError,
  readQuery,
  type ReadQuery,
} from '@bluestem/core/queries'
import type { World } from '../workspace/world.ts'
import { invalid } from '../problems/problem.ts'
import { readJson } from '../http/body.ts'

/** Reads a filter, or answers 400 with its errors and their places. None, or a blank one, asks for everything. */
export function readFilter(world: World, filter: unknown, lang: string | undefined): ReadQuery {
  if (filter === undefined || (typeof filter === 'string' && filter.trim() === ''))
    return readFilter(world, true, 'cql2-json')
  const outcome =
    lang === 'cql2-json' || (lang === undefined && typeof filter !== 'string')
      ? readQuery(
          { lang: 'cql2-json', filter: typeof filter === 'string' ? parseJson(filter) : filter },
          world.vocabulary,
        )
      : readQuery(
          { lang: 'cql2-text', filter: typeof filter === 'string' ? filter : '' },
          world.vocabulary,
        )
  if (!outcome.ok) throw invalidFilter(outcome.errors)
  return outcome.value
}

/** Reads the filter a saved query keeps, whose choices are identities. */
export function readSavedFilter(world: World, filter: unknown): ReadQuery {
  const outcome = readQuery({ lang: 'cql2-json', filter, spelling: 'identity' }, world.vocabulary)
  if (!outcome.ok) throw invalidFilter(outcome.errors)
  return outcome.value
}

/** A kept filter as it is told: its text and its sentence, or what is wrong with it since something it names is gone. */
export function filterForms(
  world: World,
  filter: Cql2Json,
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
