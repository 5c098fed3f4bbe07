import type { Day } from '../../calendar/day.ts'
import type { WorkingTime } from '../../calendar/working.ts'
import type { LimitedProjects } from '../../limits/clock.ts'
import type { Condition, Domain, Property, Type, Value } from './checked.ts'

/** One value of a domain: `name` is its spelling in a query, `qualified` the one that is never ambiguous, `title` what screens show. */
export interface Choice {
  readonly id: string
  readonly name: string
  readonly qualified: string
  readonly title: string
  /** a label of a family: the family's identity and the label's own title */
  readonly family?: string
  readonly own?: string
  /** kept where it is used, no longer offered */
  readonly retired?: true
}

/** Days that work is planned into; `end` is the last. */
interface Days {
  readonly id: string
  readonly start: Day | null
  readonly end: Day | null
}

/** An iteration: days of a team, or of the whole workspace where the owner is empty. */
export interface Span extends Days {
  readonly owner: string
}

/** A release: days of the projects that it belongs to. It comes out on its last day. */
export interface Release extends Days {
  readonly projects: readonly string[]
}

/** A team as queries see it: who belongs to it, and the filter for the items that are theirs, where it has one that can be read. */
export interface TeamRemit {
  readonly id: string
  readonly people: ReadonlySet<string>
  readonly remit: Condition | null
  /** by which the clocks of its items run, where it has one of its own */
  readonly working: WorkingTime | null
}

/** Everything a query can name, as it is defined now: what reading, checking and saying one needs. */
export interface QueryNames {
  readonly properties: ReadonlyMap<string, Property>
  /** the values of a domain in their defined order; empty for `item`, whose refs are not listed */
  choices(domain: Domain): readonly Choice[]
  choice(domain: Domain, id: string): Choice | undefined
}

/** What a query can name, and what else is defined that answering one needs. */
export interface Vocabulary extends QueryNames {
  tierOf(type: string): number | null
  urgencyOf(priority: string): number | null
  /** the priority's place on the ladder that the project follows, 1 the most urgent; null when it is not on it */
  rungOf(project: string, priority: string): number | null
  /** whether the form of a type in a project has a field; a computed one exists only there */
  isOnForm(project: string, type: string, handle: string): boolean
  readonly iterations: readonly Span[]
  readonly releases: readonly Release[]
  readonly teams: readonly TeamRemit[]
  /** the time limits that are offered anywhere, by identity */
  readonly limits: ReadonlyMap<string, LimitedProjects>
  /** the working time of a project, by which clocks run where no team's does */
  workingOf(project: string): WorkingTime
}

const always = { changesWith: ['own'], nullable: false, builtIn: true } as const
const maybe = { changesWith: ['own'], nullable: true, builtIn: true } as const
const choice = (domain: Domain): Type => ({ kind: 'choice', domain })
const array = (domain: Domain): Type => ({ kind: 'array', domain })
const number: Type = { kind: 'number' }
const text: Type = { kind: 'text' }

/** The properties every item has, in the order in which they are offered. */
export const builtIns: readonly Property[] = [
  { handle: 'ref', title: 'Ref', type: text, ...always },
  { handle: 'title', title: 'Title', type: text, ...always },
  { handle: 'description', title: 'Description', type: text, ...maybe },
  { handle: 'project', title: 'Project', type: choice('project'), ...always },
  { handle: 'type', title: 'Type', type: choice('type'), ...always },
  { handle: 'tier', title: 'Tier', type: number, ...always },
  { handle: 'status', title: 'Status', type: choice('status'), ...always },
  { handle: 'phase', title: 'Phase', type: choice('phase'), ...always },
  { handle: 'priority', title: 'Priority', type: choice('priority'), ...maybe },
  { handle: 'rung', title: 'Rung', type: number, ...maybe },
  { handle: 'urgency', title: 'Urgency', type: number, ...maybe },
  { handle: 'assignee', title: 'Assignee', type: choice('person'), ...maybe },
  { handle: 'raised_by', title: 'Raised by', type: choice('person'), ...maybe },
  { handle: 'labels', title: 'Labels', type: array('label'), ...always },
  { handle: 'components', title: 'Components', type: array('component'), ...always },
  { handle: 'links', title: 'Links', type: array('linkKind'), ...always },
  // It is empty where the parent is deleted or may not be seen, so it can change with another item.
  {
    handle: 'parent',
    title: 'Parent',
    type: choice('item'),
    changesWith: ['own', 'kin'],
    nullable: true,
    builtIn: true,
  },
  { handle: 'iteration', title: 'Iteration', type: choice('iteration'), ...maybe },
  {
    handle: 'iteration_offset',
    title: 'Iteration offset',
    type: number,
    changesWith: ['clock'],
    nullable: true,
    builtIn: true,
  },
  { handle: 'release', title: 'Release', type: choice('release'), ...maybe },
  {
    handle: 'release_offset',
    title: 'Release offset',
    type: number,
    changesWith: ['clock'],
    nullable: true,
    builtIn: true,
  },
  { handle: 'estimate', title: 'Estimate', type: number, ...maybe },
  { handle: 'remaining', title: 'Remaining', type: number, ...maybe },
  { handle: 'start', title: 'Start', type: { kind: 'date' }, ...maybe },
  { handle: 'due', title: 'Due', type: { kind: 'date' }, ...maybe },
  { handle: 'created', title: 'Created', type: { kind: 'timestamp' }, ...always },
  { handle: 'changed', title: 'Changed', type: { kind: 'timestamp' }, ...always },
  { handle: 'done', title: 'Done', type: { kind: 'timestamp' }, ...maybe },
  { handle: 'on_hold', title: 'On hold', type: { kind: 'boolean' }, ...always },
  { handle: 'hold_reason', title: 'Reason for hold', type: text, ...maybe },
  { handle: 'comments', title: 'Comments', type: number, ...always },
  { handle: 'code_changes', title: 'Code changes', type: number, ...always },
  { handle: 'position', title: 'By hand', type: text, ...always, orderOnly: true },
]

