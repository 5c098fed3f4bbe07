import { check } from './check.ts'
import type { Spelling } from './checkNames.ts'
import { uncheck } from './uncheck.ts'
import { type Condition, everything } from './tree/checked.ts'
import { fromJson } from './json.ts'
import { type Cql2Json, toJson } from './toJson.ts'
import { parse } from './parser.ts'
import { print } from './print.ts'
import { type Line, sentence } from './sentence.ts'
import { tooLarge } from './size.ts'
import type { Filter, Outcome } from './tree/tree.ts'
import type { QueryNames } from './tree/vocabulary.ts'

/** How a filter arrives: as text, as CQL2 JSON with names, or as the JSON a saved query keeps, with identities. */
export type Written =
  | { readonly lang: 'cql2-text'; readonly filter: string }
  | { readonly lang: 'cql2-json'; readonly filter: unknown; readonly spelling?: Spelling }

/** One query in all its forms. `text` is empty where the standard's text cannot hold it; `textMessage` then says why. */
export interface ReadQuery {
  readonly condition: Condition
  readonly text: string
  readonly textMessage: string | null
  readonly json: Cql2Json
  readonly kept: Cql2Json
  readonly sentence: readonly Line[]
}

/** Parses and checks a filter: all that answering it needs. A text of nothing but spaces is an error: everything is asked for by TRUE. */
export const readCondition = (written: Written, vocabulary: QueryNames): Outcome<Condition> =>
  written.lang === 'cql2-text'
    ? checkText(written.filter, vocabulary)
    : checkJson(written.filter, vocabulary, written.spelling ?? 'name')

/** A condition as saved queries keep it: its choices by identity. */
export const keptFilter = (condition: Condition, vocabulary: QueryNames): Cql2Json =>
  toJson(uncheck(condition, vocabulary, 'identity'))

/** Parses, checks, prints and says a filter. */
export function readQuery(written: Written, vocabulary: QueryNames): Outcome<ReadQuery> {
  const checked = readCondition(written, vocabulary)
  if (!checked.ok) return checked
  const condition = checked.value
  const named = uncheck(condition, vocabulary, 'name')
  const printed = print(named)
  return {
    ok: true,
    value: {
      condition,
      text: printed.ok ? printed.text : '',
      textMessage: printed.ok ? null : printed.message,
      json: toJson(named),
      kept: keptFilter(condition, vocabulary),
      sentence: sentence(condition, vocabulary),
    },
  }
}

function checkText(text: string, vocabulary: QueryNames): Outcome<Condition> {
  const parsed = parse(text)
  return parsed.ok ? checkWithin(parsed.value, vocabulary, 'name') : parsed
}

function checkJson(json: unknown, vocabulary: QueryNames, spelling: Spelling): Outcome<Condition> {
  if (json === true) return { ok: true, value: everything }
  const parsed = fromJson(json)
  return parsed.ok ? checkWithin(parsed.value, vocabulary, spelling) : parsed
}

function checkWithin(
  filter: Filter,
  vocabulary: QueryNames,
  spelling: Spelling,
): Outcome<Condition> {
  const error = tooLarge(filter)
  return error ? { ok: false, errors: [error] } : check(filter, vocabulary, spelling)
}
