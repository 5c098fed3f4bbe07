import { isRecord } from '../known/index.ts'
import { type Static, type TProperties, type TSchema, Type } from 'typebox'

/** A value that nobody changes, however deep. */
export type Immutable<T> = T extends object ? { readonly [Key in keyof T]: Immutable<T[Key]> } : T

/** What a schema of an answer tells, as whoever reads it has it. */
export type Answer<Schema extends TSchema> = Immutable<Static<Schema>>

/** An answer of exactly these parts. */
export const answer = <Parts extends TProperties>(title: string, parts: Parts) =>
  Type.Object(parts, { additionalProperties: false, title })

export const orNull = <Schema extends TSchema>(schema: Schema) => Type.Union([schema, Type.Null()])

/** Something that has an identity and a title. */
export const reference = { id: Type.String(), title: Type.String() }

/** A choice as it is shown: `mark` is what its mark needs, `family` the title of a label's family. */
export const ShownChoice = answer('A choice', {
  ...reference,
  mark: Type.Optional(orNull(Type.Union([Type.String(), Type.Number()]))),
  family: Type.Optional(Type.String()),
})
export type ShownChoice = Answer<typeof ShownChoice>

/** Whether a value of an item is a choice as it is shown. */
export const isChoice = (value: unknown): value is ShownChoice =>
  isRecord(value) && typeof value['id'] === 'string' && typeof value['title'] === 'string'

/** The choice that a value of an item is, or null where it is none. */
export const asChoice = (value: unknown): ShownChoice | null => (isChoice(value) ? value : null)

/** The choices that a value of an item is a list of. */
export const asChoices = (value: unknown): readonly ShownChoice[] =>
  Array.isArray(value) ? value.filter(isChoice) : []

/** What crosses HTTP at one endpoint. What it leaves out is empty: no query, no body, an answer of no content. */
export interface Contract {
  readonly query?: TSchema
  readonly body?: TSchema
  readonly answer?: TSchema
  /** whether who prefers a minimal answer gets none (RFC 7240, `Prefer: return=minimal`) */
  readonly mayBeMinimal?: true
}

/** The contracts of a place, by method and path below `/api/v1`. */
export type Contracts = Readonly<
  Record<`${'GET' | 'POST' | 'PATCH' | 'DELETE'} /${string}`, Contract>
>

/** Text of a body, from `least` to `most` characters. */
export const text = (most: number, least = 1) => Type.String({ minLength: least, maxLength: most })

/** An identity of one kind, such as `la` for labels: nothing else is looked up. */
export const identity = (prefix: string) => Type.String({ pattern: `^${prefix}_[a-z0-9_]{1,40}$` })

export const identityOrNone = (prefix: string) =>
  Type.Union([Type.String({ pattern: `^${prefix}_` }), Type.Null()])

export const identities = (prefix: string, most: number) =>
  Type.Array(identity(prefix), { maxItems: most, uniqueItems: true })

/** Several entries that become one. */
export const merging = (prefix: string) =>
  Type.Object(
    { into: identity(prefix), from: Type.Array(identity(prefix), { minItems: 1, maxItems: 500 }) },
    { additionalProperties: false, title: 'Several made one' },
  )
