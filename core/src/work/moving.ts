import { asText, valueFor } from '../known/index.ts'
import { formOf, rungsOf, typesOf } from '../definitions/rulebook/rulebook.ts'
import { membersOf, type Facts, type FactValue } from '../queries/tree/facts.ts'
import { flowFor } from './entering.ts'
import { refused, type Refusal } from './refusal.ts'
import { rulebookOf, type WorkRules } from './rules.ts'
import { sameValue } from './sameValue.ts'

/** How an item goes to another project, and what it becomes where that has no such type, or its flow no such status. */
export interface Moving {
  /** the identity of the project */
  readonly project: string
  readonly types?: Readonly<Record<string, string>> | undefined
  readonly statuses?: Readonly<Record<string, string>> | undefined
}

/** Refuses a project that is none, or that follows no rulebook. */
export function judgeMoving(rules: WorkRules, { project }: Moving): Refusal | undefined {
  const found = rules.projects.get(project)
  if (!found)
    return refused('There is no such project, or you may not see it.', [
      { pointer: '/project', message: 'There is no such project.', expected: 'a project' },
    ])
  if (rules.document.projects[project] === undefined)
    return refused(`${found.title} follows no rulebook yet.`, [])
  return undefined
}

/** The priority of a ladder that is as urgent as another one, or the nearest to it; the more urgent of two. */
function priorityIn(rules: WorkRules, project: string, held: FactValue): FactValue {
  if (held === null) return null
  const rungs = rungsOf(rules.document, rulebookOf(rules, project))
  if (rungs.includes(String(held))) return held
  const urgency = (id: string): number => rules.document.priorities[id]?.urgency ?? 0
  const wanted = urgency(String(held))
  const byDistance = rungs.toSorted(
    (a, b) =>
      Math.abs(urgency(a) - wanted) - Math.abs(urgency(b) - wanted) || urgency(a) - urgency(b),
  )
  return byDistance[0] ?? null
}

/** Components belong to projects: those that the other project has under the same title. */
function componentsIn(
  { components }: WorkRules,
  project: string,
  held: readonly string[],
): string[] {
  const titles = new Set(held.map((id) => components.get(id)?.title.toLowerCase()))
  return [...components].flatMap(([id, component]) =>
    component.project === project && titles.has(component.title.toLowerCase()) ? [id] : [],
  )
}

/**
 * An item as another project takes it over: what that does not have becomes what is said, or what is likest to it, or is left behind.
 * A type or a status that nothing is said of stays, for whoever judges the change to refuse.
 */
export function takenOver(rules: WorkRules, item: Facts, moving: Moving): Facts {
  const { project, types = {}, statuses = {} } = moving
  const held = String(item['type'])
  const offered = typesOf(rules.document, rulebookOf(rules, project))
  const type = offered.includes(held) ? held : (types[held] ?? held)
  const there: Facts = { ...item, project, type }
  const status = String(item['status'])
  const isThere = flowFor(rules, there).statuses.includes(status)
  const { labels, vocabulary } = rules
  const release = vocabulary.releases.find(({ id }) => id === item['release'])
  return {
    ...there,
    status: isThere ? status : (statuses[status] ?? status),
    priority: priorityIn(rules, project, item['priority'] ?? null),
    components: componentsIn(rules, project, membersOf(item['components'])),
    labels: membersOf(item['labels']).filter(
      (id) => (labels.get(id)?.project ?? project) === project,
    ),
    release: release?.projects.includes(project) ? release.id : null,
  }
}

const handles = ['type', 'status', 'priority', 'components', 'labels', 'release'] as const

/** What becomes of an item besides that it moves, in words without its name; what no form shows there keeps its value. */
export function besidesMoving(rules: WorkRules, before: Facts, after: Facts): string[] {
  if (before['project'] === after['project']) return []
  const { vocabulary, document } = rules
  const title = (handle: string, id: FactValue): string => {
    const type = valueFor(vocabulary.properties, handle).type
    if (type.kind !== 'choice' && type.kind !== 'array') return String(id)
    return vocabulary.choice(type.domain, String(id))?.title ?? String(id)
  }
  const words = (handle: string, held: FactValue | undefined): string => {
    const ids = Array.isArray(held) ? membersOf(held) : held === null ? [] : [asText(held)]
    return ids.length === 0 ? 'nothing' : ids.map((id) => `“${title(handle, id)}”`).join(', ')
  }
  const changed = handles
    .filter((handle) => !sameValue(before[handle] ?? null, after[handle] ?? null))
    .map((handle) => {
      const property = valueFor(vocabulary.properties, handle).title
      return `${property}: ${words(handle, before[handle])} becomes ${words(handle, after[handle])}.`
    })
  const rulebook = rulebookOf(rules, String(after['project']))
  const shown = new Set(
    formOf(document, rulebook, String(after['type']), 'item').map(({ field }) => field),
  )
  const unseen = Object.entries(document.fields)
    .filter(([id, { handle }]) => !shown.has(id) && (before[handle] ?? null) !== null)
    .filter(
      ([, { handle }]) => !Array.isArray(before[handle]) || membersOf(before[handle]).length > 0,
    )
    .map(([, field]) => `${field.title} keeps its value, which no form shows there.`)
  return [...changed, ...unseen]
}
