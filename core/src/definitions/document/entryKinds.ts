import { halves, MissingError } from '../../known/index.ts'

/** What kinds of entries a rulebook has, by the first word of their keys, as people call them. */
export const entryKinds = {
  type: 'type',
  status: 'status of a flow',
  move: 'move',
  requirement: 'requirement',
  form: 'place on a form',
  ladder: 'ladder',
  unit: 'estimate unit',
  family: 'family',
  link: 'link kind',
  limit: 'time limit',
} as const
export type EntryKind = keyof typeof entryKinds

const isEntryKind = (word: string): word is EntryKind => Object.hasOwn(entryKinds, word)

/** What an entry of a rulebook is about. @throws {MissingError} where its key begins with no such kind */
export function kindOfEntry(key: string): EntryKind {
  const [kind] = halves(key, ':')
  if (isEntryKind(kind)) return kind
  throw new MissingError(`There is no kind of entry “${kind}”.`)
}

/** The form of every key of an entry: its kind, then what it is about. */
export const entryKeyPattern = `^(?:${Object.keys(entryKinds).join('|')})(?::\\w+)*$`
