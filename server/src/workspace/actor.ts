import type { World } from './world.ts'
import type { Person } from './living.ts'

/** Who acts, in which world, and when. */
export interface ActorContext {
  readonly world: World
  readonly person: Person
  readonly now: Date
}
