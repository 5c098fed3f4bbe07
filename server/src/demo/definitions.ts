import { digital, everyone, safety, yard } from './rulebooks.ts'
import { families, limits, linkKinds, priorities, section, statuses, types } from './entries.ts'
import { fields } from './fields.ts'
import { type DefinitionsDocument, emptyDocument, replaceAt } from '@bluestem/core/definitions'

/** The definitions of Marrowmere Ferries as they stand now. Crewing shares the ladder of operations, whose words do not fit its work. */
export const definitions: DefinitionsDocument = {
  ...emptyDocument,
  types,
  statuses,
  priorities,
  fields,
  families,
  linkKinds,
  limits,
  ladders: section('ld', {
    operations: {
      title: 'Operations',
      description: 'What a trouble does to the timetable.',
      rungs: section('pi', { stopped: {}, risk: {}, nuisance: {}, convenient: {} }),
      default: 'pi_convenient',
    },
    digital: {
      title: 'Digital',
      description: 'When the crew takes it up.',
      rungs: section('pi', { now: {}, next: {}, later: {} }),
      default: 'pi_later',
    },
  }),
  rulebooks: section('rb', {
    everyone: {
      title: 'Everyone',
      description: 'What all of Marrowmere Ferries works by.',
      extends: null,
      entries: everyone,
    },
    yard: {
      title: 'Yard and shore work',
      description: 'Vessels, piers and what lies on the slip.',
      extends: 'rb_everyone',
      entries: yard,
    },
    digital: {
      title: 'Digital work',
      description: 'Fares, tickets and apps.',
      extends: 'rb_everyone',
      entries: digital,
    },
    safety: {
      title: 'Safety work',
      description: 'Inspections and what they find.',
      extends: 'rb_everyone',
      entries: safety,
    },
  }),
  projects: {
    pr_yard: 'rb_yard',
    pr_pier: 'rb_yard',
    pr_crew: 'rb_everyone',
    pr_fare: 'rb_digital',
    pr_safe: 'rb_safety',
  },
}

const untold = without(
  definitions,
  ['limits', 'tl_answer'],
  ['limits', 'tl_remedy'],
  ['rulebooks', 'rb_safety', 'entries', 'limit:tl_answer'],
  ['rulebooks', 'rb_safety', 'entries', 'limit:tl_remedy'],
  ['rulebooks', 'rb_yard', 'entries', 'requirement:ty_defect:st_surveyor'],
)
const windless = without(
  untold,
  ['fields', 'fi_tide'],
  ['rulebooks', 'rb_yard', 'entries', 'form:ty_job:item:fi_tide'],
)

/** Earlier editions, oldest first, each as what it said otherwise than today, with how long ago it was published and why. */
export const pastEditions: readonly {
  readonly daysAgo: number
  readonly by: string
  readonly note: string
  readonly document: DefinitionsDocument
}[] = [
  {
    daysAgo: 560,
    by: 'Mara Thiel',
    note: 'The beginning.',
    document: replaceAt(windless, ['statuses', 'st_parts', 'title'], 'Stuck'),
  },
  { daysAgo: 236, by: 'Mara Thiel', note: 'Say what it is stuck on.', document: windless },
  {
    daysAgo: 146,
    by: 'Mara Thiel',
    note: 'The crane crew needs to know the wind it can work in.',
    document: untold,
  },
  {
    daysAgo: 38,
    by: 'Mara Thiel',
    note: 'Findings have time limits, and a defect that waits for a surveyor names one.',
    document: definitions,
  },
]

function without(
  document: DefinitionsDocument,
  ...paths: readonly (readonly string[])[]
): DefinitionsDocument {
  return paths.reduce((all, path) => replaceAt(all, path, undefined), document)
}
