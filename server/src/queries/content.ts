import { keptFilter, type QueryContent } from '@bluestem/core/queries'
import type { ActorContext } from '../workspace/actor.ts'
import { orderOf, propertiesOf } from './properties.ts'
import { readFilter, readSavedFilter } from './filter.ts'

export function takeQuery({ world }: ActorContext, content: QueryContent): QueryContent {
  const condition =
    typeof content.filter === 'string'
      ? readFilter(world, content.filter, 'cql2-text')
      : readSavedFilter(world, content.filter)
  propertiesOf(world, content.columns, '/content/columns')
  content.order.forEach(({ by }) => orderOf(world, by))
  return { ...content, filter: keptFilter(condition, world.vocabulary) }
}
