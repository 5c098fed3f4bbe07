import { asText, isRecord } from '../known/index.ts'
import { instantOf, isDay, isInstantText } from '../calendar/day.ts'
import { patternOf } from '../definitions/document/pattern.ts'
import { describe } from '../queries/typeWords.ts'
import type { FactValue } from '../queries/tree/facts.ts'
import { nearest } from '../queries/nearest.ts'
import type { QueryNames } from '../queries/tree/vocabulary.ts'
import type { Domain, Property } from '../queries/tree/checked.ts'

/** What a value must meet beside being of its property's kind. */
export interface Rules {
  readonly decimals?: number | undefined
  readonly webAddress?: boolean
  readonly longest?: number
  readonly smallest?: number | undefined
  readonly largest?: number | undefined
  /** a regular expression that the whole text must match */
  readonly pattern?: string | undefined
}

export type ReadValue =
  | { readonly ok: true; readonly value: FactValue }
  | {
      readonly ok: false
      readonly message: string
      readonly expected: string
      readonly found: string
    }

const refused = (message: string, expected: string, found: unknown): ReadValue => ({
  ok: false,
  message,
  expected,
  found: typeof found === 'string' ? found : (JSON.stringify(found) ?? ''),
})

/** Text as it is kept: composed (NFC), without what no database and no screen can show. */
export function cleanText(
  text: string,
): { readonly ok: true; readonly text: string } | { readonly ok: false; readonly message: string } {
  if (text.includes('\u0000'))
    return {
      ok: false,
      message: 'The text holds the character U+0000, which cannot be kept; take it out.',
    }
  if (/[\ud800-\udbff](?![\udc00-\udfff])|(?<![\ud800-\udbff])[\udc00-\udfff]/.test(text))
    return {
      ok: false,
      message: 'The text holds half of a character (a lone surrogate); write it anew.',
    }
  return { ok: true, text: text.normalize('NFC') }
}

/**
 * Reads a value from outside for a property: `null` and empty text empty it; choices come by identity or by their exact name.
 *
 * @returns the value as items hold it: numbers as decimal text, moments in milliseconds, choices by identity
 */
export function readValue(
  property: Property,
  rules: Rules,
  raw: unknown,
  vocabulary: QueryNames,
): ReadValue {
  if (property.computed)
    return refused(`${property.title} is computed, so it cannot be given.`, 'nothing', raw)
  if (raw === null || raw === '')
    return { ok: true, value: property.type.kind === 'array' ? [] : null }
  switch (property.type.kind) {
    case 'text':
      return readText(property, rules, raw)
    case 'number':
      return readNumber(property, rules, raw)
    case 'boolean':
      return typeof raw === 'boolean'
        ? { ok: true, value: raw }
        : refused(`${property.title} is yes or no.`, 'true or false', raw)
    case 'date':
      return typeof raw === 'string' && isDay(raw)
        ? { ok: true, value: raw }
        : refused(`${property.title} is a day.`, '2026-03-01', raw)
    case 'timestamp':
      return typeof raw === 'string' && isInstantText(raw)
        ? { ok: true, value: instantOf(raw) }
        : refused(`${property.title} is a moment in UTC.`, '2026-03-01T08:00:00Z', raw)
    case 'choice':
      return readChoice(property, property.type.domain, raw, vocabulary)
    case 'array':
      return readChoices(property, property.type.domain, raw, vocabulary)
    case 'interval':
      return refused('An interval cannot be kept.', 'another value', raw)
  }
}

function readText(
  property: Property,
  { webAddress, longest = 20_000, pattern }: Rules,
  raw: unknown,
): ReadValue {
  if (typeof raw !== 'string') return refused(`${property.title} is text.`, 'text', raw)
  const clean = cleanText(raw)
  if (!clean.ok)
    return refused(`${property.title}: ${clean.message}`, 'text that can be kept', raw.slice(0, 40))
  const text = clean.text.trim()
  if (text === '') return { ok: true, value: null }
  if (text.length > longest)
    return refused(
      `${property.title} has ${text.length} characters; at most ${longest} are kept.`,
      `at most ${longest} characters`,
      `${text.slice(0, 40)}…`,
    )
  // Matching takes time in proportion to the text and to the pattern, so with a pattern texts are short.
  if (pattern !== undefined && text.length > 200)
    return refused(
      `${property.title} has ${text.length} characters; with a pattern at most 200 are kept.`,
      'at most 200 characters',
      `${text.slice(0, 40)}…`,
    )
  // A pattern of before that cannot be used any more keeps nobody from giving a value.
  const shape = pattern === undefined ? undefined : patternOf(pattern)
  if (shape?.ok && !shape.matches(text))
    return refused(`${property.title} does not look as it should.`, pattern ?? '', text)
  if (webAddress && !/^https?:\/\/[^\s/]+\S*$/i.test(text))
    return refused(`${property.title} is a web address.`, 'https://…', text)
  return { ok: true, value: text }
}

