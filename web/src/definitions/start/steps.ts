import { type DefinitionsDocument, inOrder, type Section } from '@bluestem/core/definitions'
import { counted, firstOf } from '../../parts/words.ts'

/** What is there already, as far as the steps of setting up ask. */
export interface Progress {
  readonly document: DefinitionsDocument
  /** whether a rulebook is in force, so that a project can follow it */
  readonly isPublished: boolean
  readonly projects: readonly string[]
  readonly people: number
  readonly queries: number
  readonly views: number
  readonly dashboards: number
}

export type StepKey =
  | 'rulebook'
  | 'types'
  | 'flows'
  | 'priorities'
  | 'project'
  | 'people'
  | 'query'
  | 'view'
  | 'dashboard'

export interface Step {
  readonly key: StepKey
  readonly title: string
  readonly words: string
  readonly isDone: boolean
  /** whether what it rests on is there */
  readonly isOpen: boolean
}

const titles = (document: DefinitionsDocument, section: Section): string =>
  firstOf(
    inOrder<{ order: string; title: string; retired?: boolean }>(document[section])
      .filter((entry) => !entry.retired)
      .map((entry) => entry.title),
    8,
  )

const has = (map: object): boolean => Object.keys(map).length > 0

/** How much a document defines: “5 types, 6 statuses, 9 fields”. */
export function sizeWords(document: DefinitionsDocument): string {
  const count = (section: Section): number => Object.keys(document[section]).length
  const parts = [
    counted(count('types'), 'type'),
    counted(count('statuses'), 'status', 'statuses'),
    counted(count('priorities'), 'priority', 'priorities'),
    counted(count('fields'), 'field'),
    ...(count('limits') > 0 ? [counted(count('limits'), 'time limit')] : []),
  ]
  return parts.join(', ')
}

function rulebookWords({ document, isPublished }: Progress): string {
  if (!has(document.rulebooks))
    return 'take over one of those beside, and change it freely; or define everything yourself'
  const waits = isPublished ? '' : '. It waits in a draft: publish it before a project follows it'
  return `${titles(document, 'rulebooks')}: ${sizeWords(document)}${waits}`
}

interface StepTold {
  readonly key: StepKey
  readonly title: string
  readonly isDone: (progress: Progress) => boolean
  /** what there is */
  readonly present: (progress: Progress) => string
  /** what it is for, while it is missing */
  readonly missing: (progress: Progress) => string
  /** whether what it rests on is there */
  readonly isOpen: (progress: Progress) => boolean
}

const always = (): boolean => true
const isPublished = (progress: Progress): boolean => progress.isPublished
const hasProject = ({ projects }: Progress): boolean => projects.length > 0

const definitionSteps: readonly StepTold[] = [
  {
    key: 'rulebook',
    title: 'A rulebook to begin with',
    isDone: isPublished,
    present: rulebookWords,
    missing: rulebookWords,
    isOpen: always,
  },
  {
    key: 'types',
    title: 'Types and what their forms ask',
    isDone: ({ document }) => has(document.types),
    present: ({ document }) => titles(document, 'types'),
    missing: () => 'what there is to do: jobs, defects, requests',
    isOpen: always,
  },
  {
    key: 'flows',
    title: 'Statuses and the moves between them',
    isDone: ({ document }) => has(document.statuses),
    present: ({ document }) => titles(document, 'statuses'),
    missing: () => 'how far something is, and where it may go from there',
    isOpen: always,
  },
  {
    key: 'priorities',
    title: 'Priorities on a ladder',
    isDone: ({ document }) => has(document.ladders),
    present: ({ document }) => titles(document, 'priorities'),
    missing: () => 'what comes before what, and how urgent that is',
    isOpen: always,
  },
]

const workSteps: readonly StepTold[] = [
  {
    key: 'project',
    title: 'A project',
    isDone: hasProject,
    present: ({ projects }) => firstOf(projects, 6),
    missing: () => 'its name, its code, the rulebook it follows, who may see it',
    isOpen: isPublished,
  },
  {
    key: 'people',
    title: 'People',
    isDone: ({ people }) => people > 1,
    present: ({ people }) => counted(people, 'person', 'people'),
    missing: () => 'you alone so far; work can be given to those you add',
    isOpen: always,
  },
  {
    key: 'query',
    title: 'A first question',
    isDone: ({ queries }) => queries > 0,
    present: ({ queries }) => counted(queries, 'saved query', 'saved queries'),
    missing: () => 'for example: what is open, oldest first',
    isOpen: hasProject,
  },
  {
    key: 'view',
    title: 'A board of its answers',
    isDone: ({ views }) => views > 0,
    present: ({ views }) => counted(views, 'view'),
    missing: () => 'columns by status',
    isOpen: hasProject,
  },
  {
    key: 'dashboard',
    title: 'A figure on a dashboard',
    isDone: ({ dashboards }) => dashboards > 0,
    present: ({ dashboards }) => counted(dashboards, 'dashboard'),
    missing: () => 'how many, over time',
    isOpen: hasProject,
  },
]

/** The steps from nothing to a working tracker, in the order in which each rests on those before. */
export const stepsOf = (progress: Progress): readonly Step[] =>
  [...definitionSteps, ...workSteps].map(({ key, title, ...told }) => {
    const isDone = told.isDone(progress)
    const words = isDone ? told.present(progress) : told.missing(progress)
    return { key, title, words, isDone, isOpen: told.isOpen(progress) }
  })

/** The step that is to be taken next. */
export const nextStep = (steps: readonly Step[]): StepKey | undefined =>
  steps.find((step) => !step.isDone && step.isOpen)?.key
