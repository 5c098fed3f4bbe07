import type { Person, World } from './world.ts'

/** Who acts, in which world, and when. */
export interface ActorContext {
  readonly world: World
  readonly person: Person
  readonly now: Date
}
