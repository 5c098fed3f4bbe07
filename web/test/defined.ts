import { aLabel, aProject, definitionsAnswer, summaryOf } from './answers.ts'
import { flushPromises } from '@vue/test-utils'
import { emptyDocument, type DefinitionsDocument } from '@bluestem/core/definitions'
import { useDefinitions } from '../src/definitions/store/definitions.store.ts'
import { useLiving } from '../src/definitions/store/living.store.ts'
import { controls } from '../src/app/controls.ts'
import { around, serve, show, vocabulary, type Request } from './page.ts'

export const document_: DefinitionsDocument = {
  ...emptyDocument,
  types: {
    ty_defect: { order: 'a0', title: 'Defect', monogram: 'De', tier: 1, description: 'Broken.' },
    ty_job: { order: 'a1', title: 'Job', monogram: 'Jo', tier: 2, description: '' },
  },
  fields: {
    fi_cost: {
      order: 'a0',
      title: 'Cost of parts',
      handle: 'cost',
      kind: 'number',
      unit: '€',
      decimals: 2,
      description: 'Without our hours.',
    },
    fi_berth: {
      order: 'a1',
      title: 'Berth',
      handle: 'berth',
      kind: 'choice',
      description: '',
      options: { op_north: { order: 'a0', title: 'North', description: '' } },
    },
  },
  statuses: {
    st_open: { order: 'a0', title: 'Open', phase: 'idle', queue: true, description: '' },
    st_hand: { order: 'a1', title: 'In hand', phase: 'active', queue: false, description: '' },
    st_off: { order: 'a2', title: 'Signed off', phase: 'done', queue: false, description: '' },
  },
  priorities: {
    pi_now: { order: 'a0', title: 'Now', urgency: 1, description: '' },
    pi_late: { order: 'a1', title: 'Later', urgency: 4, description: '' },
    pi_odd: { order: 'a2', title: 'Odd', urgency: 3, description: '' },
  },
  ladders: {
    ld_ops: {
      order: 'a0',
      title: 'Operations',
      description: '',
      rungs: { pi_now: { order: 'a0' }, pi_late: { order: 'a1' } },
      default: 'pi_late',
    },
  },
  rulebooks: {
    rb_all: {
      order: 'a0',
      title: 'Everyone',
      description: '',
      extends: null,
      entries: {
        ladder: { ladder: 'ld_ops' },
        'type:ty_defect': { start: 'st_open' },
        'status:ty_defect:st_open': { order: 'a0' },
        'status:ty_defect:st_hand': { order: 'a1' },
        'move:ty_defect:st_open:st_hand': {},
        'form:ty_defect:item:fi_cost': { order: 'a0' },
      },
    },
  },
  projects: { pr_yard: 'rb_all', pr_pier: 'rb_all' },
}
const named = [
  { kind: 'query', id: 'qu_1', title: 'Dear repairs' },
  { kind: 'view', id: 'vi_1', title: 'Dear ones' },
  { kind: 'template', id: 'te_1', title: 'Refit' },
]
export const usage = {
  items: { ty_defect: 10, fi_cost: 4, st_open: 6, pi_now: 2, la_ramp: 63, la_ramps: 45 },
  held: [{ column: 'status', value: 'st_open', type: 'ty_defect', project: 'pr_yard', items: 6 }],
  named: { fi_cost: named },
  last: { fi_cost: '2026-11-24T08:00:00Z', la_ramp: '2026-11-25T08:00:00Z' },
  changed: {},
}
export const draft = {
  id: 'dr_1',
  title: 'Changes in hand',
  base: 3,
  etag: '"1"',
  proposed: false,
  shared: true,
  mine: true,
  by: 'Mara Thiel',
  at: '2026-11-25T08:00:00Z',
  mayPublish: true,
  document: document_,
  changes: [] as object[],
  problems: [] as object[],
  clashes: [] as object[],
  needs: [] as object[],
  open: [] as string[],
  choices: {},
  boards: [] as object[],
  touched: { items: 0, named: {} },
  schedule: null,
  failed: null,
}
/** What is defined beside the document, as the server has it. */
export const living = {
  labels: [
    aLabel(),
    aLabel({ id: 'la_ramps', title: 'Ramps', colour: 2 }),
    aLabel({
      id: 'la_cold',
      title: 'cold',
      colour: 3,
      project: 'pr_yard',
      description: 'Ice on it.',
      version: 4,
    }),
  ],
  components: [
    {
      id: 'co_heron',
      title: 'MV Heron',
      project: 'pr_yard',
      keeper: null,
      description: '',
      retired: false,
      version: 1,
    },
    {
      id: 'co_crane',
      title: 'Shore crane',
      project: 'pr_yard',
      keeper: { id: 'pe_tom', title: 'Tom Okafor' },
      description: '',
      retired: false,
      version: 2,
    },
  ],
  templates: [
    {
      id: 'te_1',
      title: 'Refit',
      description: '',
      rulebook: 'rb_all',
      project: null,
      content: {
        item: { title: 'Refit of [[vessel]]', type: 'ty_defect', values: {}, fields: {} },
        children: [],
        links: [],
      },
      retired: false,
      version: 2,
      usedAt: null,
      changedAt: '2026-11-01T08:00:00Z',
      stale: [
        {
          pointer: '/item/fields/berth',
          message: '“Old Harbour” is no longer offered in “Berth”.',
          mend: 'leave it out',
        },
      ],
      blanks: ['vessel'],
      mayEdit: true,
    },
  ],
  calendars: [
    {
      id: 'ca_standard',
      title: 'Office hours',
      standard: true,
      version: 1,
      hours: { 1: [['08:00', '17:00']], 2: [['08:00', '17:00']], 6: [['09:00', '12:00']] },
      daysOff: [{ day: '2026-12-25', title: 'Midwinter' }],
    },
  ],
  teams: [
    {
      id: 'tm_yard',
      title: 'Yard crew',
      people: ['pe_tom'],
      remit: {
        text: "type = 'Defect'",
        kept: { op: '=', args: [{ property: 'type' }, 'ty_defect'] },
        sentence: [
          {
            depth: 0,
            lead: 'Items',
            parts: [{ text: 'of type ' }, { text: 'Defect', value: true }],
          },
        ],
        errors: [],
      },
      calendar: 'ca_standard',
      version: 3,
    },
  ],
  projects: [aProject()],
  people: [
    {
      id: 'pe_tom',
      name: 'Tom Okafor',
      role: 'member',
      email: 'tom.okafor@marrowmere.example',
      active: true,
      version: 2,
    },
    {
      id: 'pe_old',
      name: 'Jon Wray',
      role: 'member',
      email: 'jon@x.example',
      active: false,
      version: 5,
    },
  ],
}

