import { Type } from 'typebox'
import { DashboardContent, Evaluate, fieldFigures, MeasureContent } from '@bluestem/core/dashboards'
import { endpoint, type Endpoint, type RequestContext } from '../http/endpoint.ts'
import { savedEndpoints } from '../saved/endpoints.ts'
import { propertiesOf } from '../queries/properties.ts'
import { evaluate } from './evaluate.ts'

function takeMeasure({ world }: RequestContext, content: MeasureContent): MeasureContent {
  if (fieldFigures.includes(content.figure.kind))
    propertiesOf(world, [content.figure.field ?? ''], '/content/figure/field')
  return content
}

export const dashboardEndpoints: readonly Endpoint[] = [
  endpoint({
    method: 'post',
    path: '/api/v1/measures/evaluate',
    role: 'viewer',
    summary: 'A measure by none or one field, at a moment or over a span.',
    body: Evaluate,
    answer: async (context) => ({ body: await evaluate(context.database, context, context.body) }),
  }),
  ...savedEndpoints<MeasureContent>({
    kind: 'measure',
    plural: 'measures',
    content: Type.Unsafe<MeasureContent>(MeasureContent),
    take: takeMeasure,
    show: (_, kept) => kept,
  }),
  ...savedEndpoints<DashboardContent>({
    kind: 'dashboard',
    plural: 'dashboards',
    content: Type.Unsafe<DashboardContent>(DashboardContent),
    take: (_, content) => content,
    show: (_, kept) => kept,
  }),
]
