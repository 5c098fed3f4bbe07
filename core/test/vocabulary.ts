import { builtIns, type Choice, type Vocabulary } from '../src/queries/tree/vocabulary.ts'
import type { Domain, Property, Condition } from '../src/queries/tree/checked.ts'
import type { WorkingTime } from '../src/calendar/working.ts'
import type { LimitedProjects } from '../src/limits/clock.ts'
import { phases } from '../src/definitions/document/phases.ts'

const plain = (id: string, name: string): Choice => ({ id, name, qualified: name, title: name })

const own = (handle: string, type: Property['type'], nullable = true): Property => ({
  handle,
  title: handle,
  type,
  nullable,
  changesWith: ['own'],
  builtIn: false,
})

const choices: Partial<Record<Domain, Choice[]>> = {
  project: [
    { id: 'pr_yard', name: 'YARD', qualified: 'YARD', title: 'Fleet Yard' },
    { id: 'pr_pier', name: 'PIER', qualified: 'PIER', title: 'Piers and Shore' },
  ],
  type: [plain('ty_job', 'Job'), plain('ty_defect', 'Defect')],
  status: [
    plain('st_open', 'Open'),
    plain('st_hand', 'In hand'),
    plain('st_off', 'Signed off'),
    plain('st_gone', 'Withdrawn'),
  ],
  phase: phases.map((phase) => plain(phase, phase)),
  priority: [plain('pi_stop', 'Sailing stopped'), plain('pi_risk', 'Sailing at risk')],
  person: [
    {
      id: 'pe_ana',
      name: 'Ana Brandt',
      qualified: 'Ana Brandt <ana@marrowmere.example>',
      title: 'Ana Brandt',
    },
    {
      id: 'pe_ana2',
      name: 'Ana Brandt',
      qualified: 'Ana Brandt <a.brandt@marrowmere.example>',
      title: 'Ana Brandt',
    },
    {
      id: 'pe_ilse',
      name: 'Ilse Varga',
      qualified: 'Ilse Varga <ilse@marrowmere.example>',
      title: 'Ilse Varga',
    },
  ],
  family: [plain('fa_deck', 'deck')],
  team: [
    plain('tm_yard', 'Yard crew'),
    plain('tm_shore', 'Shore crew'),
    plain('tm_none', 'Nobody’s'),
  ],
  limit: [plain('tl_mend', 'Mend')],
  label: [
    {
      id: 'la_car',
      name: 'deck: car deck',
      qualified: 'deck: car deck',
      title: 'car deck',
      family: 'fa_deck',
      own: 'car deck',
    },
    plain('la_wet', 'wet'),
  ],
  component: [
    { id: 'co_1', name: 'Hinge', qualified: 'YARD: Hinge', title: 'Hinge' },
    { id: 'co_2', name: 'Hinge', qualified: 'PIER: Hinge', title: 'Hinge' },
  ],
  'option:fi_berth': [plain('op_north', 'North'), plain('op_s', "South o' the lake")],
}

/** A small made-up vocabulary for tests of the query language. */
const at = { from: 0, to: 0 }

/** The remit of a team that has all items with one value. */
function remit(handle: string, id: string): Condition {
  const property = builtIns.find((property) => property.handle === handle)!
  const { type } = property
  return {
    kind: 'compare',
    op: '=',
    left: { kind: 'property', property, ofParent: false, type, at },
    right: { kind: 'literal', type, value: id, at },
    at,
  }
}

/** Monday to Friday, eight hours without a break. */
const office: WorkingTime = {
  hours: Object.fromEntries([1, 2, 3, 4, 5].map((day) => [day, [['08:00', '16:00']]])),
  daysOff: [],
}

/** Two working days to mend something in the yard, standing still while parts are awaited. */
const mend: LimitedProjects = {
  allowances: [{ minutes: 960 }],
  starts: ['st_open'],
  stops: ['st_parts'],
  ends: ['st_off'],
  warnAt: 75,
  projects: new Set(['pr_yard']),
}

export const vocabulary: Vocabulary = {
  properties: new Map(
    [
      ...builtIns,
      own('berth', { kind: 'choice', domain: 'option:fi_berth' }),
      own('crew_size', { kind: 'number' }),
      own('cost_of_parts', { kind: 'number' }),
      own('hours_lost', { kind: 'number' }),
      own('note', { kind: 'text' }),
      own('safe', { kind: 'boolean' }),
      own('next_check', { kind: 'date' }),
      own('sea_trial', { kind: 'timestamp' }),
      own('parts', { kind: 'array', domain: 'option:fi_berth' }, false),
    ].map((property) => [property.handle, property]),
  ),
  choices: (domain) => choices[domain] ?? [],
  choice: (domain, id) => choices[domain]?.find((choice) => choice.id === id),
  tierOf: (type) => (type === 'ty_job' ? 1 : 0),
  urgencyOf: (priority) => (priority === 'pi_stop' ? 1 : 2),
  rungOf: (project, priority) => (project !== 'pr_yard' ? null : priority === 'pi_stop' ? 1 : 2),
  isOnForm: () => true,
  iterations: [
    { id: 'it_1', owner: 'a', start: '2026-02-23', end: '2026-03-08' },
    { id: 'it_2', owner: 'a', start: '2026-03-09', end: '2026-03-22' },
    { id: 'it_3', owner: 'a', start: '2026-03-23', end: '2026-04-05' },
  ],
  releases: [
    { id: 're_1', projects: ['pr_yard'], start: null, end: '2026-03-01' },
    { id: 're_2', projects: ['pr_yard', 'pr_pier'], start: null, end: '2026-04-01' },
  ],
  teams: [
    {
      id: 'tm_yard',
      people: new Set(['pe_ana']),
      remit: remit('project', 'pr_yard'),
      working: null,
    },
    {
      id: 'tm_shore',
      people: new Set(['pe_ilse']),
      remit: remit('release', 're_1'),
      working: null,
    },
    { id: 'tm_none', people: new Set(['pe_ana']), remit: null, working: null },
  ],
  limits: new Map([['tl_mend', mend]]),
  workingOf: () => office,
}