/** The definitions as the server has them, and a record of what was asked. */
export async function open(
  more: Parameters<typeof serve>[0] = {},
  drafts: object[] = [],
): Promise<Request[]> {
  const asked = serve({
    'GET /definitions': {
      body: definitionsAnswer({ document: document_ }),
    },
    'GET /definitions/drafts': {
      body: { drafts: drafts.map((entry) => summaryOf(entry as typeof draft)) },
    },
    ...Object.fromEntries(
      (drafts as { id: string }[]).map((draft) => [
        `GET /definitions/drafts/${draft.id}`,
        { body: draft },
      ]),
    ),
    'GET /definitions/usage': { body: usage },
    'GET /definitions/boards': {
      body: {
        boards: [{ id: 'vi_b', title: 'Morning board', columns: ['st_open'] }],
        unplaced: ['st_off'],
      },
    },
    ...Object.fromEntries(
      Object.entries(living).map(([kind, all]) => [`GET /${kind}`, { body: { [kind]: all } }]),
    ),
    'GET /definitions/usage?options=fi_berth': { body: { ...usage, items: { op_north: 7 } } },
    'GET /vocabulary': { body: vocabulary },
    'GET /definitions/drafts/dr_1/replay?days=90': {
      body: { days: 90, moves: 12, newly: 0, refused: [] },
    },
    'POST /definitions/drafts': { status: 201, body: draft, etag: '"1"' },
    'PATCH /definitions/drafts/dr_1': { body: { ...draft, etag: '"2"' } },
    ...more,
  })
  await Promise.all([useDefinitions().load(), useLiving().load()])
  return asked
}
interface SentEdit {
  path: string[]
  after?: unknown
  before?: unknown
}
/** The edits a form sent, without what each says stood there before. */
export const editsIn = (asked: readonly Request[]): Omit<SentEdit, 'before'>[] =>
  sentEdits(asked).map(({ before: _, ...edit }) => edit)
/** The edits a form sent, whole. */
export const sentEdits = (asked: readonly Request[]): SentEdit[] =>
  (
    asked.findLast(
      (request) => request.method === 'PATCH' && request.path.startsWith('/definitions/drafts'),
    )!.body as { edits: SentEdit[] }
  ).edits

/** A component of Definitions over the definitions above. */
export async function shown(
  component: Parameters<typeof show>[0],
  options: Parameters<typeof show>[1] = {},
  more: Parameters<typeof serve>[0] = {},
  drafts: object[] = [],
) {
  // The store belongs to the mounted application, so it is filled before the component looks.
  const holder = await show({ template: '<i/>' }, options)
  holder.unmount()
  const asked = await open(more, drafts)
  const { mount } = await import('@vue/test-utils')
  const { getActivePinia } = await import('pinia')
  const wrapper = mount(component, {
    props: options.props ?? {},
    global: { ...around, plugins: [getActivePinia()!, holder.router, controls] },
    attachTo: document.body,
  })
  await flushPromises()
  return { wrapper, asked }
}
