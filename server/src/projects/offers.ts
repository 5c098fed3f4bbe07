import { entryOf } from '@bluestem/core/known'
import type { OffersAnswer } from '@bluestem/core/projects'
import {
  defaultPriority,
  flowOf,
  formOf,
  mayStandBelow,
  offeredOf,
  typesOf,
} from '@bluestem/core/definitions'
import type { Sequelize } from 'sequelize'
import type { World } from '../workspace/world.ts'
import { visibleProjects } from '../workspace/visibility.ts'
import { usualTypeIn } from '../work/usualType.ts'
import { templatesFor } from '../templates/read.ts'
import { notFound } from '../problems/problem.ts'
import type { ActorContext } from '../workspace/actor.ts'

/** The link kinds a rulebook offers, with their names in both directions. */
const linksOffered = ({ document }: World, rulebook: string): OffersAnswer['links'] =>
  offeredOf(document, rulebook, 'link').flatMap((id) => {
    const kind = document.linkKinds[id]
    return kind && !kind.retired ? [{ id, title: kind.title, inverse: kind.inverse }] : []
  })

/** The priorities on the ladder of a project, each with its rung. */
function prioritiesOffered({ vocabulary }: World, project: string): OffersAnswer['priorities'] {
  return vocabulary.choices('priority').flatMap(({ id, title, retired }) => {
    const rung = vocabulary.rungOf(project, id)
    return retired || rung === null ? [] : [{ id, title, mark: rung }]
  })
}

/** The types a project offers, each with its flow's start and its forms: what making an item needs. */
export async function offersOf(
  database: Sequelize,
  context: ActorContext,
  code: string,
): Promise<OffersAnswer> {
  const { world, person } = context
  const project = world.projects.find((project) => project.code === code)
  const rulebook = project && world.document.projects[project.id]
  if (!project || !rulebook || !visibleProjects(world, person).includes(project.number))
    throw notFound('project of this code')
  const handle = (field: string): string => world.document.fields[field]?.handle ?? field
  const form = (type: string, which: 'item' | 'make') =>
    formOf(world.document, rulebook, type, which).map((field) => ({
      ...field,
      handle: handle(field.field),
    }))
  const types = typesOf(world.document, rulebook).filter(
    (id) => !entryOf(world.document.types, id).retired,
  )
  return {
    id: project.id,
    code: project.code,
    title: project.title,
    description: project.description,
    rulebook: { id: rulebook, title: entryOf(world.document.rulebooks, rulebook).title },
    templates: await templatesFor(database, context, project),
    usual: await usualTypeIn(database, context.world, project.number),
    priority: defaultPriority(world.document, rulebook),
    priorities: prioritiesOffered(world, project.id),
    links: linksOffered(world, rulebook),
    types: types.map((id) => {
      const { title, monogram, tier, description } = entryOf(world.document.types, id)
      const flow = flowOf(world.document, rulebook, id)
      return {
        id,
        title,
        mark: `${monogram}${tier}`,
        description,
        start: flow.start,
        statuses: flow.statuses.map((status) => ({
          id: status,
          title: entryOf(world.document.statuses, status).title,
          mark: entryOf(world.document.statuses, status).phase,
        })),
        moves: [...flow.moves],
        below: types.filter((child) => mayStandBelow(world.document, child, id)),
        item: form(id, 'item'),
        make: form(id, 'make'),
      }
    }),
  }
}
