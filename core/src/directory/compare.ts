import type { Role } from '../people/index.ts'
import type { DirectoryEntry } from './read.ts'
import type { DirectoryAnswer } from './schema.ts'

/** Somebody as they are here. */
export interface KnownPerson {
  readonly id: string
  readonly email: string
  readonly name: string
  readonly role: Role
  readonly active: boolean
}

type Comparison = Pick<DirectoryAnswer, 'joins' | 'differs' | 'gone' | 'same'>

/**
 * What is otherwise here than in the directory. People are known again by their addresses.
 *
 * @param isWhole whether the directory was read without a problem; else nobody counts as gone, for they may stand where it cannot be read
 */
export function compareDirectory(
  people: readonly KnownPerson[],
  entries: readonly DirectoryEntry[],
  isWhole: boolean,
): Comparison {
  const known = new Map(people.map((person) => [person.email.toLowerCase(), person]))
  const listed = new Set(entries.map(({ email }) => email))
  const joins = entries
    .filter(({ email }) => !known.has(email))
    .map(({ email, name, role }) => ({ email, name, role: role ?? ('member' as const) }))
  const here = entries.flatMap((entry) => {
    const person = known.get(entry.email)
    return person ? [{ entry, person }] : []
  })
  const differs = here.flatMap(({ entry, person }) => {
    const { id, email, name, role, active } = person
    const after = { name: entry.name, role: entry.role ?? role, active: true }
    const isSame = name === after.name && role === after.role && active
    return isSame ? [] : [{ id, email, before: { name, role, active }, after }]
  })
  const gone = isWhole
    ? people
        .filter(({ email, active }) => active && !listed.has(email.toLowerCase()))
        .map(({ id, email, name, role }) => ({ id, email, name, role }))
    : []
  return { joins, differs, gone, same: here.length - differs.length }
}
