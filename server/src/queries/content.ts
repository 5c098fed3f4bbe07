import { keptFilter } from '@bluestem/core/queries'
import type { QueryContent } from '@bluestem/core/views'
import type { RequestContext } from '../http/endpoint.ts'
import { orderOf, propertiesOf } from './properties.ts'
import { readFilter, readSavedFilter } from './filter.ts'

export function takeQuery({ world }: RequestContext, content: QueryContent): QueryContent {
  const condition =
    typeof content.filter === 'string'
      ? readFilter(world, content.filter, 'cql2-text')
      : readSavedFilter(world, content.filter)
  propertiesOf(world, content.columns, '/content/columns')
  content.order.forEach(({ by }) => orderOf(world, by))
  return { ...content, filter: keptFilter(condition, world.vocabulary) }
}
