import { Rulebook, TimeLimit } from './rules.ts'
import { Family, Field, ItemType, Ladder, LinkKind, Priority, Status } from './entries.ts'
import { byIdentity, closed, identity } from './shapes.ts'
import { type Static, Type } from 'typebox'
import type { Immutable } from '../../schema/index.ts'

/** The whole vocabulary of an organisation: one document, kept whole by every edition. */
export const DefinitionsDocument = closed(
  {
    format: Type.Literal(1),
    types: byIdentity('ty', ItemType),
    fields: byIdentity('fi', Field),
    statuses: byIdentity('st', Status),
    priorities: byIdentity('pi', Priority),
    ladders: byIdentity('ld', Ladder),
    families: byIdentity('fa', Family),
    linkKinds: byIdentity('lk', LinkKind),
    limits: byIdentity('tl', TimeLimit),
    rulebooks: byIdentity('rb', Rulebook),
    projects: Type.Record(Type.String({ pattern: '^pr_[a-z0-9]{2,24}$' }), identity('rb'), {
      additionalProperties: false,
      description: 'which rulebook each project follows',
    }),
  },
  'Bluestem definitions',
)

export type DefinitionsDocument = Immutable<Static<typeof DefinitionsDocument>>

/** A document in which nothing is defined yet. */
export const emptyDocument: DefinitionsDocument = {
  format: 1,
  types: {},
  fields: {},
  statuses: {},
  priorities: {},
  ladders: {},
  families: {},
  linkKinds: {},
  limits: {},
  rulebooks: {},
  projects: {},
}
