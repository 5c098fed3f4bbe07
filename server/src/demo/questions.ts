import type { QueryContent } from '@bluestem/core/queries'
import { queries } from './queries.ts'
import { dashboards } from './dashboards.ts'
import type { MeasureContent } from '@bluestem/core/dashboards'
import type { ViewContent } from '@bluestem/core/views'
import type { Sequelize } from 'sequelize'
import { modelsOf } from '../database/models/models.ts'
import type { World } from '../workspace/world.ts'
import { keptFilter } from './filter.ts'

const columns = ['ref', 'type', 'title', 'status', 'priority', 'assignee', 'due']
const latestFirst: QueryContent['order'] = [{ by: 'changed', direction: 'down' }]

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

/** Keeps the demo's queries, views, measures and dashboard, shared with everyone and owned by the administrator. */
export async function keepQuestions(database: Sequelize, world: World, now: Date): Promise<void> {
  const models = modelsOf(database)
  const keep = async (
    kind: 'query' | 'view' | 'measure' | 'dashboard',
    identity: string,
    title: string,
    description: string,
    content: object,
  ): Promise<void> =>
    void (await models[kind].create({
      identity,
      title,
      description,
      content,
      ownerId: 1,
      shared: 'everyone',
      changedAt: now,
      changedBy: 1,
    }))
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
