import { isOneOf } from '../known/index.ts'
import type { Role } from '../people/index.ts'
import type { DirectoryAnswer } from './schema.ts'

/** Somebody as the directory has them. */
export interface DirectoryEntry {
  readonly email: string
  readonly name: string
  /** what they may do; nothing where the directory does not say */
  readonly role: Role | null
}

/** A line of a file, in cells. */
export interface DirectoryLine {
  readonly line: number
  readonly cells: readonly string[]
}

type Problem = DirectoryAnswer['problems'][number]

const headings = ['name', 'email', 'role'] as const
type Heading = (typeof headings)[number]

const roles: readonly Role[] = ['viewer', 'member', 'administrator']

const plain = (text: string | undefined): string => (text ?? '').trim()

/** What is wrong with who stands in a line. */
function problemsOf(
  line: number,
  at: Readonly<Record<Heading, string>>,
  before: number | undefined,
): Problem[] {
  const wrong = (column: Heading, message: string, expected: string): Problem => ({
    line,
    column,
    message,
    expected,
    found: at[column],
  })
  return [
    ...(at.name === '' || at.name.length > 80
      ? [wrong('name', 'A person needs a name.', 'a name of at most 80 letters')]
      : []),
    ...(/^[^@\s]+@[^@\s]+$/.test(at.email)
      ? []
      : [wrong('email', 'This is no e-mail address.', 'the address by which they sign in')]),
    ...(before === undefined
      ? []
      : [wrong('email', `Line ${before} has the same address already.`, 'each address once')]),
    ...(at.role === '' || isOneOf(roles, at.role)
      ? []
      : [wrong('role', `There is no role “${at.role}”.`, roles.join(', '))]),
  ]
}

/**
 * Reads a directory of people: a table with the headings *name* and *email*, and *role* where the directory says what people may do.
 * Whatever else stands in it is passed over.
 */
export function readDirectory(lines: readonly DirectoryLine[]): {
  readonly entries: readonly DirectoryEntry[]
  readonly problems: readonly Problem[]
} {
  const [head, ...rows] = lines
  const named = (head?.cells ?? []).map((cell) => plain(cell).toLowerCase())
  const missing = headings.filter((heading) => heading !== 'role' && !named.includes(heading))
  if (missing.length > 0)
    return {
      entries: [],
      problems: missing.map((heading) => ({
        line: head?.line ?? 1,
        column: null,
        message: `The directory has no column “${heading}”.`,
        expected: 'the headings name and email in the first line',
      })),
    }
  const met = new Map<string, number>()
  const problems: Problem[] = []
  const entries: DirectoryEntry[] = []
  for (const { line, cells } of rows) {
    const cell = (heading: Heading): string => plain(cells[named.indexOf(heading)])
    const at = {
      name: cell('name'),
      email: cell('email').toLowerCase(),
      role: cell('role').toLowerCase(),
    }
    const wrong = problemsOf(line, at, met.get(at.email))
    met.set(at.email, met.get(at.email) ?? line)
    problems.push(...wrong)
    if (wrong.length === 0)
      entries.push({ ...at, role: roles.find((role) => role === at.role) ?? null })
  }
  return { entries, problems }
}