function readNumber(
  property: Property,
  { decimals, smallest, largest }: Rules,
  raw: unknown,
): ReadValue {
  const text =
    typeof raw === 'number' && Number.isFinite(raw)
      ? plain(raw)
      : typeof raw === 'string'
        ? raw.trim()
        : (decimalIn(raw) ?? '')
  if (!/^-?\d{1,30}(\.\d{1,20})?$/.test(text))
    return refused(`${property.title} is a number.`, 'a number such as 2.5', raw)
  const places = text.split('.')[1]?.replace(/0+$/, '').length ?? 0
  if (decimals !== undefined && places > decimals)
    return refused(
      `${property.title} has at most ${decimals} ${decimals === 1 ? 'decimal' : 'decimals'}.`,
      `at most ${decimals} decimals`,
      text,
    )
  if (smallest !== undefined && Number(text) < smallest)
    return refused(`${property.title} is at least ${smallest}.`, `at least ${smallest}`, text)
  if (largest !== undefined && Number(text) > largest)
    return refused(`${property.title} is at most ${largest}.`, `at most ${largest}`, text)
  return { ok: true, value: text }
}

/** The text of a number that travelled as a decimal, for it has more digits than double precision. */
const decimalIn = (raw: unknown): string | undefined => {
  if (!isRecord(raw) || raw['op'] !== 'decimal' || !Array.isArray(raw['args'])) return undefined
  const args: readonly unknown[] = raw['args']
  const [number] = args
  return typeof number === 'string' ? number : undefined
}

/** A number as plain decimal text, without the exponent JavaScript may write. */
const plain = (value: number): string =>
  /e/i.test(String(value)) ? value.toFixed(20).replace(/\.?0+$/, '') : String(value)

function readChoice(
  property: Property,
  domain: Domain,
  raw: unknown,
  vocabulary: QueryNames,
): ReadValue {
  const written =
    typeof raw === 'string'
      ? raw
      : raw !== null && typeof raw === 'object' && 'id' in raw
        ? String(raw.id)
        : undefined
  const kind = describe({ kind: 'choice', domain })
  if (written === undefined)
    return refused(`${property.title} is ${kind}.`, 'its identity or its name', raw)
  if (domain === 'item')
    return /^[A-Z][A-Z0-9]{1,9}\/[1-9]\d{0,8}$/.test(written)
      ? { ok: true, value: written }
      : refused(
          `${property.title} is an item, named by its ref.`,
          'a ref such as SITE/128',
          written,
        )
  const choices = vocabulary.choices(domain)
  const found =
    vocabulary.choice(domain, written) ??
    only(choices.filter((choice) => choice.name === written)) ??
    choices.find((choice) => choice.qualified === written)
  if (found) return { ok: true, value: found.id }
  const near = nearest(
    written,
    choices.map((choice) => choice.name),
  )
  return refused(
    `There is no such value of ${property.title}: “${written}”.${near ? ` Did you mean “${near}”?` : ''}`,
    kind,
    written,
  )
}

const only = <T>(list: readonly T[]): T | undefined => (list.length === 1 ? list[0] : undefined)

function readChoices(
  property: Property,
  domain: Domain,
  raw: unknown,
  vocabulary: QueryNames,
): ReadValue {
  if (!Array.isArray(raw)) return refused(`${property.title} holds several values.`, 'a list', raw)
  if (raw.length > 200)
    return refused(
      `${property.title} holds at most 200 values.`,
      'at most 200 values',
      `${raw.length} values`,
    )
  const ids: string[] = []
  for (const entry of raw) {
    const reading = readChoice(property, domain, entry, vocabulary)
    if (!reading.ok) return reading
    if (!ids.includes(asText(reading.value))) ids.push(asText(reading.value))
  }
  return { ok: true, value: ids }
}
