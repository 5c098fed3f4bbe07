import type { DefinitionsDocument } from '../definitions/index.ts'

/** A rulebook to begin with, and all that it names. */
export interface Starter {
  readonly id: string
  readonly title: string
  /** what it is for, in a sentence or two */
  readonly about: string
  readonly load: () => Promise<DefinitionsDocument>
}

/** A file of definitions. Its literal type says more than a document needs; a test judges every file by the schema instead. */
const inFile = ({ default: file }: { readonly default: unknown }): DefinitionsDocument =>
  file as DefinitionsDocument

/** The rulebooks that ship with Bluestem, each a file of definitions like those it gives out. */
export const starters: readonly Starter[] = [
  {
    id: 'repairs-and-upkeep',
    title: 'Repairs and upkeep',
    about:
      'Work package, Job, Defect, Inspection, Check. Parts that are waited for, and what it cost us.',
    load: async () => inFile(await import('./repairs-and-upkeep.json')),
  },
  {
    id: 'software-in-iterations',
    title: 'Software in iterations',
    about:
      'Change, Defect, Question, Research, above them Theme. Estimates in points, and a second pair of eyes before it is in use.',
    load: async () => inFile(await import('./software-in-iterations.json')),
  },
  {
    id: 'requests-and-cases',
    title: 'Requests and cases',
    about:
      'Request, Case, Task. Time limits to answer and to finish, by urgency; who asks, and how it came in.',
    load: async () => inFile(await import('./requests-and-cases.json')),
  },
  {
    id: 'blank',
    title: 'Blank',
    about: 'One type, three statuses, three priorities. Everything else is yours to say.',
    load: async () => inFile(await import('./blank.json')),
  },
]
