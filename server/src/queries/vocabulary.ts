import {
  type Domain,
  functionEntry,
  functionNames,
  type NamedChoice,
  type VocabularyAnswer,
} from '@bluestem/core/queries'
import type { ActorContext } from '../workspace/actor.ts'
import type { World } from '../workspace/world.ts'
import { choiceShown } from '../items/row.ts'
import { visibleProjects } from '../workspace/visibility.ts'

const fixedDomains: readonly Domain[] = [
  'project',
  'type',
  'status',
  'phase',
  'priority',
  'person',
  'family',
  'label',
  'component',
  'linkKind',
  'iteration',
  'release',
  'team',
  'limit',
]

interface Owners {
  project?: string
  projects?: readonly string[]
}

/** The project that a label or a component belongs to, the projects of a release; nothing for other choices. */
function projectsOf({ labels, components, vocabulary }: World): (id: string) => Owners {
  const owners = new Map([...labels, ...components].map((entry) => [entry.id, entry.project]))
  const releases = new Map(vocabulary.releases.map(({ id, projects }) => [id, projects]))
  return (id) => {
    const project = owners.get(id)
    const projects = releases.get(id)
    return { ...(project ? { project } : {}), ...(projects ? { projects } : {}) }
  }
}

/** The choices of every domain that a person may see, as they are shown and as they are spelled. */
function visibleChoices(world: World, visible: readonly number[]): VocabularyAnswer['choices'] {
  const projectOf = projectsOf(world)
  const isVisible = (domain: Domain, id: string): boolean => {
    const belongs = domain === 'component' || domain === 'label'
    const project = domain === 'project' ? id : belongs ? projectOf(id).project : undefined
    return project === undefined || visible.includes(world.numbers.of('project', project) ?? -1)
  }
  const options = Object.keys(world.document.fields).map((id): Domain => `option:${id}`)
  const choicesOf = (domain: Domain): NamedChoice[] =>
    world.vocabulary
      .choices(domain)
      .filter((choice) => isVisible(domain, choice.id))
      .map((choice) => ({
        ...choiceShown(world, domain, choice.id, ''),
        name: choice.name,
        qualified: choice.qualified,
        ...(choice.own ? { own: choice.own } : {}),
        ...(choice.family ? { familyId: choice.family } : {}),
        ...(choice.retired ? { retired: true as const } : {}),
        ...projectOf(choice.id),
      }))
  // Entries lose which key belongs to which value: there is one for every domain.
  return Object.fromEntries(
    [...fixedDomains, ...options].map((domain) => [domain, choicesOf(domain)]),
  ) as unknown as VocabularyAnswer['choices']
}

/** What editors complete with: every property, function and value by its name. People and items are many; they are searched. */
export function vocabulary({ world, person, now }: ActorContext): VocabularyAnswer {
  const visible = visibleProjects(world, person)
  return {
    edition: world.edition,
    zone: world.zone,
    workspace: world.title,
    today: now.toISOString(),
    properties: [...world.vocabulary.properties.values()].map(({ computed, ...property }) =>
      computed ? { ...property, computedBy: computed.kind } : property,
    ),
    functions: functionNames.map((name) => {
      const { forms, result, changesWith, nullable, sentence, doc } = functionEntry(name)
      return { name, forms, result, changesWith, nullable, sentence, doc }
    }),
    choices: visibleChoices(world, visible),
    projects: world.projects
      .filter((project) => visible.includes(project.number))
      .map(({ id, code, title, description, open }) => ({
        id,
        code,
        title,
        description,
        open,
        rulebook: world.document.projects[id] ?? null,
      })),
  }
}
