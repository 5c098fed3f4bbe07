import { type TProperties, type TSchema, Type } from 'typebox'
import { type Answer, answer, reference } from '../schema/index.ts'

const shared = Type.Enum(['me', 'everyone'])
const title = Type.String({ minLength: 1, maxLength: 120 })
const description = Type.String({ maxLength: 2000 })

/** The kinds of things people save, with the beginning of their identities. */
export const savedKinds = { query: 'qu', view: 'vi', measure: 'me', dashboard: 'da' } as const
export type SavedKind = keyof typeof savedKinds

/** What is told of everything saved, whatever it holds. */
const Parts = answer('Something saved', {
  ...reference,
  description: Type.String(),
  shared,
  owner: answer('Who owns it', reference),
  changedAt: Type.String(),
  mayEdit: Type.Boolean(),
  version: Type.Integer(),
})

/** Something saved, as it is told: who sees it, who may change it, and what it holds. */
export type SavedThing<Content> = Answer<typeof Parts> & { readonly content: Content }

/**
 * The schemas of one kind of saved thing: a new one, changes to one, and how one is told.
 *
 * @param content what it holds
 * @param more what is told beside it
 */
export const savedSchemas = <Content extends TSchema, More extends TProperties>(
  kind: SavedKind,
  content: Content,
  more: More,
) => ({
  New: Type.Object(
    { title, description: Type.Optional(description), shared: Type.Optional(shared), content },
    { additionalProperties: false, title: `A new ${kind}` },
  ),
  Change: Type.Object(
    {
      title: Type.Optional(title),
      description: Type.Optional(description),
      shared: Type.Optional(shared),
      content: Type.Optional(content),
    },
    { additionalProperties: false, title: `Changes to a ${kind}` },
  ),
  Saved: answer(`A saved ${kind}`, { ...Parts.properties, content, ...more }),
})

/** What rests on something saved. */
export const SavedUsage = answer('What rests on it', {
  usedBy: Type.Array(answer('Something that rests on it', { kind: Type.String(), ...reference })),
})
