import {
  type DefinitionsDocument,
  emptyDocument,
  type Field,
  orderKeys,
  replaceAt,
  type Rulebook,
} from '@bluestem/core/definitions'

type RulebookEntry = Rulebook['entries'][string]

/** Entries under identities made of a prefix and a short name, in the order in which they are written. */
function section<T extends object>(
  prefix: string,
  entries: Readonly<Record<string, T>>,
): Record<string, T & { order: string }> {
  const keys = orderKeys(Object.keys(entries).length)
  return Object.fromEntries(
    Object.entries(entries).map(([name, entry], index) => [
      `${prefix}_${name}`,
      { order: keys[index]!, ...entry },
    ]),
  )
}

const options = (field: string, titles: readonly string[], retired: readonly string[] = []) =>
  section(
    'op',
    Object.fromEntries(
      titles.map((title, index) => [
        `${field}${String(index + 1).padStart(2, '0')}`,
        { title, description: '', ...(retired.includes(title) ? { retired: true } : {}) },
      ]),
    ),
  )

const field = (
  title: string,
  handle: string,
  kind: Field['kind'],
  description: string,
  parts: Partial<Field> = {},
) => ({ title, handle, kind, description, ...parts })

const types = section('ty', {
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

const statuses = section('st', {
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

const priorities = section('pi', {
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

const fields = section('fi', {
  berth: field('Berth', 'berth', 'choice', 'Where the vessel lies.', {
    options: options(
      'berth',
      [
        'North Pier 1',
        'North Pier 2',
        'South Pier',
        'Mill Quay',
        'Slipway',
        'Fitting-out quay',
        'Reed Bay',
        'Old Harbour',
        'Winter pool',
      ],
      ['Old Harbour'],
    ),
  }),
  certificate: field(
    'Class certificate',
    'class_certificate',
    'web address',
    'Where the certificate can be seen.',
    { pattern: 'https://certificates\\.marrowmere\\.example/\\d+' },
  ),
  cost: field(
    'Cost of parts',
    'cost_of_parts',
    'number',
    'What the parts cost us, without our own hours. Filled by whoever orders.',
    { unit: '€', decimals: 2, smallest: 0 },
  ),
  crew: field('Crew needed', 'crew_needed', 'people', 'Who has to be there for it.'),
  found: field('Found by', 'found_by', 'choice', 'Who noticed first.', {
    options: options('found', [
      'Crew on board',
      'Yard',
      'Passenger',
      'Inspectorate',
      'Round of looking',
    ]),
  }),
  hours: field(
    'Hours of sailing lost',
    'hours_lost',
    'number',
    'Hours of timetable that fell out because of it.',
    { unit: 'h', decimals: 1, smallest: 0, largest: 400 },
  ),
  note: field('Inspector’s note', 'inspector_note', 'long text', 'In the inspector’s own words.'),
  next: field('Next check', 'next_check', 'date', 'When it is to be looked at again.', {
    default: 'today+90',
  }),
  yardno: field(
    'Old yard number',
    'old_yard_number',
    'text',
    'From the card index; no longer given.',
  ),
  safety: field(
    'Safety relevant',
    'safety_relevant',
    'yes/no',
    'Whether the safety office has to be told.',
  ),
  trial: field('Sea trial', 'sea_trial', 'moment', 'When the trial with full load begins.'),
  spare: field('Spare parts', 'spare_parts', 'several choices', 'Parts taken from the store.', {
    options: options('spare', [
      'Hinge pin',
      'Seal kit',
      'Relay',
      'Breaker',
      'Pump',
      'Hose',
      'Fender bolt',
      'Lamp',
      'Filter',
      'Shackle',
      'Sensor',
      'Wire rope',
    ]),
  }),
  tide: field('Wind window', 'wind_window', 'choice', 'The wind it can be done in.', {
    options: options('wind', ['Any', 'Below force 6', 'Below force 4', 'Calm only']),
  }),
  warranty: field(
    'Warranty until',
    'warranty_until',
    'date',
    'The last day on which the maker pays.',
  ),
  surveyor: field('Surveyor', 'surveyor', 'person', 'Who has to see it before it is signed off.'),
  harm: field(
    'Harm',
    'harm',
    'score',
    'What it does to sailings: urgency first, then hours lost.',
    { formula: '(6 - urgency) * 10 + hours_lost', empty: 0, decimals: 1 },
  ),
  below: field(
    'Estimated below',
    'estimated_below',
    'roll-up',
    'The estimates of everything that stands below it.',
    { rollUp: { how: 'sum', of: 'estimate' }, unit: 'h' },
  ),
  progress: field(
    'Done below',
    'done_below',
    'roll-up',
    'How much of what stands below it is done.',
    { rollUp: { how: 'share done' }, unit: '%', decimals: 1 },
  ),
})

const families = section('fa', {
  deck: { title: 'deck', pick: 'one' as const, description: 'Where on a vessel.' },
  proof: {
    title: 'proof',
    pick: 'one' as const,
    description: 'Whether proof is needed, or was seen.',
  },
  gear: { title: 'gear', pick: 'many' as const, description: 'What kind of gear it is about.' },
})

const linkKinds = section('lk', {
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

const limits = section('tl', {
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

/** Statuses in order, the first is where items start, and for each where it may go. */
type FlowOfType = Readonly<Record<string, readonly string[]>>

/** What everybody works by. */
const common: Readonly<Record<string, FlowOfType>> = {
  programme: {
    open: ['hand', 'withdrawn'],
    hand: ['signed', 'withdrawn'],
    signed: ['hand'],
    withdrawn: ['open'],
  },
  package: {
    open: ['hand', 'withdrawn'],
    hand: ['open', 'signed', 'withdrawn'],
    signed: ['hand'],
    withdrawn: ['open'],
  },
  job: {
    open: ['hand', 'withdrawn'],
    hand: ['open', 'signed', 'withdrawn'],
    signed: ['hand'],
    withdrawn: ['open'],
  },
  defect: {
    open: ['hand', 'withdrawn'],
    hand: ['open', 'signed', 'withdrawn'],
    signed: ['hand'],
    withdrawn: ['open'],
  },
  check: {
    open: ['signed', 'hand', 'withdrawn'],
    hand: ['signed', 'open'],
    signed: ['open'],
    withdrawn: ['open'],
  },
}

const fieldsOf: Readonly<Record<string, readonly string[]>> = {
  programme: ['progress', 'below'],
  package: ['safety', 'progress', 'below'],
  job: ['safety'],
  defect: ['found', 'safety'],
  check: [],
  inspection: ['next', 'surveyor', 'certificate', 'safety'],
  finding: ['found', 'note', 'next', 'safety'],
  change: ['safety'],
}
const builtIn = [
  'priority',
  'assignee',
  'due',
  'start',
  'estimate',
  'remaining',
  'components',
  'labels',
  'parent',
]

/** Everything a rulebook says of a type: its flow, its form on an item and its form when one is made. */
function typeEntries(
  type: string,
  flow: FlowOfType,
  particulars: readonly string[],
): Record<string, RulebookEntry> {
  const all: Record<string, RulebookEntry> = {
    [`type:ty_${type}`]: { start: `st_${Object.keys(flow)[0]!}` },
    ...flowEntries(type, flow),
  }
  const onItem = [...builtIn, ...particulars.map((name) => `fi_${name}`)]
  for (const [index, order] of orderKeys(onItem.length).entries())
    all[`form:ty_${type}:item:${onItem[index]!}`] = {
      order,
      section: index < builtIn.length ? '' : 'Particulars',
    }
  const whenMade = [
    'priority',
    'assignee',
    'due',
    'estimate',
    'labels',
    'parent',
    ...particulars
      .filter((name) => !['progress', 'below', 'harm'].includes(name))
      .slice(0, 2)
      .map((name) => `fi_${name}`),
  ]
  for (const [index, order] of orderKeys(whenMade.length).entries())
    all[`form:ty_${type}:make:${whenMade[index]!}`] = { order }
  return all
}

function flowEntries(type: string, flow: FlowOfType): Record<string, RulebookEntry> {
  const names = Object.keys(flow)
  return Object.fromEntries(
    orderKeys(names.length).flatMap((order, index): [string, RulebookEntry][] => [
      [`status:ty_${type}:st_${names[index]!}`, { order }],
      ...flow[names[index]!]!.map((to): [string, RulebookEntry] => [
        `move:ty_${type}:st_${names[index]!}:st_${to}`,
        {},
      ]),
    ]),
  )
}

/** Further particulars on the form of a type, after those of the rulebook it extends. */
const more = (type: string, names: readonly string[]): Record<string, RulebookEntry> =>
  Object.fromEntries(
    orderKeys(names.length).map((order, index) => [
      `form:ty_${type}:item:fi_${names[index]!}`,
      {
        order: `b${order}`,
        section: 'At the yard',
        ...(names[index] === 'trial' ? { shownWhen: { field: 'fi_safety', values: [true] } } : {}),
      },
    ]),
  )

const everyone: Record<string, RulebookEntry> = {
  ladder: { ladder: 'ld_operations' },
  unit: { unit: 'hours' },
  'family:fa_deck': {},
  'family:fa_gear': {},
  'link:lk_waits': {},
  'link:lk_belongs': {},
  'link:lk_repeats': {},
  ...Object.fromEntries(
    Object.entries(common).flatMap(([type, flow]) =>
      Object.entries(typeEntries(type, flow, fieldsOf[type]!)),
    ),
  ),
}

/** The yard waits for parts and for surveyors; a defect that waits for one says for whom. */
const yard: Record<string, RulebookEntry> = {
  ...flowEntries('defect', {
    open: ['hand', 'parts', 'withdrawn'],
    hand: ['open', 'parts', 'surveyor', 'signed', 'withdrawn'],
    parts: ['hand', 'withdrawn'],
    surveyor: ['hand', 'signed'],
    signed: ['hand'],
    withdrawn: ['open'],
  }),
  ...flowEntries('job', {
    open: ['hand', 'withdrawn'],
    hand: ['open', 'parts', 'signed', 'withdrawn'],
    parts: ['hand', 'withdrawn'],
    signed: ['hand'],
    withdrawn: ['open'],
  }),
  ...more('defect', [
    'hours',
    'cost',
    'berth',
    'spare',
    'surveyor',
    'certificate',
    'warranty',
    'trial',
    'harm',
    'yardno',
  ]),
  ...more('job', ['cost', 'crew', 'berth', 'spare', 'tide']),
  'requirement:ty_defect:st_surveyor': {
    requires: { filled: ['fi_surveyor'], says: 'Name the surveyor who is to see it.' },
  },
}

const digital: Record<string, RulebookEntry> = {
  ladder: { ladder: 'ld_digital' },
  unit: { unit: 'points' },
  'family:fa_deck': 'out',
  'type:ty_programme': 'out',
  ...typeEntries(
    'change',
    {
      open: ['ready', 'withdrawn'],
      ready: ['open', 'hand', 'withdrawn'],
      hand: ['ready', 'review', 'withdrawn'],
      review: ['hand', 'signed'],
      signed: ['hand'],
      withdrawn: ['open'],
    },
    fieldsOf['change']!,
  ),
}

const safety: Record<string, RulebookEntry> = {
  'family:fa_proof': { requiredFor: ['ty_finding'], closed: true },
  'limit:tl_answer': {},
  'limit:tl_remedy': {},
  ...typeEntries(
    'inspection',
    { open: ['hand', 'withdrawn'], hand: ['signed', 'open'], signed: [], withdrawn: ['open'] },
    fieldsOf['inspection']!,
  ),
  ...typeEntries(
    'finding',
    {
      open: ['hand', 'withdrawn'],
      hand: ['proof', 'open'],
      proof: ['hand', 'signed'],
      signed: ['hand'],
      withdrawn: ['open'],
    },
    fieldsOf['finding']!,
  ),
  'requirement:ty_finding:st_signed': {
    requires: { been: ['st_proof'], says: 'A finding is signed off once its proof was seen.' },
  },
}

export const projects: readonly {
  readonly code: string
  readonly id: string
  readonly title: string
  readonly description: string
  readonly open: boolean
}[] = [
  {
    code: 'YARD',
    id: 'pr_yard',
    title: 'Fleet Yard',
    description: 'Repairs and refits of our vessels.',
    open: true,
  },
  {
    code: 'PIER',
    id: 'pr_pier',
    title: 'Piers and Shore',
    description: 'Piers, waiting rooms, gangways and cranes.',
    open: true,
  },
  {
    code: 'CREW',
    id: 'pr_crew',
    title: 'Crewing and Timetable',
    description: 'Who sails when. Seen by its members only.',
    open: false,
  },
  {
    code: 'FARE',
    id: 'pr_fare',
    title: 'Fares and Passenger Apps',
    description: 'Tickets, machines and apps, in iterations of two weeks.',
    open: true,
  },
  {
    code: 'SAFE',
    id: 'pr_safe',
    title: 'Safety Office',
    description: 'Inspections and findings.',
    open: true,
  },
]

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

/** Labels: title, family, colour of the set. Three of them mean the same, and no screen has said so yet. */
export const labels: readonly {
  readonly id: string
  readonly title: string
  readonly family: string | null
  readonly colour: number
}[] = [
  ...['car deck', 'upper', 'saloon', 'hull', 'engine room'].map((title, index) => ({
    id: `la_deck${index + 1}`,
    title,
    family: 'fa_deck',
    colour: index + 2,
  })),
  ...['needed', 'seen'].map((title, index) => ({
    id: `la_proof${index + 1}`,
    title,
    family: 'fa_proof',
    colour: index + 6,
  })),
  ...['hydraulic', 'electric', 'ropes', 'pumps', 'lights', 'radio'].map((title, index) => ({
    id: `la_gear${index + 1}`,
    title,
    family: 'fa_gear',
    colour: (index % 9) + 1,
  })),
  ...[
    'ramp',
    'Ramps',
    'ramp-gear',
    'winter refit',
    'before summer',
    'guests aboard',
    'second-hand part',
    'photo taken',
  ].map((title, index) => ({
    id: `la_free${index + 1}`,
    title,
    family: null,
    colour: ((index * 2) % 9) + 1,
  })),
]

export const components: readonly {
  readonly id: string
  readonly project: string
  readonly title: string
}[] = [
  ...['MV Petrel', 'MV Curlew', 'MV Dunlin', 'MV Avocet', 'MV Plover', 'Shore crane'].map(
    (title, index) => ({ id: `co_yard${index + 1}`, project: 'YARD', title }),
  ),
  ...['North Pier', 'South Pier', 'Mill Quay', 'Reed Bay', 'Waiting rooms', 'Gangways'].map(
    (title, index) => ({ id: `co_pier${index + 1}`, project: 'PIER', title }),
  ),
  ...['Summer timetable', 'Winter timetable', 'Rosters'].map((title, index) => ({
    id: `co_crew${index + 1}`,
    project: 'CREW',
    title,
  })),
  ...['Ticket app', 'Ticket machines', 'Season passes', 'Boarding scanners'].map(
    (title, index) => ({ id: `co_fare${index + 1}`, project: 'FARE', title }),
  ),
  ...['Fire', 'Life-saving', 'Passengers', 'Environment'].map((title, index) => ({
    id: `co_safe${index + 1}`,
    project: 'SAFE',
    title,
  })),
]
