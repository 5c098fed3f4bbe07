import type { DefinitionsDocument } from '../document/document.ts'
import type { Requirement } from '../document/rules.ts'
import { builtIns } from '../../queries/tree/vocabulary.ts'
import { listed } from '../../language/listed.ts'

/** What is known of an item, and of who moves it, when it is about to enter a status. */
export interface Entering {
  /** what the person is to this item and its project */
  readonly roles: readonly NonNullable<Requirement['role']>[]
  /** whether a field holds something: a custom one by identity, a built-in one by handle */
  readonly filled: (field: string) => boolean
  /** how many items below it are neither done nor dropped */
  readonly openBelow: number
  /** whether something was said since it came to where it stands */
  readonly commented: boolean
  /** whether something is said with the move itself */
  readonly reasoned: boolean
  /** whether it was ever in a status, or is now */
  readonly been: (status: string) => boolean
}

/** One part of a requirement that an item does not meet. */
export type Unmet =
  | { readonly kind: 'role'; readonly role: string }
  | { readonly kind: 'filled'; readonly fields: readonly string[] }
  | { readonly kind: 'belowDone'; readonly open: number }
  | { readonly kind: 'comment' | 'reason' }
  | { readonly kind: 'been'; readonly statuses: readonly string[] }

/** The parts of a requirement that are not met; none when the item may enter. */
export function unmet(requirement: Requirement, entering: Entering): Unmet[] {
  const { role, filled = [], belowDone, comment, reason, been = [] } = requirement
  const empty = filled.filter((field) => !entering.filled(field))
  return [
    ...(role && !entering.roles.includes(role) ? [{ kind: 'role' as const, role }] : []),
    ...(empty.length > 0 ? [{ kind: 'filled' as const, fields: empty }] : []),
    ...(belowDone && entering.openBelow > 0
      ? [{ kind: 'belowDone' as const, open: entering.openBelow }]
      : []),
    ...(comment && !entering.commented && !entering.reasoned ? [{ kind: 'comment' as const }] : []),
    ...(reason && !entering.reasoned ? [{ kind: 'reason' as const }] : []),
    ...(been.length > 0 && !been.some(entering.been)
      ? [{ kind: 'been' as const, statuses: been }]
      : []),
  ]
}

const builtInTitles = new Map(builtIns.map((property) => [property.handle, property.title]))

/** The title of a field as forms and requirements name it: a custom one by identity, a built-in one by handle. */
export const fieldTitle = (document: DefinitionsDocument, field: string): string =>
  document.fields[field]?.title ?? builtInTitles.get(field) ?? field

/** An unmet part as the refused person reads it. */
export function unmetInWords(document: DefinitionsDocument, part: Unmet): string {
  const titles = (statuses: readonly string[]): string =>
    listed(statuses.map((id) => document.statuses[id]?.title ?? id))
  switch (part.kind) {
    case 'role':
      return part.role === 'assignee'
        ? 'Only the one it is assigned to may do this.'
        : `Only ${part.role === 'administrator' ? 'an administrator' : 'a keeper of the project'} may do this.`
    case 'filled':
      return `${listed(
        part.fields.map((field) => fieldTitle(document, field)),
        'and',
      )} must be filled first.`
    case 'belowDone':
      return part.open === 1
        ? 'One item below it is still open.'
        : `${part.open} items below it are still open.`
    case 'comment':
      return 'Something must be said about it first.'
    case 'reason':
      return 'Say why, together with the move.'
    case 'been':
      return `It must have been in ${titles(part.statuses)} before.`
  }
}

/** What a requirement asks, in few words, for a grid or a margin: “a comment, Surveyor filled”. */
export function requirementInWords(
  document: DefinitionsDocument,
  requirement: Requirement,
): string {
  const { role, filled = [], belowDone, comment, reason, been = [] } = requirement
  return [
    ...(role
      ? [
          role === 'administrator'
            ? 'an administrator'
            : role === 'assignee'
              ? 'the assignee'
              : 'a keeper',
        ]
      : []),
    ...filled.map((field) => fieldTitle(document, field)),
    ...(belowDone ? ['all below done'] : []),
    ...(comment ? ['a comment'] : []),
    ...(reason ? ['a reason'] : []),
    ...(been.length > 0
      ? [`was in ${listed(been.map((id) => document.statuses[id]?.title ?? id))}`]
      : []),
  ].join(', ')
}
