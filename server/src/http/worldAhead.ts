import type { Request, RequestHandler } from 'express'
import type { World, Worlds } from '../workspace/world.ts'

/** Reads the world of a request while its attempts are counted, for both wait for the database. */
export class WorldAhead {
  readonly #worlds: Worlds
  readonly #begun = new WeakMap<Request, Promise<World>>()

  constructor(worlds: Worlds) {
    this.#worlds = worlds
  }

  /** Begins to read for whoever is signed in. */
  readonly begin: RequestHandler = (request, _, next) => {
    if (request.session.person !== undefined) {
      const world = this.#worlds.now()
      // Where the request is refused meanwhile, nobody waits for the world any more.
      world.catch(() => undefined)
      this.#begun.set(request, world)
    }
    next()
  }

  /** The world that was begun for a request, once; at another try it is read anew. */
  async take(request: Request): Promise<World> {
    const begun = this.#begun.get(request)
    this.#begun.delete(request)
    return await (begun ?? this.#worlds.now())
  }
}
