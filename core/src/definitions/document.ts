import { Type, type Static, type TProperties } from 'typebox'
import { phases } from '../queries/vocabulary.ts'

/** An object schema that allows nothing beside what it names. */
const closed = <T extends TProperties>(properties: T, title: string) => Type.Object(properties, { additionalProperties: false, title })
const title = Type.String({ minLength: 1, maxLength: 80, description: 'what people read' })
const description = Type.String({ maxLength: 2000, description: 'when to use it' })
const order = Type.String({ minLength: 1, maxLength: 200, description: 'a sortable key: entries stand in its order, by code point' })
const identity = (prefix: string) => Type.String({ pattern: `^${prefix}_[a-z0-9]{2,24}$` })
const byIdentity = <T extends ReturnType<typeof closed>>(prefix: string, entry: T) => Type.Record(Type.String({ pattern: `^${prefix}_[a-z0-9]{2,24}$` }), entry, { additionalProperties: false })

export const fieldKinds = ['text', 'long text', 'number', 'date', 'moment', 'yes/no', 'choice', 'several choices', 'person', 'people', 'web address'] as const
export type FieldKind = (typeof fieldKinds)[number]

export const ItemType = closed({
  order, title, description,
  monogram: Type.String({ pattern: '^\\p{Lu}\\p{Ll}$', description: 'two letters that stand for the type on rows and cards' }),
  tier: Type.Integer({ minimum: 0, maximum: 4, description: '0 the smallest; a parent is always of a higher tier' }),
}, 'Type')

export const Option = closed({ order, title, description }, 'Option')

export const Field = closed({
  order, title, description,
  handle: Type.String({ pattern: '^[a-z][a-z0-9_]{0,39}$', description: 'its name in queries and files; it never changes' }),
  kind: Type.Enum([...fieldKinds]),
  unit: Type.Optional(Type.String({ maxLength: 12 })),
  decimals: Type.Optional(Type.Integer({ minimum: 0, maximum: 6 })),
  options: Type.Optional(byIdentity('op', Option)),
}, 'Field')

export const Status = closed({
  order, title, description,
  phase: Type.Enum([...phases]),
  queue: Type.Boolean({ description: 'work lies still in it' }),
}, 'Status')

export const Priority = closed({ order, title, description, urgency: Type.Integer({ minimum: 1, maximum: 5, description: '1 the most urgent; means the same for everybody' }) }, 'Priority')

export const Ladder = closed({
  order, title, description,
  rungs: Type.Record(Type.String({ pattern: '^pi_[a-z0-9]{2,24}$' }), closed({ order }, 'Rung'), { additionalProperties: false }),
  default: Type.Union([identity('pi'), Type.Null()]),
}, 'Ladder')

export const Family = closed({ order, title, description, pick: Type.Union([Type.Literal('one'), Type.Literal('many')]) }, 'Family')

export const LinkKind = closed({ order, title, description, inverse: title }, 'Link kind')

/** What an entry of a rulebook may hold; which parts it has follows from its key. */
export const RulebookEntry = closed({
  order: Type.Optional(order),
  start: Type.Optional(identity('st')),
  section: Type.Optional(Type.String({ maxLength: 80 })),
  required: Type.Optional(Type.Boolean()),
  ladder: Type.Optional(identity('ld')),
}, 'Entry of a rulebook')

export const Rulebook = closed({
  order, title, description,
  extends: Type.Union([identity('rb'), Type.Null()]),
  entries: Type.Record(Type.String(), Type.Union([RulebookEntry, Type.Literal('out')]), { description: 'by key: type:TY, status:TY:ST, move:TY:FROM:TO, form:TY:item:FIELD, form:TY:make:FIELD, ladder, family:FA, link:LK' }),
}, 'Rulebook')

/** The whole vocabulary of an organisation: one document, kept whole by every edition. */
export const DefinitionsDocument = closed({
  format: Type.Literal(1),
  types: byIdentity('ty', ItemType),
  fields: byIdentity('fi', Field),
  statuses: byIdentity('st', Status),
  priorities: byIdentity('pi', Priority),
  ladders: byIdentity('ld', Ladder),
  families: byIdentity('fa', Family),
  linkKinds: byIdentity('lk', LinkKind),
  rulebooks: byIdentity('rb', Rulebook),
  projects: Type.Record(Type.String({ pattern: '^pr_[a-z0-9]{2,24}$' }), identity('rb'), { additionalProperties: false, description: 'which rulebook each project follows' }),
}, 'Bluestem definitions')

export type ItemType = Static<typeof ItemType>
export type Option = Static<typeof Option>
export type Field = Static<typeof Field>
export type Status = Static<typeof Status>
export type Priority = Static<typeof Priority>
export type Ladder = Static<typeof Ladder>
export type Family = Static<typeof Family>
export type LinkKind = Static<typeof LinkKind>
export type RulebookEntry = Static<typeof RulebookEntry>
export type Rulebook = Static<typeof Rulebook>
export type DefinitionsDocument = Static<typeof DefinitionsDocument>

/** The maps of the document that hold definitions with a title and a description. */
export const sections = ['types', 'fields', 'statuses', 'priorities', 'ladders', 'families', 'linkKinds', 'rulebooks'] as const
export type Section = (typeof sections)[number]

/** What an identity of each section begins with. */
export const prefixes: Record<Section, string> = { types: 'ty', fields: 'fi', statuses: 'st', priorities: 'pi', ladders: 'ld', families: 'fa', linkKinds: 'lk', rulebooks: 'rb' }

/** What one entry of a section is called. */
export const sectionWords: Record<Section, string> = { types: 'type', fields: 'field', statuses: 'status', priorities: 'priority', ladders: 'ladder', families: 'family', linkKinds: 'link kind', rulebooks: 'rulebook' }

export interface Ordered { readonly order: string }

/** The entries of a map in their defined order: by key, then identity, by code point. */
export function inOrder<T extends Ordered>(map: Readonly<Record<string, T>>): (T & { readonly id: string })[] {
  return Object.entries(map)
    .map(([id, entry]) => ({ ...entry, id }))
    .sort((a, b) => (a.order < b.order ? -1 : a.order > b.order ? 1 : a.id < b.id ? -1 : 1))
}

/** A document in which nothing is defined yet. */
export const emptyDocument: DefinitionsDocument = { format: 1, types: {}, fields: {}, statuses: {}, priorities: {}, ladders: {}, families: {}, linkKinds: {}, rulebooks: {}, projects: {} }
