import { entryOf } from '../known/index.ts'
import type { DefinitionsDocument } from '../definitions/document/document.ts'

/** What of a document says which items links join. */
export interface JoiningRules {
  readonly linkKinds: DefinitionsDocument['linkKinds']
  readonly types: Readonly<Record<string, { readonly title: string }>>
}

/**
 * Why a kind of link does not join two items; nothing where it does. Circles are judged apart, for they take more than two items.
 *
 * @param kind the identity of a kind that there is
 * @param types the types of the items, in the direction of the kind’s title
 */
export function whyNotJoined(
  { linkKinds, types: defined }: JoiningRules,
  kind: string,
  types: { readonly from: string; readonly to: string },
): string | undefined {
  const definition = entryOf(linkKinds, kind)
  const titleOf = (type: string): string => defined[type]?.title ?? type
  for (const end of ['from', 'to'] as const) {
    const allowed = definition[end] ?? []
    if (allowed.length > 0 && !allowed.includes(types[end]))
      return `“${definition.title}” does not join a ${titleOf(types[end])} at this end; it takes ${allowed.map(titleOf).join(', ')}.`
  }
  return undefined
}
