import type { WorkRules } from '@bluestem/core/work'
import type { ActorContext } from '../workspace/actor.ts'
import type { World } from '../workspace/world.ts'

type WorldRules = Omit<WorkRules, 'now' | 'person'>

/** What is the same for everybody in a world is made once for it. */
const rulesOfWorlds = new WeakMap<World, WorldRules>()

function rulesOf(world: World): WorldRules {
  const known = rulesOfWorlds.get(world)
  if (known) return known
  const made: WorldRules = {
    document: world.document,
    vocabulary: world.vocabulary,
    fields: new Map(Object.values(world.document.fields).map((field) => [field.handle, field])),
    labels: world.labelOf,
    components: new Map(world.components.map((component) => [component.id, component])),
    projects: new Map(world.projects.map((project) => [project.id, project])),
    zone: world.zone,
  }
  rulesOfWorlds.set(world, made)
  return made
}

/** By what the changes of somebody are judged now. */
export function rulesFor({ world, person, now }: ActorContext): WorkRules {
  const kept = world.projects.filter((project) => project.keepers.has(person.number))
  return {
    ...rulesOf(world),
    now: now.getTime(),
    person: {
      id: person.id,
      isAdministrator: person.role === 'administrator',
      keeps: new Set(kept.map((project) => project.id)),
    },
  }
}
