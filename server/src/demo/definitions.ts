import { emptyDocument, orderKeys, type DefinitionsDocument, type Field, type RulebookEntry } from '@bluestem/core/definitions'

/** Entries under identities made of a prefix and a short name, in the order in which they are written. */
function section<T extends object>(prefix: string, entries: Readonly<Record<string, T>>): Record<string, T & { order: string }> {
  const keys = orderKeys(Object.keys(entries).length)
  return Object.fromEntries(Object.entries(entries).map(([name, entry], index) => [`${prefix}_${name}`, { order: keys[index]!, ...entry }]))
}

const options = (field: string, titles: readonly string[]) => section('op', Object.fromEntries(titles.map((title, index) => [`${field}${String(index + 1).padStart(2, '0')}`, { title, description: '' }])))

const field = (title: string, handle: string, kind: Field['kind'], description: string, more: Partial<Field> = {}) => ({ title, handle, kind, description, ...more })

const types = section('ty', {
  programme: { title: 'Programme', monogram: 'Pg', tier: 4, description: 'A season’s undertaking of many work packages, such as a refit.' },
  package: { title: 'Work package', monogram: 'Wp', tier: 3, description: 'What one crew takes on as a whole.' },
  job: { title: 'Job', monogram: 'Jo', tier: 2, description: 'Planned work on a vessel, a pier or a timetable.' },
  inspection: { title: 'Inspection', monogram: 'In', tier: 2, description: 'A round of looking, by us or by the inspectorate.' },
  defect: { title: 'Defect', monogram: 'De', tier: 1, description: 'Something that does not work as it should.' },
  finding: { title: 'Finding', monogram: 'Fi', tier: 1, description: 'What an inspection found to be mended.' },
  change: { title: 'Change', monogram: 'Ch', tier: 1, description: 'A change to fares, apps or machines that print tickets.' },
  check: { title: 'Check', monogram: 'Ck', tier: 0, description: 'One thing to look at or to measure.' },
})

const statuses = section('st', {
  open: { title: 'Open', phase: 'idle' as const, queue: true, description: 'Known, and nobody works on it yet.' },
  ready: { title: 'Ready', phase: 'idle' as const, queue: true, description: 'Understood well enough to begin.' },
  hand: { title: 'In hand', phase: 'active' as const, queue: false, description: 'Somebody works on it now.' },
  parts: { title: 'Waiting for parts', phase: 'active' as const, queue: true, description: 'Begun, and stopped until parts come.' },
  surveyor: { title: 'Awaiting surveyor', phase: 'active' as const, queue: true, description: 'Mended, and to be seen by a surveyor.' },
  review: { title: 'In review', phase: 'active' as const, queue: true, description: 'Built, and looked over by a second person.' },
  proof: { title: 'Awaiting proof', phase: 'active' as const, queue: true, description: 'Remedied, and proof is to be shown.' },
  signed: { title: 'Signed off', phase: 'done' as const, queue: false, description: 'Done, and somebody answers for it.' },
  withdrawn: { title: 'Withdrawn', phase: 'dropped' as const, queue: false, description: 'Not to be done after all.' },
})

const priorities = section('pi', {
  stopped: { title: 'Sailing stopped', urgency: 1, description: 'A vessel or pier cannot be used.' },
  risk: { title: 'Sailing at risk', urgency: 2, description: 'Will stop a sailing if nothing is done this week.' },
  nuisance: { title: 'Passenger nuisance', urgency: 3, description: 'Passengers notice, and the timetable holds.' },
  convenient: { title: 'When convenient', urgency: 5, description: 'Worth doing when there is time.' },
})

const fields = section('fi', {
  berth: field('Berth', 'berth', 'choice', 'Where the vessel lies.', { options: options('berth', ['North Pier 1', 'North Pier 2', 'South Pier', 'Mill Quay', 'Slipway', 'Fitting-out quay', 'Reed Bay', 'Old Harbour', 'Winter pool']) }),
  certificate: field('Class certificate', 'class_certificate', 'web address', 'Where the certificate can be seen.'),
  cost: field('Cost of parts', 'cost_of_parts', 'number', 'What the parts cost us, without our own hours. Filled by whoever orders.', { unit: '€', decimals: 2 }),
  crew: field('Crew needed', 'crew_needed', 'people', 'Who has to be there for it.'),
  found: field('Found by', 'found_by', 'choice', 'Who noticed first.', { options: options('found', ['Crew on board', 'Yard', 'Passenger', 'Inspectorate', 'Round of looking']) }),
  hours: field('Hours of sailing lost', 'hours_lost', 'number', 'Hours of timetable that fell out because of it.', { unit: 'h', decimals: 1 }),
  note: field('Inspector’s note', 'inspector_note', 'long text', 'In the inspector’s own words.'),
  next: field('Next check', 'next_check', 'date', 'When it is to be looked at again.'),
  yardno: field('Old yard number', 'old_yard_number', 'text', 'From the card index; no longer given.'),
  safety: field('Safety relevant', 'safety_relevant', 'yes/no', 'Whether the safety office has to be told.'),
  trial: field('Sea trial', 'sea_trial', 'moment', 'When the trial with full load begins.'),
  spare: field('Spare parts', 'spare_parts', 'several choices', 'Parts taken from the store.', { options: options('spare', ['Hinge pin', 'Seal kit', 'Relay', 'Breaker', 'Pump', 'Hose', 'Fender bolt', 'Lamp', 'Filter', 'Shackle', 'Sensor', 'Wire rope']) }),
  tide: field('Wind window', 'wind_window', 'choice', 'The wind it can be done in.', { options: options('wind', ['Any', 'Below force 6', 'Below force 4', 'Calm only']) }),
  warranty: field('Warranty until', 'warranty_until', 'date', 'The last day on which the maker pays.'),
  surveyor: field('Surveyor', 'surveyor', 'person', 'Who has to see it before it is signed off.'),
})

