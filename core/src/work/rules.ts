import type { Instant } from '../calendar/day.ts'
import type { DefinitionsDocument } from '../definitions/document/document.ts'
import type { Field } from '../definitions/document/entries.ts'
import type { Vocabulary } from '../queries/tree/vocabulary.ts'

/** By what a change to an item is judged: the definitions, the living data, and who acts when. */
export interface WorkRules {
  readonly document: DefinitionsDocument
  readonly vocabulary: Vocabulary
  /** custom fields by handle */
  readonly fields: ReadonlyMap<string, Field>
  /** labels and components by identity, with the project whose own they are */
  readonly labels: ReadonlyMap<string, OwnedLabel>
  readonly components: ReadonlyMap<string, OwnedComponent>
  readonly projects: ReadonlyMap<string, { readonly title: string }>
  readonly zone: string
  readonly now: Instant
  readonly person: ActingPerson
}

export interface OwnedLabel {
  readonly title: string
  readonly family: string | null
  readonly project: string | null
  readonly retired: boolean
}

export interface OwnedComponent {
  readonly title: string
  readonly project: string
  readonly keeper: string | null
}

export interface ActingPerson {
  readonly id: string
  readonly isAdministrator: boolean
  /** the projects they keep */
  readonly keeps: ReadonlySet<string>
}

/** The rulebook a project follows. @throws Error for a project that follows none; whoever judges asks for that before */
export function rulebookOf({ document }: WorkRules, project: string): string {
  const rulebook = document.projects[project]
  if (rulebook === undefined) throw new Error(`${project} follows no rulebook`)
  return rulebook
}
