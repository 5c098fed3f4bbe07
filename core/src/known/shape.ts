import { MissingError } from './presence.ts'

const mismatch = (wanted: string, value: unknown): MissingError =>
  new MissingError(`There is no ${wanted} but ${JSON.stringify(value) ?? 'nothing'}.`)

/** The text that a value is known to be. @throws {MissingError} where it is none */
export function asText(value: unknown): string {
  if (typeof value === 'string') return value
  throw mismatch('text', value)
}

/** The text that a value is known to be, or null where there is none. @throws {MissingError} where it is something else */
export const asTextOrNull = (value: unknown): string | null =>
  value === undefined || value === null ? null : asText(value)

/** The number that a value is known to be. @throws {MissingError} where it is none */
export function asNumber(value: unknown): number {
  if (typeof value === 'number') return value
  throw mismatch('number', value)
}

/** The texts that a value is known to be; nothing is no texts. @throws {MissingError} where it is something else */
export function asTexts(value: unknown): readonly string[] {
  if (value === undefined || value === null) return []
  if (Array.isArray(value) && value.every((entry) => typeof entry === 'string')) return value
  throw mismatch('list of texts', value)
}

/** The numbers that a value is known to be. @throws {MissingError} where it is something else */
export function asNumbers(value: unknown): readonly number[] {
  if (Array.isArray(value) && value.every((entry) => typeof entry === 'number')) return value
  throw mismatch('list of numbers', value)
}

/** Whether a value has named parts, as an object of JSON has. */
export const isRecord = (value: unknown): value is Readonly<Record<string, unknown>> =>
  typeof value === 'object' && value !== null && !Array.isArray(value)

/** The named parts of a value; nothing has none. @throws {MissingError} where it is something else */
export function asRecord(value: unknown): Readonly<Record<string, unknown>> {
  if (value === undefined || value === null) return {}
  if (isRecord(value)) return value
  throw mismatch('record', value)
}

/** The two parts of a text around the first sign, the second empty where the sign is not in it. */
export function halves(text: string, sign: string): [before: string, after: string] {
  const at = text.indexOf(sign)
  return at < 0 ? [text, ''] : [text.slice(0, at), text.slice(at + sign.length)]
}

/** Whether a text is one of some words. */
export const isOneOf = <T extends string>(words: readonly T[], text: string): text is T =>
  words.some((word) => word === text)

/** The keys of a table that is written out in the code. */
export const keysOf = <T extends object>(table: T): (keyof T & string)[] =>
  // The language types the keys of any object as text, for it may have more than its type says; a table has not.
  Object.keys(table) as (keyof T & string)[]