const families = section('fa', {
  deck: { title: 'deck', pick: 'one' as const, description: 'Where on a vessel.' },
  proof: { title: 'proof', pick: 'one' as const, description: 'Whether proof is needed, or was seen.' },
  gear: { title: 'gear', pick: 'many' as const, description: 'What kind of gear it is about.' },
})

const linkKinds = section('lk', {
  waits: { title: 'waits for', inverse: 'holds up', description: 'Cannot go on before the other is done.' },
  belongs: { title: 'belongs with', inverse: 'belongs with', description: 'Best done together.' },
  repeats: { title: 'repeats', inverse: 'is repeated by', description: 'The same thing told again.' },
})

/** The flows: statuses in order, the first is where items start, and for each where it may go. */
const flows: Record<string, Record<string, readonly string[]>> = {
  defect: { open: ['hand', 'parts', 'withdrawn'], hand: ['open', 'parts', 'surveyor', 'signed', 'withdrawn'], parts: ['hand', 'withdrawn'], surveyor: ['hand', 'signed'], signed: ['hand'], withdrawn: ['open'] },
  job: { open: ['hand', 'withdrawn'], hand: ['open', 'parts', 'signed', 'withdrawn'], parts: ['hand', 'withdrawn'], signed: ['hand'], withdrawn: ['open'] },
  package: { open: ['hand', 'withdrawn'], hand: ['open', 'signed', 'withdrawn'], signed: ['hand'], withdrawn: ['open'] },
  programme: { open: ['hand', 'withdrawn'], hand: ['signed', 'withdrawn'], signed: ['hand'], withdrawn: ['open'] },
  inspection: { open: ['hand', 'withdrawn'], hand: ['signed', 'open'], signed: [], withdrawn: ['open'] },
  finding: { open: ['hand', 'withdrawn'], hand: ['proof', 'open'], proof: ['hand', 'signed'], signed: ['hand'], withdrawn: ['open'] },
  change: { open: ['ready', 'withdrawn'], ready: ['open', 'hand', 'withdrawn'], hand: ['ready', 'review', 'withdrawn'], review: ['hand', 'signed'], signed: ['hand'], withdrawn: ['open'] },
  check: { open: ['signed', 'hand', 'withdrawn'], hand: ['signed', 'open'], signed: ['open'], withdrawn: ['open'] },
}

/** Which custom fields each type has on its form; the built-in ones are the same for all. */
const formFields: Record<string, readonly string[]> = {
  defect: ['found', 'safety', 'hours', 'cost', 'berth', 'spare', 'surveyor', 'certificate', 'warranty', 'trial', 'yardno'], job: ['cost', 'crew', 'berth', 'spare', 'tide', 'safety'], package: ['safety'], programme: [],
  inspection: ['next', 'surveyor', 'certificate', 'safety'], finding: ['found', 'note', 'next', 'safety'], change: ['safety'], check: [],
}
const builtIn = ['priority', 'assignee', 'due', 'start', 'estimate', 'remaining', 'components', 'labels', 'parent']

function entries(): Record<string, RulebookEntry> {
  const all: Record<string, RulebookEntry> = { ladder: { ladder: 'ld_operations' } }
  for (const [type, flow] of Object.entries(flows)) {
    const names = Object.keys(flow)
    all[`type:ty_${type}`] = { start: `st_${names[0]!}` }
    for (const [index, order] of orderKeys(names.length).entries()) {
      all[`status:ty_${type}:st_${names[index]!}`] = { order }
      for (const to of flow[names[index]!]!) all[`move:ty_${type}:st_${names[index]!}:st_${to}`] = {}
    }
    const onItem = [...builtIn, ...formFields[type]!.map((name) => `fi_${name}`)]
    for (const [index, order] of orderKeys(onItem.length).entries()) all[`form:ty_${type}:item:${onItem[index]!}`] = { order, section: index < builtIn.length ? '' : 'Particulars' }
    const whenMade = ['priority', 'assignee', 'due', 'estimate', 'labels', 'parent', ...formFields[type]!.slice(0, 2).map((name) => `fi_${name}`)]
    for (const [index, order] of orderKeys(whenMade.length).entries()) all[`form:ty_${type}:make:${whenMade[index]!}`] = { order }
  }
  for (const family of Object.keys(families)) all[`family:${family}`] = {}
  for (const kind of Object.keys(linkKinds)) all[`link:${kind}`] = {}
  return all
}

