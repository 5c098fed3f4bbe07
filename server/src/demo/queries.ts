import type { QueryContent } from '@bluestem/core/queries'

/** The shared queries: what people at Marrowmere ask every week. */
export const queries: Record<
  string,
  {
    title: string
    description: string
    filter: string
    columns?: string[]
    order?: QueryContent['order']
  }
> = {
  qu_defects: {
    title: 'Open defects',
    description: 'Defects that are neither done nor dropped, wherever they are.',
    filter: "type = 'Defect' AND phase NOT IN ('done', 'dropped')",
  },
  qu_stop: {
    title: 'Defects that could stop a sailing',
    description: 'The first list of the morning.',
    filter:
      "type IN ('Defect', 'Finding') AND project IN ('YARD', 'PIER') AND phase NOT IN ('done', 'dropped') AND rung <= 2",
    columns: ['ref', 'type', 'title', 'status', 'priority', 'labels', 'due'],
    order: [
      { by: 'rung', direction: 'up' },
      { by: 'created', direction: 'up' },
    ],
  },
  qu_yard: {
    title: 'Open yard work',
    description: 'Everything the yard has on its slip, and what it finished lately.',
    filter:
      "project = 'YARD' AND type IN ('Defect', 'Job') AND phase <> 'dropped' AND (phase <> 'done' OR done > days_ago(60))",
    order: [
      { by: 'rung', direction: 'up' },
      { by: 'ref', direction: 'up' },
    ],
  },
  qu_hold: {
    title: 'On hold',
    description: 'Stuck, with a reason.',
    filter: "on_hold = TRUE AND phase <> 'done'",
    columns: ['ref', 'title', 'status', 'hold_reason', 'assignee'],
  },
  qu_late: {
    title: 'Past its date',
    description: 'Due before today and still open.',
    filter: "due < today() AND phase NOT IN ('done', 'dropped')",
    order: [{ by: 'due', direction: 'up' }],
  },
  qu_weigh: {
    title: 'Open work without an estimate',
    description: 'So that nobody adds up what is not there.',
    filter: "phase IN ('idle', 'active') AND estimate IS NULL AND tier <= 2",
  },
  qu_signed: {
    title: 'Signed off',
    description: 'Everything that was finished.',
    filter: "phase = 'done'",
    order: [{ by: 'done', direction: 'down' }],
  },
  qu_all: {
    title: 'All work',
    description: 'Every item one may see.',
    filter: 'TRUE',
    order: [{ by: 'changed', direction: 'down' }],
  },
  qu_ramps: {
    title: 'Ramps',
    description: 'By any of the labels people use for them.',
    filter: "A_OVERLAPS(labels, ('ramp', 'Ramps', 'ramp-gear'))",
    columns: ['ref', 'title', 'status', 'labels'],
  },
  qu_safety: {
    title: 'Told to the safety office',
    description: 'Open work that is safety relevant.',
    filter: "safety_relevant = TRUE AND phase IN ('idle', 'active')",
    columns: ['ref', 'type', 'title', 'status', 'found_by', 'due'],
  },
  qu_dear: {
    title: 'Dear parts',
    description: 'Open work whose parts cost more than 500 euros.',
    filter: "cost_of_parts > 500 AND phase IN ('idle', 'active')",
    columns: ['ref', 'title', 'status', 'cost_of_parts', 'warranty_until'],
    order: [{ by: 'cost_of_parts', direction: 'down' }],
  },
  qu_warranty: {
    title: 'Still under warranty',
    description: 'Defects the maker pays for.',
    filter: "type = 'Defect' AND phase IN ('idle', 'active') AND warranty_until >= today()",
    columns: ['ref', 'title', 'status', 'warranty_until'],
  },
  qu_lost: {
    title: 'Cost us sailings this quarter',
    description: 'Raised this quarter, and hours of timetable fell out.',
    filter: 'hours_lost > 0 AND T_INTERSECTS(created, quarter(0))',
    columns: ['ref', 'title', 'status', 'hours_lost', 'berth'],
    order: [{ by: 'hours_lost', direction: 'down' }],
  },
  qu_checks: {
    title: 'Checks of this month',
    description: 'To be looked at again this month.',
    filter: 'T_INTERSECTS(next_check, month(0))',
    columns: ['ref', 'type', 'title', 'next_check', 'surveyor'],
    order: [{ by: 'next_check', direction: 'up' }],
  },
  qu_findings: {
    title: 'Findings near their date',
    description: 'Open findings due within two weeks.',
    filter: "type = 'Finding' AND phase IN ('idle', 'active') AND due <= days_ahead(14)",
    order: [{ by: 'due', direction: 'up' }],
  },
  qu_remedies: {
    title: 'Findings that run out of time',
    description: 'Less than three working days are left to remedy them, or none.',
    filter: "type = 'Finding' AND limit_left('Remedy a finding') < 24",
    columns: ['ref', 'title', 'status', 'left_tl_remedy', 'left_tl_answer', 'assignee'],
    order: [{ by: 'left_tl_remedy', direction: 'up' }],
  },
}