/** The teams somebody belongs to. */
export const teamsOf = ({ teams }: Vocabulary, person: string | null): readonly TeamRemit[] =>
  person === null ? [] : teams.filter(({ people }) => people.has(person))

/** The teams that the argument of a function names: one, or those of whoever asks. */
export const teamsNamed = (
  vocabulary: Vocabulary,
  [named]: readonly Value[],
  person: string | null,
): readonly TeamRemit[] =>
  named?.kind === 'call'
    ? teamsOf(vocabulary, person)
    : vocabulary.teams.filter(({ id }) => named?.kind === 'literal' && named.value === id)

/** The spelling of a choice in query text: its plain name unless another of the domain shares it. */
export function spell(vocabulary: QueryNames, domain: Domain, id: string): string | undefined {
  const found = vocabulary.choice(domain, id)
  if (!found) return undefined
  const twins = vocabulary.choices(domain).filter((choice) => choice.name === found.name)
  return twins.length > 1 ? found.qualified : found.name
}

const hasDates = (span: Span): span is Span & { readonly start: Day; readonly end: Day } =>
  Boolean(span.start && span.end)

/**
 * How far a span lies from the present one of its owner: 0 while it runs, 1 the next by start, 2 the one after,
 * -1 the last that ended, and so on. Null where a span has no dates.
 */
export function iterationOffset(spans: readonly Span[], id: string, today: Day): number | null {
  const span = spans.find((span) => span.id === id)
  if (!span?.start || !span.end) return null
  const { start, end } = span
  if (start <= today && today <= end) return 0
  const own = spans.filter((entry) => entry.owner === span.owner).filter(hasDates)
  const isAsFar = (same: boolean, entry: Span): boolean => same && entry.id < span.id
  if (start > today)
    return (
      own.filter(
        (entry) =>
          entry.start > today && (entry.start < start || isAsFar(entry.start === start, entry)),
      ).length + 1
    )
  return (
    -own.filter(
      (entry) => entry.end < today && (entry.end > end || isAsFar(entry.end === end, entry)),
    ).length - 1
  )
}

/**
 * How far a release lies from the next one of a project: 0 the next to come out, 1 the one after, -1 the last that came out.
 * Null where it has no last day, or does not belong to the project.
 */
export function releaseOffset(
  releases: readonly Release[],
  id: string,
  project: string,
  today: Day,
): number | null {
  const own = releases.flatMap(({ id: other, projects, end }) =>
    end !== null && projects.includes(project) ? [{ id: other, end }] : [],
  )
  const release = own.find((entry) => entry.id === id)
  if (!release) return null
  const isEarlier = (entry: { id: string; end: Day }): boolean =>
    entry.end < release.end || (entry.end === release.end && entry.id < release.id)
  if (release.end >= today)
    return own.filter((entry) => entry.end >= today && isEarlier(entry)).length
  return (
    -own.filter((entry) => entry.end < today && entry.id !== id && !isEarlier(entry)).length - 1
  )
}
