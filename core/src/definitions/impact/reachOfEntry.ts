import { elementAt, keysOf } from '../../known/index.ts'
import type { DefinitionsDocument } from '../document/document.ts'
import { projectsReached } from '../rulebook/resolve.ts'
import type { EntryKind } from '../document/entryKinds.ts'
import { clocksOf } from './clocks.ts'
import { reach, type Reach } from './reach.ts'
import { all, contains, equals, isSet, within } from './filters.ts'
import { holding, type MappedColumn, type Usage } from './usage.ts'

/** An entry of a rulebook that changes, and the projects that take its word before or after. */
interface ChangedEntry {
  readonly before: DefinitionsDocument
  readonly after: DefinitionsDocument
  readonly projects: readonly string[]
  /** the second part of the key: a type, a family, a link kind or a time limit */
  readonly subject: string
  /** the third part of the key: the status a move begins in, or a requirement is for */
  readonly status: string
  readonly usage: Usage
}

/** The items of the entry's projects that meet a filter, which only a count tells. */
const toCount = ({ projects }: ChangedEntry, filter: unknown): Reach => ({
  items: null,
  filter: all(within('project', projects), filter),
})

const inProjects = (
  { usage, projects, subject }: ChangedEntry,
  column: MappedColumn,
  value: string,
): number =>
  holding(usage, column, value, {
    projects: [...projects],
    ...(column === 'type' ? {} : { type: subject }),
  })

function standingIn(entry: ChangedEntry, statuses: readonly string[]): Reach {
  const { projects, subject } = entry
  const items = statuses.reduce((sum, status) => sum + inProjects(entry, 'status', status), 0)
  const filter = all(
    within('project', projects),
    equals('type', subject),
    within('status', statuses),
  )
  return reach(items, filter)
}

const ofType = (entry: ChangedEntry): Reach =>
  reach(
    inProjects(entry, 'type', entry.subject),
    all(within('project', entry.projects), equals('type', entry.subject)),
  )

function withPriority({ usage, projects }: ChangedEntry): Reach {
  const items = usage.held
    .filter((holding) => holding.column === 'priority' && projects.includes(holding.project))
    .reduce((sum, holding) => sum + holding.items, 0)
  return reach(items, all(within('project', projects), isSet('priority')))
}

function underLimit({ before, after, subject, projects }: ChangedEntry): Reach {
  const document = after.limits[subject] ? after : before
  if (!document.limits[subject]) return { items: 0 }
  return { items: null, filter: clocksOf(document, subject, [...projects]) }
}

const reachOfKind: Record<EntryKind, (entry: ChangedEntry) => Reach> = {
  move: (entry) => standingIn(entry, [entry.status]),
  status: (entry) => standingIn(entry, [entry.status]),
  requirement: (entry) => standingIn(entry, movesInto(entry)),
  type: ofType,
  form: ofType,
  ladder: withPriority,
  family: (entry) => toCount(entry, { op: 'in_family', args: [entry.subject] }),
  link: (entry) => toCount(entry, contains('links', entry.subject)),
  limit: underLimit,
  unit: (entry) => toCount(entry, isSet('estimate')),
}

/** An entry reaches the items of its type in the projects that take its word; a move and a requirement only those that stand where it begins. */
export function reachOfEntry(
  before: DefinitionsDocument,
  after: DefinitionsDocument,
  rulebook: string,
  key: string,
  usage: Usage,
): Reach {
  const [kind = '', subject = '', status = ''] = key.split(':')
  const projects = [
    ...new Set([
      ...projectsReached(after, rulebook, key),
      ...(before.rulebooks[rulebook] ? projectsReached(before, rulebook, key) : []),
    ]),
  ]
  const reachOf = keysOf(reachOfKind).find((text) => text === kind)
  if (projects.length === 0 || !reachOf) return { items: 0 }
  return reachOfKind[reachOf]({ before, after, projects, subject, status, usage })
}

/** The statuses from which any rulebook lets a type move into the entry's status. */
function movesInto({ after, subject, status }: ChangedEntry): string[] {
  const moves = Object.values(after.rulebooks)
    .flatMap((rulebook) => Object.keys(rulebook.entries))
    .filter((key) => key.startsWith(`move:${subject}:`) && key.endsWith(`:${status}`))
  return [...new Set(moves.map((key) => elementAt(key.split(':'), 2)))]
}
