import type {
  CurrentAnswer,
  DraftChange,
  DraftSummary,
  UsageAnswer,
} from '@bluestem/core/definitions'
import { emptyDocument } from '@bluestem/core/definitions'
import type { LabelAnswer } from '@bluestem/core/labels'
import type { OfferedType, OffersAnswer, ProjectAnswer } from '@bluestem/core/projects'
import type { ItemAnswer, SavedQuery } from '@bluestem/core/queries'
import type { SavedThing } from '@bluestem/core/saved'
import type { WholeItemAnswer } from '@bluestem/core/work'

/** Whole answers of the server, of which a test says only what matters to it. */
export const anItem = (parts: Partial<WholeItemAnswer> = {}): WholeItemAnswer => ({
  ref: 'YARD/1',
  type: { id: 'ty_defect', title: 'Defect', mark: 'De1' },
  title: 'Ramp hinge weeps',
  on_hold: false,
  status: { id: 'st_open', title: 'Open', mark: 'idle' },
  etag: '"7"',
  rulebook: 'rb_all',
  statusSince: '2026-11-24T08:00:00Z',
  holdSince: null,
  moves: [],
  refusals: [],
  limits: [],
  children: [],
  ...parts,
})

export const saved = <Content>(
  id: string,
  title: string,
  content: Content,
): SavedThing<Content> => ({
  id,
  title,
  description: '',
  shared: 'everyone',
  owner: { id: 'pe_mara', title: 'Mara Thiel' },
  changedAt: '2026-11-20T08:00:00Z',
  mayEdit: true,
  version: 1,
  content,
})

export const aQuery = (id: string, title: string) => ({
  ...saved(id, title, { filter: true, columns: ['ref', 'title'], order: [] }),
  text: 'TRUE',
  sentence: [],
  errors: [],
})

export const aView = (id: string, title: string) =>
  saved(id, title, {
    query: 'qu_1',
    kind: 'list' as const,
    columns: ['ref'],
    order: [],
    group: null,
    board: null,
  })

export const aProject = (parts: Partial<ProjectAnswer> = {}): ProjectAnswer => ({
  id: 'pr_yard',
  code: 'YARD',
  title: 'Fleet Yard',
  description: '',
  open: true,
  rulebook: 'Everyone',
  phases: [1, 2, 3, 0],
  calendar: null,
  members: [],
  keepers: [],
  version: 1,
  ...parts,
})

export const someOffers = (parts: Partial<OffersAnswer> = {}): OffersAnswer => ({
  id: 'pr_yard',
  code: 'YARD',
  title: 'Fleet Yard',
  description: '',
  rulebook: { id: 'rb_all', title: 'Everyone' },
  priority: null,
  priorities: [],
  types: [],
  templates: [],
  links: [],
  usual: null,
  ...parts,
})

export const definitionsAnswer = (parts: Partial<CurrentAnswer> = {}): CurrentAnswer => ({
  edition: { number: 3, note: '', published_at: '2026-07-02T08:00:00Z', by: 'Mara Thiel' },
  document: emptyDocument,
  mapping: [],
  keeps: [],
  ...parts,
})

export const noUse: UsageAnswer = { items: {}, held: [], named: {}, last: {}, changed: {} }

/** A draft as lists tell it. */
export const summaryOf = ({
  id,
  title,
  base,
  etag,
  proposed,
  shared,
  mine,
  by,
  at,
  changes,
}: Omit<DraftSummary, 'count'> & { readonly changes: readonly unknown[] }): DraftSummary => ({
  id,
  title,
  base,
  etag,
  proposed,
  shared,
  mine,
  by,
  at,
  count: changes.length,
})

export const aLabel = (parts: Partial<LabelAnswer> = {}): LabelAnswer => ({
  id: 'la_ramp',
  title: 'ramp',
  family: null,
  colour: 1,
  project: null,
  description: '',
  retired: false,
  version: 1,
  ...parts,
})