export const projects: readonly { readonly code: string; readonly id: string; readonly title: string; readonly description: string; readonly open: boolean }[] = [
  { code: 'YARD', id: 'pr_yard', title: 'Fleet Yard', description: 'Repairs and refits of our vessels.', open: true },
  { code: 'PIER', id: 'pr_pier', title: 'Piers and Shore', description: 'Piers, waiting rooms, gangways and cranes.', open: true },
  { code: 'CREW', id: 'pr_crew', title: 'Crewing and Timetable', description: 'Who sails when. Seen by its members only.', open: false },
  { code: 'FARE', id: 'pr_fare', title: 'Fares and Passenger Apps', description: 'Tickets, machines and apps, in iterations of two weeks.', open: true },
  { code: 'SAFE', id: 'pr_safe', title: 'Safety Office', description: 'Inspections and findings.', open: true },
]

/** The definitions of Marrowmere Ferries as they stand now. */
export const definitions: DefinitionsDocument = {
  ...emptyDocument, types, statuses, priorities, fields, families, linkKinds,
  ladders: section('ld', { operations: { title: 'Operations', description: 'What a trouble does to the timetable.', rungs: section('pi', { stopped: {}, risk: {}, nuisance: {}, convenient: {} }), default: 'pi_convenient' } }),
  rulebooks: section('rb', { everyone: { title: 'Everyone', description: 'What all of Marrowmere Ferries works by.', extends: null, entries: entries() } }),
  projects: Object.fromEntries(projects.map((project) => [project.id, 'rb_everyone'])),
}

/** Earlier editions, oldest first, each as what it said otherwise than today, with how long ago it was published and why. */
export const pastEditions: readonly { readonly daysAgo: number; readonly by: string; readonly note: string; readonly document: DefinitionsDocument }[] = [
  { daysAgo: 560, by: 'Mara Thiel', note: 'The beginning.', document: withoutWind({ ...definitions, statuses: { ...statuses, st_parts: { ...statuses['st_parts']!, title: 'Stuck' } } }) },
  { daysAgo: 236, by: 'Mara Thiel', note: 'Say what it is stuck on.', document: withoutWind(definitions) },
  { daysAgo: 146, by: 'Mara Thiel', note: 'The crane crew needs to know the wind it can work in.', document: definitions },
]

function withoutWind(document: DefinitionsDocument): DefinitionsDocument {
  const rulebook = document.rulebooks['rb_everyone']!
  const kept = Object.fromEntries(Object.entries(rulebook.entries).filter(([key]) => !key.endsWith(':fi_tide')))
  const { fi_tide: _, ...others } = document.fields
  return { ...document, fields: others, rulebooks: { rb_everyone: { ...rulebook, entries: kept } } }
}

/** Labels: title, family, colour of the set. Three of them mean the same, and no screen has said so yet. */
export const labels: readonly { readonly id: string; readonly title: string; readonly family: string | null; readonly colour: number }[] = [
  ...['car deck', 'upper', 'saloon', 'hull', 'engine room'].map((title, index) => ({ id: `la_deck${index + 1}`, title, family: 'fa_deck', colour: index + 2 })),
  ...['needed', 'seen'].map((title, index) => ({ id: `la_proof${index + 1}`, title, family: 'fa_proof', colour: index + 6 })),
  ...['hydraulic', 'electric', 'ropes', 'pumps', 'lights', 'radio'].map((title, index) => ({ id: `la_gear${index + 1}`, title, family: 'fa_gear', colour: (index % 9) + 1 })),
  ...['ramp', 'Ramps', 'ramp-gear', 'winter refit', 'before summer', 'guests aboard', 'second-hand part', 'photo taken'].map((title, index) => ({ id: `la_free${index + 1}`, title, family: null, colour: (index * 2 % 9) + 1 })),
]

export const components: readonly { readonly id: string; readonly project: string; readonly title: string }[] = [
  ...['MV Petrel', 'MV Curlew', 'MV Dunlin', 'MV Avocet', 'MV Plover', 'Shore crane'].map((title, index) => ({ id: `co_yard${index + 1}`, project: 'YARD', title })),
  ...['North Pier', 'South Pier', 'Mill Quay', 'Reed Bay', 'Waiting rooms', 'Gangways'].map((title, index) => ({ id: `co_pier${index + 1}`, project: 'PIER', title })),
  ...['Summer timetable', 'Winter timetable', 'Rosters'].map((title, index) => ({ id: `co_crew${index + 1}`, project: 'CREW', title })),
  ...['Ticket app', 'Ticket machines', 'Season passes', 'Boarding scanners'].map((title, index) => ({ id: `co_fare${index + 1}`, project: 'FARE', title })),
  ...['Fire', 'Life-saving', 'Passengers', 'Environment'].map((title, index) => ({ id: `co_safe${index + 1}`, project: 'SAFE', title })),
]
