import { elementAt } from '../known/index.ts'
import type { DefinitionsDocument } from '../definitions/index.ts'

/** What a column of a file becomes: a field by its handle, the ref of the item that a row changes, links of a kind, or nothing. */
export type ColumnTarget = string | null

export type LinkKinds = DefinitionsDocument['linkKinds']

/** What a column of links says: the item of a row is linked with what its cells name, by a kind and in a direction. */
export interface LinkColumn {
  readonly kind: string
  /** out where the item of the row comes first in the words of the kind */
  readonly direction: 'out' | 'in'
}

/** What a column becomes that holds links. */
export const linkTarget = ({ kind, direction }: LinkColumn): string => `link:${kind}:${direction}`

/** What a column of links says; nothing of any other column. */
export function linkColumnOf(target: ColumnTarget): LinkColumn | undefined {
  const found = /^link:(.+):(out|in)$/.exec(target ?? '')
  return found
    ? { kind: elementAt(found, 1), direction: found[2] === 'in' ? 'in' : 'out' }
    : undefined
}

/** All that columns of links can become, with the words in which a kind is read from the item of the row. */
export const linkTargets = (
  kinds: LinkKinds,
): { readonly target: string; readonly words: string }[] =>
  Object.entries(kinds).flatMap(([kind, { title, inverse, retired }]) =>
    retired
      ? []
      : [
          { target: linkTarget({ kind, direction: 'out' }), words: title },
          ...(inverse === title
            ? []
            : [{ target: linkTarget({ kind, direction: 'in' }), words: inverse }]),
        ],
  )
