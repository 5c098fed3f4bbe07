import type { ViewContent } from '@bluestem/core/views'
import type { ActorContext } from '../workspace/actor.ts'
import { invalid } from '../problems/problem.ts'
import { propertiesOf, propertyOf } from '../queries/properties.ts'

export function takeView(context: ActorContext, content: ViewContent): ViewContent {
  propertiesOf(
    context.world,
    [
      ...content.columns,
      ...content.order.map((entry) => entry.by),
      ...(content.group ? [content.group] : []),
      ...(content.board ? [content.board.by, ...content.board.cards] : []),
    ],
    '/content',
  )
  if (content.kind === 'board' && !content.board)
    throw invalid([
      {
        pointer: '/content/board',
        message: 'A board needs what its columns are by.',
        expected: '{"by": "status", …}',
      },
    ])
  if (content.kind === 'list' && content.board)
    throw invalid([
      { pointer: '/content/board', message: 'A list has no board.', expected: 'null' },
    ])
  if (content.board) groupable(context, content.board.by, '/content/board/by')
  if (content.group) groupable(context, content.group, '/content/group')
  return content
}

/** Only a property with one value from a list can be grouped by. */
export function groupable({ world }: ActorContext, handle: string, pointer: string) {
  const property = propertyOf(world, handle, pointer)
  const { kind } = property.type
  if ((kind !== 'choice' && kind !== 'boolean' && kind !== 'number') || handle === 'parent')
    throw invalid([
      {
        pointer,
        message: `Items are not grouped by ${property.title}: it has no list of values.`,
        expected: 'a choice, a person, yes/no or a number',
        found: handle,
      },
    ])
  return property
}
