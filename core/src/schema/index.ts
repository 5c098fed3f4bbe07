import { Type } from 'typebox'

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
