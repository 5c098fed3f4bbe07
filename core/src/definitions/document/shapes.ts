import { type TProperties, Type } from 'typebox'

/** An object schema that allows nothing beside what it names. */
export const closed = <T extends TProperties>(properties: T, title: string) =>
  Type.Object(properties, { additionalProperties: false, title })

export const title = Type.String({ minLength: 1, maxLength: 80, description: 'what people read' })

export const description = Type.String({ maxLength: 2000, description: 'when to use it' })

export const order = Type.String({
  minLength: 1,
  maxLength: 200,
  description: 'a sortable key: entries stand in its order, by code point',
})

export const identity = (prefix: string) => Type.String({ pattern: `^${prefix}_[a-z0-9]{2,24}$` })

export const byIdentity = <T extends ReturnType<typeof closed>>(prefix: string, entry: T) =>
  Type.Record(Type.String({ pattern: `^${prefix}_[a-z0-9]{2,24}$` }), entry, {
    additionalProperties: false,
  })

export const retired = Type.Optional(
  Type.Boolean({ description: 'kept where it is used, no longer offered' }),
)

export const identities = (prefix: string) =>
  Type.Array(identity(prefix), { maxItems: 200, uniqueItems: true })
