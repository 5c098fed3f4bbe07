import { DashboardContent, Evaluate, fieldFigures, MeasureContent } from '@bluestem/core/dashboards'
import type { Sequelize } from 'sequelize'
import type { Ask, Endpoint } from '../http/endpoint.ts'
import { keptEndpoints } from '../kept/endpoints.ts'
import { propertiesOf } from '../queries/answers.ts'
import { evaluate } from './evaluate.ts'

function takeMeasure({ world }: Ask, content: MeasureContent): MeasureContent {
  if (fieldFigures.includes(content.figure.kind))
    propertiesOf(world, [content.figure.field ?? ''], '/content/figure/field')
  return content
}

export const dashboardEndpoints = (database: Sequelize): Endpoint[] => [
  {
    method: 'post',
    path: '/api/v1/measures/evaluate',
    who: 'viewer',
    says: 'A measure by none or one field, at a moment or over a span.',
    body: Evaluate,
    answer: async (ask) => ({ body: await evaluate(database, ask) }),
  },
  ...keptEndpoints<MeasureContent>(database, {
    kind: 'measure',
    plural: 'measures',
    content: MeasureContent,
    take: takeMeasure,
    show: (_, kept) => kept,
  }),
  ...keptEndpoints<DashboardContent>(database, {
    kind: 'dashboard',
    plural: 'dashboards',
    content: DashboardContent,
    take: (_, content) => content,
    show: (_, kept) => kept,
  }),
]
