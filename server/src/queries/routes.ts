import { Type } from 'typebox'
import {
  functionNames,
  functions,
  readQuery,
  type Cql2Json,
  type Domain,
} from '@bluestem/core/queries'
import { QueryContent } from '@bluestem/core/views'
import type { Sequelize } from 'sequelize'
import { keptEndpoints } from '../kept/endpoints.ts'
import type { Ask, Endpoint } from '../http/endpoint.ts'
import { visibleProjects } from '../database/world.ts'
import { chosen } from '../work/row.ts'
import { orderOf, propertiesOf, readFilter, readKept, toldFilter } from './answers.ts'

const Check = Type.Object(
  {
    filter: Type.Unknown(),
    filterLang: Type.Optional(Type.Enum(['cql2-text', 'cql2-json'])),
    kept: Type.Optional(Type.Boolean()),
  },
  { additionalProperties: false, title: 'A query to check' },
)

/** A query in all its forms, or what is wrong with it: a check always answers. */
function checked({ world, body }: Ask): object {
  const { filter, filterLang, kept } = body as {
    filter: unknown
    filterLang?: string
    kept?: boolean
  }
  const text =
    filterLang === 'cql2-text' || (filterLang === undefined && typeof filter === 'string')
  const outcome = readQuery(
    text
      ? { lang: 'cql2-text', filter: typeof filter === 'string' ? filter : '' }
      : { lang: 'cql2-json', filter, spelling: kept ? 'identity' : 'name' },
    world.vocabulary,
  )
  if (!outcome.ok) return { ok: false, errors: outcome.errors }
  const { text: printed, textMessage, json, kept: keptJson, sentence } = outcome.value
  return { ok: true, text: printed, textMessage, json, kept: keptJson, sentence, errors: [] }
}

function takeQuery({ world }: Ask, content: QueryContent): QueryContent {
  const filter =
    typeof content.filter === 'string'
      ? readFilter(world, content.filter, 'cql2-text').kept
      : readKept(world, content.filter).kept
  propertiesOf(world, content.columns, '/content/columns')
  content.order.forEach(({ by }) => orderOf(world, by))
  return { ...content, filter }
}

/** What editors complete with: every property, function and value by its name. People and items are many; they are searched. */
function vocabulary({ world, person }: Ask): object {
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

export const queryEndpoints = (database: Sequelize): Endpoint[] => [
  {
    method: 'post',
    path: '/api/v1/queries/check',
    who: 'viewer',
    says: 'A query in all its forms, or its errors with their places.',
    body: Check,
    answer: async (ask) => ({ body: checked(ask) }),
  },
  {
    method: 'get',
    path: '/api/v1/vocabulary',
    who: 'viewer',
    says: 'Everything a query can name.',
    answer: async (ask) => ({ body: { ...vocabulary(ask), today: ask.now.toISOString() } }),
  },
  ...keptEndpoints<QueryContent>(database, {
    kind: 'query',
    plural: 'queries',
    content: QueryContent,
    take: takeQuery,
    show: ({ world }, kept) => ({ ...kept, ...toldFilter(world, kept.content.filter as Cql2Json) }),
  }),
]
