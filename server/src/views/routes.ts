import { type ViewContent } from '@bluestem/core/views'
import { savedEndpoints } from '../saved/endpoints.ts'
import { endpoint, type Endpoint } from '../http/endpoint.ts'
import { takeView } from './content.ts'
import { arranged } from './arrange.ts'

/** How many cards of each column are told where nothing else is asked. */
const usualCards = 60

export const viewEndpoints: readonly Endpoint[] = [
  endpoint('POST /views/arrange', {
    role: 'viewer',
    summary: 'What a view, kept or not, shows and does not show.',
    answer: async (context) => ({
      body: await arranged(context.database, context, context.body.view, {
        most: context.body.cards ?? usualCards,
        asOf: context.query['as-of'],
      }),
    }),
  }),
  ...savedEndpoints<ViewContent>({
    kind: 'view',
    plural: 'views',
    take: takeView,
    show: (_, kept) => kept,
  }),
]
