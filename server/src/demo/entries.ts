import { elementAt } from '@bluestem/core/known'
import { type Field, orderKeys } from '@bluestem/core/definitions'

/** Entries under identities made of a prefix and a short name, in the order in which they are written. */
export function section<T extends object>(
  prefix: string,
  entries: Readonly<Record<string, T>>,
): Record<string, T & { order: string }> {
  const keys = orderKeys(Object.keys(entries).length)
  return Object.fromEntries(
    Object.entries(entries).map(([name, entry], index) => [
      `${prefix}_${name}`,
      { order: elementAt(keys, index), ...entry },
    ]),
  )
}

export const options = (
  field: string,
  titles: readonly string[],
  retired: readonly string[] = [],
) =>
  section(
    'op',
    Object.fromEntries(
      titles.map((title, index) => [
        `${field}${String(index + 1).padStart(2, '0')}`,
        { title, description: '', ...(retired.includes(title) ? { retired: true } : {}) },
      ]),
    ),
  )

export const field = (
  title: string,
  handle: string,
  kind: Field['kind'],
  description: string,
  parts: Partial<Field> = {},
) => ({ title, handle, kind, description, ...parts })

export const types = section('ty', {
  programme: {
    title: 'Programme',
    monogram: 'Pg',
    tier: 4,
    description: 'A season’s undertaking of many work packages, such as a refit.',
  },
  package: {
    title: 'Work package',
    monogram: 'Wp',
    tier: 3,
    description: 'What one crew takes on as a whole.',
  },
  job: {
    title: 'Job',
    monogram: 'Jo',
    tier: 2,
    description: 'Planned work on a vessel, a pier or a timetable.',
  },
  inspection: {
    title: 'Inspection',
    monogram: 'In',
    tier: 2,
    description: 'A round of looking, by us or by the inspectorate.',
  },
  defect: {
    title: 'Defect',
    monogram: 'De',
    tier: 1,
    description: 'Something that does not work as it should.',
  },
  finding: {
    title: 'Finding',
    monogram: 'Fi',
    tier: 1,
    description: 'What an inspection found to be mended.',
  },
  change: {
    title: 'Change',
    monogram: 'Ch',
    tier: 1,
    description: 'A change to fares, apps or machines that print tickets.',
  },
  check: {
    title: 'Check',
    monogram: 'Ck',
    tier: 0,
    description: 'One thing to look at or to measure.',
  },
})

export const statuses = section('st', {
  open: {
    title: 'Open',
    phase: 'idle' as const,
    queue: true,
    description: 'Known, and nobody works on it yet.',
  },
  ready: {
    title: 'Ready',
    phase: 'idle' as const,
    queue: true,
    description: 'Understood well enough to begin.',
  },
  hand: {
    title: 'In hand',
    phase: 'active' as const,
    queue: false,
    description: 'Somebody works on it now.',
  },
  parts: {
    title: 'Waiting for parts',
    phase: 'active' as const,
    queue: true,
    description: 'Begun, and stopped until parts come.',
  },
  surveyor: {
    title: 'Awaiting surveyor',
    phase: 'active' as const,
    queue: true,
    description: 'Mended, and to be seen by a surveyor.',
  },
  review: {
    title: 'In review',
    phase: 'active' as const,
    queue: true,
    description: 'Built, and looked over by a second person.',
  },
  proof: {
    title: 'Awaiting proof',
    phase: 'active' as const,
    queue: true,
    description: 'Remedied, and proof is to be shown.',
  },
  signed: {
    title: 'Signed off',
    phase: 'done' as const,
    queue: false,
    description: 'Done, and somebody answers for it.',
  },
  withdrawn: {
    title: 'Withdrawn',
    phase: 'dropped' as const,
    queue: false,
    description: 'Not to be done after all.',
  },
})

export const priorities = section('pi', {
  now: { title: 'Now', urgency: 1, description: 'Passengers cannot buy or board.' },
  next: { title: 'Next', urgency: 3, description: 'Taken up in the coming iteration.' },
  later: { title: 'Later', urgency: 5, description: 'Kept so that it is not forgotten.' },
  stopped: {
    title: 'Sailing stopped',
    urgency: 1,
    description: 'A vessel or pier cannot be used.',
  },
  risk: {
    title: 'Sailing at risk',
    urgency: 2,
    description: 'Will stop a sailing if nothing is done this week.',
  },
  nuisance: {
    title: 'Passenger nuisance',
    urgency: 3,
    description: 'Passengers notice, and the timetable holds.',
  },
  convenient: {
    title: 'When convenient',
    urgency: 5,
    description: 'Worth doing when there is time.',
  },
})

export const families = section('fa', {
  deck: { title: 'deck', pick: 'one' as const, description: 'Where on a vessel.' },
  proof: {
    title: 'proof',
    pick: 'one' as const,
    description: 'Whether proof is needed, or was seen.',
  },
  gear: { title: 'gear', pick: 'many' as const, description: 'What kind of gear it is about.' },
})

export const linkKinds = section('lk', {
  waits: {
    title: 'waits for',
    inverse: 'holds up',
    description: 'Cannot go on before the other is done.',
    refusesCircles: true,
  },
  belongs: { title: 'belongs with', inverse: 'belongs with', description: 'Best done together.' },
  repeats: {
    title: 'repeats',
    inverse: 'is repeated by',
    description: 'The same thing told again.',
  },
})

export const limits = section('tl', {
  answer: {
    title: 'Answer a finding',
    description: 'Somebody takes it in hand.',
    what: 'respond' as const,
    allowances: [{ urgency: 1, minutes: 240 }, { urgency: 2, minutes: 540 }, { minutes: 2700 }],
    ends: ['st_hand', 'st_proof', 'st_signed', 'st_withdrawn'],
    warnAt: 75,
  },
  remedy: {
    title: 'Remedy a finding',
    description: 'It is signed off with proof.',
    what: 'resolve' as const,
    allowances: [{ urgency: 1, minutes: 2700 }, { urgency: 2, minutes: 5400 }, { minutes: 16_200 }],
    starts: ['st_open'],
    stops: ['st_proof'],
    ends: ['st_signed', 'st_withdrawn'],
    warnAt: 80,
  },
})
