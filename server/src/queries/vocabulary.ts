import { type Domain, functionNames, functions } from '@bluestem/core/queries'
import type { RequestContext } from '../http/endpoint.ts'
import { chosen } from '../work/row.ts'
import { visibleProjects } from '../workspace/visibility.ts'

/** What editors complete with: every property, function and value by its name. People and items are many; they are searched. */
export function vocabulary({ world, person }: RequestContext): object {
  const { vocabulary: words } = world
  const visible = visibleProjects(world, person)
  const domains: Domain[] = [
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
    ...Object.keys(world.document.fields).map((id): Domain => `option:${id}`),
  ]
  const labels = new Map(world.labels.map((label) => [label.id, label.project]))
  const components = new Map(world.components.map((component) => [component.id, component.project]))
  const projectOf = (id: string): { project?: string } => {
    const project = labels.get(id) ?? components.get(id)
    return project ? { project } : {}
  }
  const seen = (domain: Domain, id: string): boolean => {
    if (domain === 'project') return visible.includes(world.numbers.of('project', id) ?? -1)
    const project = domain === 'component' || domain === 'label' ? projectOf(id).project : undefined
    if (project !== undefined) return visible.includes(world.numbers.of('project', project) ?? -1)
    return true
  }
  return {
    edition: world.edition,
    zone: world.zone,
    workspace: world.title,
    today: new Date().toISOString(),
    properties: [...words.properties.values()].map(({ computed, ...property }) =>
      computed ? { ...property, computed: computed.kind } : property,
    ),
    functions: functionNames.map((name) => ({ name, ...functions[name] })),
    choices: Object.fromEntries(
      domains.map((domain) => [
        domain,
        words
          .choices(domain)
          .filter((choice) => seen(domain, choice.id))
          .map((choice) => ({
            ...chosen(world, domain, choice.id, ''),
            name: choice.name,
            qualified: choice.qualified,
            ...(choice.own ? { own: choice.own } : {}),
            ...(choice.retired ? { retired: true } : {}),
            ...projectOf(choice.id),
          })),
      ]),
    ),
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
