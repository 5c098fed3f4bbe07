import type { Property } from '@bluestem/core/queries'
import { invalid } from '../problems/problem.ts'
import type { World } from '../workspace/world.ts'
import type { OrderBy } from '../sql/answers.ts'

/** A page of answers shows or sorts by at most so many properties. */
export const mostProperties = 100
/** The properties named in a list such as `ref,title,-changed`; an unknown one is an error that names it. */
export function propertiesOf(world: World, names: readonly string[], pointer: string): Property[] {
  if (names.length > mostProperties)
    throw invalid([
      {
        pointer,
        message: `At most ${mostProperties} properties are read at a time; ${names.length} are named.`,
        expected: `at most ${mostProperties}`,
      },
    ])
  return names.map((name) => propertyOf(world, name, pointer))
}

/** The property of a name. @throws Problem 400 where there is none */
export function propertyOf(world: World, name: string, pointer: string): Property {
  const property = world.vocabulary.properties.get(name)
  if (property) return property
  throw invalid([
    { pointer, message: `There is no property “${name}”.`, expected: 'a property', found: name },
  ])
}

/** An order such as `-changed,ref`: a minus sign for downwards. */
export function orderOf(world: World, sort: string | undefined): OrderBy[] {
  const parts = (sort ?? '')
    .split(',')
    .map((part) => part.trim())
    .filter(Boolean)
  propertiesOf(
    world,
    parts.map((part) => part.replace(/^[-+]/, '')),
    '/sort',
  )
  return parts.map((part) => {
    const down = part.startsWith('-')
    return {
      property: propertyOf(world, part.replace(/^[-+]/, ''), '/sort'),
      direction: down ? 'down' : 'up',
    }
  })
}
