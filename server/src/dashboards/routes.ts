import { type DashboardContent, fieldFigures, type MeasureContent } from '@bluestem/core/dashboards'
import { endpoint, type Endpoint } from '../http/endpoint.ts'
import type { ActorContext } from '../workspace/actor.ts'
import { savedEndpoints } from '../saved/endpoints.ts'
import { propertiesOf } from '../queries/properties.ts'
import { evaluate } from './evaluate.ts'

function takeMeasure({ world }: ActorContext, content: MeasureContent): MeasureContent {
  if (fieldFigures.includes(content.figure.kind))
    propertiesOf(world, [content.figure.field ?? ''], '/content/figure/field')
  return content
}

export const dashboardEndpoints: readonly Endpoint[] = [
  endpoint('POST /measures/evaluate', {
    role: 'viewer',
    summary: 'A measure by none or one field, at a moment or over a span.',
    answer: async (context) => ({ body: await evaluate(context.database, context, context.body) }),
  }),
  ...savedEndpoints<MeasureContent>({
    kind: 'measure',
    plural: 'measures',
    take: takeMeasure,
    show: (_, kept) => kept,
  }),
  ...savedEndpoints<DashboardContent>({
    kind: 'dashboard',
    plural: 'dashboards',
    take: (_, content) => content,
    show: (_, kept) => kept,
  }),
]
