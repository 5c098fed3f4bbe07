import { ViewContent } from '@bluestem/core/views'
import { Type } from 'typebox'
import { savedEndpoints } from '../saved/endpoints.ts'
import { endpoint, type Endpoint } from '../http/endpoint.ts'
import { takeView } from './content.ts'
import { arranged } from './arrange.ts'

/** How many cards of each column are told where nothing else is asked. */
const usualCards = 60

const Arrange = Type.Object(
  {
    view: ViewContent,
    cards: Type.Optional(
      Type.Integer({ minimum: 1, maximum: 1000, description: 'cards of each column of a board' }),
    ),
  },
  { additionalProperties: false, title: 'A view to arrange' },
)

export const viewEndpoints: readonly Endpoint[] = [
  endpoint({
    method: 'post',
    path: '/api/v1/views/arrange',
    role: 'viewer',
    summary: 'What a view, kept or not, shows and does not show.',
    body: Arrange,
    answer: async (context) => ({
      body: await arranged(
        context.database,
        context,
        context.body.view,
        context.body.cards ?? usualCards,
      ),
    }),
  }),
  ...savedEndpoints<ViewContent>({
    kind: 'view',
    plural: 'views',
    content: Type.Unsafe<ViewContent>(ViewContent),
    take: takeView,
    show: (_, kept) => kept,
  }),
]
