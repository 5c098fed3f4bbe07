import type { Sequelize } from 'sequelize'
import { countByPhase } from '../items/counts.ts'
import type { ActorContext } from '../workspace/actor.ts'
import { visibleProjects } from '../workspace/visibility.ts'

/** The projects a person may see, with how many items each has in each phase. */
export async function projectList(database: Sequelize, { world, person }: ActorContext) {
  const visible = visibleProjects(world, person)
  const counts = await countByPhase(database, visible)
  const countOf = (project: number, phase: number): number =>
    counts.find((count) => count.project_id === project && count.phase === phase)?.count ?? 0
  const projects = world.projects
    .filter((project) => visible.includes(project.number))
    .map(({ id, number, code, title, description, open, calendar, members, keepers, version }) => ({
      id,
      code,
      title,
      description,
      open,
      calendar,
      version,
      members: world.people
        .filter((person) => members.has(person.number))
        .map((person) => person.id),
      keepers: world.people
        .filter((person) => keepers.has(person.number))
        .map((person) => person.id),
      rulebook: world.document.rulebooks[world.document.projects[id] ?? '']?.title ?? null,
      phases: [0, 1, 2, 3].map((phase) => countOf(number, phase)),
    }))
  return { projects }
}