export const aChange = (parts: Partial<DraftChange> = {}): DraftChange => ({
  id: 'ch_1',
  by: 'Mara Thiel',
  at: '2026-11-25T09:00:00Z',
  path: ['statuses', 'st_open', 'title'],
  words: 'renames status “Open” to “Known”',
  sides: { kind: 'status', title: 'Known', part: 'title', before: 'Open', after: 'Known' },
  items: 6,
  named: [],
  forms: [],
  undoable: true,
  ...parts,
})

/** A type as a project offers it. */
export const offeredType: OfferedType = {
  id: 'ty_defect',
  title: 'Defect',
  mark: 'De1',
  description: 'Something that does not work.',
  start: 'st_open',
  moves: ['st_open:st_hand'],
  below: [],
  statuses: [
    { id: 'st_open', title: 'Open', mark: 'idle' },
    { id: 'st_hand', title: 'In hand', mark: 'active' },
  ],
  item: [
    { field: 'priority', handle: 'priority', section: '', required: false },
    { field: 'due', handle: 'due', section: '', required: false },
    { field: 'labels', handle: 'labels', section: '', required: false },
    { field: 'fi_cost', handle: 'cost', section: 'Particulars', required: false },
  ],
  make: [
    { field: 'priority', handle: 'priority', section: '', required: false },
    { field: 'fi_cost', handle: 'cost', section: '', required: false },
  ],
}
/** What a project offers. */
export const offers: OffersAnswer = {
  usual: null,
  id: 'pr_yard',
  links: [{ id: 'lk_waits', title: 'waits for', inverse: 'holds up' }],
  code: 'YARD',
  title: 'Fleet Yard',
  description: 'Repairs.',
  rulebook: { id: 'rb_all', title: 'Everyone' },
  priority: 'pi_late',
  priorities: [
    { id: 'pi_stop', title: 'Sailing stopped', mark: 1 },
    { id: 'pi_late', title: 'When convenient', mark: 2 },
  ],
  types: [offeredType, { ...offeredType, id: 'ty_job', title: 'Job', mark: 'Jo2' }],
  templates: [],
}

/** A defect that nobody has begun with. */
export const aDefect: WholeItemAnswer = {
  ref: 'YARD/1',
  type: { id: 'ty_defect', title: 'Defect', mark: 'De1' },
  title: 'Ramp hinge weeps',
  on_hold: false,
  etag: '"1"',
  status: { id: 'st_open', title: 'Open', mark: 'idle' },
  statusSince: '2026-11-20T08:00:00Z',
  holdSince: null,
  moves: [],
  limits: [],
  rulebook: 'rb_all',
  refusals: [],
  children: [],
  priority: { id: 'pi_late', title: 'When convenient', mark: 2 },
  due: null,
  labels: [{ id: 'la_wet', title: 'wet', mark: 3 }],
  fields: { cost: 12 },
}

/** A query that asks for defects. */
export const openDefects: SavedQuery = {
  id: 'qu_1',
  title: 'Open defects',
  description: '',
  shared: 'everyone',
  owner: { id: 'pe_tom', title: 'Tom Okafor' },
  changedAt: '2026-11-20T08:00:00Z',
  mayEdit: true,
  version: 1,
  text: "type = 'Defect'",
  errors: [],
  sentence: [
    { depth: 0, lead: 'Items', parts: [{ text: 'of type ' }, { text: 'Defect', value: true }] },
  ],
  content: { filter: true, columns: ['ref'], order: [{ by: 'due', direction: 'down' }] },
}

/** An item as a board shows it. */
export const aCard = (ref: string, more: object = {}): ItemAnswer => ({
  ref,
  title: `Card ${ref}`,
  type: { id: 'ty_defect', title: 'Defect', mark: 'De1' },
  on_hold: false,
  status: { id: 'st_open', title: 'Open', mark: 'idle' },
  priority: { id: 'pi_stop', title: 'Sailing stopped', mark: 1 },
  assignee: null,
  ...more,
})
