import type { DashboardContent, MeasureContent } from '@bluestem/core/dashboards'
import type { QueryContent, ViewContent } from '@bluestem/core/views'
import type { Sequelize } from 'sequelize'
import { run } from '../database/connect.ts'
import type { World } from '../workspace/world.ts'
import { keptFilter } from './filter.ts'

const columns = ['ref', 'type', 'title', 'status', 'priority', 'assignee', 'due']
const latestFirst: QueryContent['order'] = [{ by: 'changed', direction: 'down' }]

/** The shared queries: what people at Marrowmere ask every week. */
const queries: Record<
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
}

const views: Record<string, { title: string; content: ViewContent }> = {
  vi_morning: {
    title: 'Yard morning board',
    content: {
      query: 'qu_yard',
      kind: 'board',
      columns,
      order: [
        { by: 'rung', direction: 'up' },
        { by: 'created', direction: 'up' },
      ],
      group: null,
      board: {
        by: 'status',
        columns: ['st_open', 'st_hand', 'st_parts', 'st_signed'],
        cards: ['priority', 'assignee', 'labels', 'due'],
        finishedWithin: 14,
      },
    },
  },
  vi_stop: {
    title: 'What could stop a sailing',
    content: {
      query: 'qu_stop',
      kind: 'list',
      columns: ['ref', 'type', 'title', 'status', 'priority', 'labels', 'due'],
      order: [
        { by: 'rung', direction: 'up' },
        { by: 'due', direction: 'up' },
      ],
      group: 'status',
      board: null,
    },
  },
  vi_persons: {
    title: 'Past its date, by person',
    content: {
      query: 'qu_late',
      kind: 'list',
      columns: ['ref', 'type', 'title', 'status', 'due'],
      order: [{ by: 'due', direction: 'up' }],
      group: 'assignee',
      board: null,
    },
  },
}

const figure = (
  query: string,
  kind: MeasureContent['figure']['kind'],
  unit: string,
  better: MeasureContent['better'],
  target: number | null,
  field?: string,
): MeasureContent => ({
  query,
  figure: { kind, ...(field ? { field } : {}) },
  unit,
  better,
  target,
})

const measures: Record<string, { title: string; description: string; content: MeasureContent }> = {
  me_defects: {
    title: 'Open defects',
    description: 'How many defects are open.',
    content: figure('qu_defects', 'count', 'items', 'less', 120),
  },
  me_stop: {
    title: 'Could stop a sailing',
    description: 'Defects and findings on the first two rungs.',
    content: figure('qu_stop', 'count', 'items', 'less', 60),
  },
  me_hours: {
    title: 'Estimated hours on the slip',
    description: 'The sum of estimates of open yard work; items without one add nothing.',
    content: figure('qu_yard', 'sum', 'hours', 'less', null, 'estimate'),
  },
  me_parts: {
    title: 'Mean cost of parts',
    description: 'Over defects that are open and have a cost.',
    content: figure('qu_defects', 'mean', '€', 'less', null, 'cost_of_parts'),
  },
  me_late: {
    title: 'Past its date',
    description: 'Open items due before today.',
    content: figure('qu_late', 'count', 'items', 'less', 80),
  },
  me_work: {
    title: 'All work',
    description: 'Every item, by whatever it is asked by.',
    content: figure('qu_all', 'count', 'items', null, null),
  },
}

const dashboards: Record<
  string,
  { title: string; description: string; content: DashboardContent }
> = {
  da_yard: {
    title: 'Yard crew, week by week',
    description: 'What head office and the yard look at on Mondays.',
    content: {
      widgets: [
        {
          id: 'a',
          kind: 'figure',
          title: 'Open defects',
          measure: 'me_defects',
          span: { days: 182, step: 'week' },
          x: 0,
          y: 0,
          w: 3,
          h: 2,
        },
        {
          id: 'b',
          kind: 'figure',
          title: 'Could stop a sailing',
          measure: 'me_stop',
          span: { days: 182, step: 'week' },
          x: 3,
          y: 0,
          w: 3,
          h: 2,
        },
        {
          id: 'c',
          kind: 'figure',
          title: 'Estimated hours on the slip',
          measure: 'me_hours',
          span: { days: 91, step: 'week' },
          x: 6,
          y: 0,
          w: 3,
          h: 2,
        },
        {
          id: 'd',
          kind: 'figure',
          title: 'Past its date',
          measure: 'me_late',
          span: { days: 91, step: 'week' },
          x: 9,
          y: 0,
          w: 3,
          h: 2,
        },
        {
          id: 'e',
          kind: 'course',
          title: 'How work flowed, by phase',
          measure: 'me_work',
          by: 'phase',
          span: { days: 365, step: 'week' },
          x: 0,
          y: 2,
          w: 7,
          h: 6,
        },
        {
          id: 'f',
          kind: 'bars',
          title: 'Open defects by status',
          measure: 'me_defects',
          by: 'status',
          x: 7,
          y: 2,
          w: 5,
          h: 6,
        },
        {
          id: 'g',
          kind: 'list',
          title: 'Findings near their date',
          query: 'qu_findings',
          x: 0,
          y: 8,
          w: 7,
          h: 4,
        },
        {
          id: 'h',
          kind: 'bars',
          title: 'Open defects by project',
          measure: 'me_defects',
          by: 'project',
          x: 7,
          y: 8,
          w: 5,
          h: 4,
        },
      ],
    },
  },
}

/** Keeps the demo's queries, views, measures and dashboard, shared with everyone and owned by the administrator. */
export async function keepQuestions(database: Sequelize, world: World, now: Date): Promise<void> {
  const keep = async (
    table: string,
    id: string,
    title: string,
    description: string,
    content: unknown,
  ): Promise<void> =>
    await run(
      database,
      `INSERT INTO ${table} (identity, title, description, content, owner_id, shared, changed_at, changed_by) VALUES ($1, $2, $3, $4::jsonb, 1, 'everyone', $5, 1)`,
      [id, title, description, JSON.stringify(content), now],
    )
  for (const [
    id,
    { title, description, filter, columns: own = columns, order = latestFirst },
  ] of Object.entries(queries)) {
    await keep('query', id, title, description, {
      filter: keptFilter(world, title, filter),
      columns: own,
      order,
    } satisfies QueryContent)
  }
  for (const [id, { title, content }] of Object.entries(views))
    await keep('view', id, title, '', content)
  for (const [id, { title, description, content }] of Object.entries(measures))
    await keep('measure', id, title, description, content)
  for (const [id, { title, description, content }] of Object.entries(dashboards))
    await keep('dashboard', id, title, description, content)
}
