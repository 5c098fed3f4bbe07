import { type Living, vocabularyOf } from '@bluestem/core/definitions'
import type { World } from './world.ts'
import type { Person, Project } from './living.ts'
import type { Choice, Vocabulary } from '@bluestem/core/queries'
import { isHiddenIdentity } from './hidden.ts'

export const maySee =
  (person: Person) =>
  (project: Project): boolean =>
    project.open || person.role === 'administrator' || project.members.has(person.number)
/** The projects a person may see: those open to all and those they belong to; administrators see every one. */
export const visibleProjects = (world: World, person: Person): number[] =>
  world.projects.filter(maySee(person)).map((project) => project.number)
/** Worlds as people with the same rights see them. */
export const seen = new WeakMap<World, Map<string, World>>()
export const mostSeen = 100
/**
 * The world as a person may know it: without the projects they may not see, their labels, components and releases. Every question,
 * suggestion and error text is made from it, so that none can name what is closed.
 */
export function seenBy(world: World, person: Person): World {
  const { whole } = world
  const projects = whole.projects.filter(maySee(person))
  if (projects.length === whole.projects.length) return whole
  const worlds = seen.get(whole) ?? new Map<string, World>()
  seen.set(whole, worlds)
  const key = projects.map((project) => project.number).join(' ')
  const known = worlds.get(key)
  if (known) return known
  const made = narrowed(whole, projects)
  if (worlds.size >= mostSeen) worlds.clear()
  worlds.set(key, made)
  return made
}

export function narrowed(whole: World, projects: readonly Project[]): World {
  const open = new Set(projects.map((project) => project.id))
  const of = (project: string | null | undefined): boolean => !project || open.has(project)
  const labels = whole.labels.filter((label) => of(label.project))
  const components = whole.components.filter((component) => of(component.project))
  const releases = whole.source.releases
    .map((release) => ({ ...release, projects: release.projects.filter((id) => open.has(id)) }))
    .filter((release) => release.projects.length > 0)
  const shown = new Set(
    [...open, ...labels, ...components, ...releases].map((entry) =>
      typeof entry === 'string' ? entry : entry.id,
    ),
  )
  const all = [...whole.projects, ...whole.labels, ...whole.components, ...whole.source.releases]
  const hidden = new Set(all.map((entry) => entry.id).filter((id) => !shown.has(id)))
  const document = {
    ...whole.document,
    projects: Object.fromEntries(
      Object.entries(whole.document.projects).filter(([id]) => open.has(id)),
    ),
  }
  const source: Living = {
    ...whole.source,
    projects: whole.source.projects.filter((project) => open.has(project.id)),
    labels,
    components,
    releases,
  }
  return {
    ...whole,
    document,
    source,
    hidden,
    projects,
    labels,
    components,
    labelOf: new Map(labels.map((label) => [label.id, label])),
    // A remit is read as it is meant, also where it names what whoever asks may not see: their items are never answers.
    vocabulary: withHidden(vocabularyOf(document, source, whole.vocabulary.teams), hidden),
  }
}

/** A choice that whoever asks may not see: kept questions that name it still run, and never find anything by it. */
export const unseen = (id: string): Choice => ({
  id,
  name: 'something you may not see',
  qualified: 'something you may not see',
  title: 'something you may not see',
  retired: true,
})
export function withHidden(vocabulary: Vocabulary, hidden: ReadonlySet<string>): Vocabulary {
  return {
    ...vocabulary,
    choice: (domain, id) =>
      vocabulary.choice(domain, id) ??
      (hidden.has(id) || isHiddenIdentity(id) ? unseen(id) : undefined),
  }
}
