import { Type } from 'typebox'
import { TemplateContent } from '@bluestem/core/work'
import type { Sequelize } from 'sequelize'
import { matchOf, type Ask, type Endpoint } from '../http/endpoint.ts'
import { changeCalendar, discardCalendar, makeCalendar, type CalendarGiven } from './calendars.ts'
import {
  changeComponent,
  components,
  makeComponent,
  mergeComponents,
  type ComponentGiven,
} from './components.ts'
import {
  changeLabel,
  labels,
  liftLabel,
  makeLabel,
  mergeLabels,
  recentLabels,
  type LabelGiven,
} from './labels.ts'
import { changeProject, makeProject, type ProjectChange, type ProjectGiven } from './projects.ts'
import { changeTeam, discardTeam, makeTeam, teams, type TeamGiven } from './teams.ts'
import {
  applyTo,
  changeTemplate,
  contentFrom,
  fill,
  makeFrom,
  makeTemplate,
  mend,
  readTemplate,
  templates,
  type Applying,
  type TemplateGiven,
  type Using,
} from './templates.ts'

const text = (most: number, least = 1) => Type.String({ minLength: least, maxLength: most })
const orNone = (identity: string) => Type.Union([Type.String({ pattern: identity }), Type.Null()])
/** An identity of a kind: nothing else is looked up. */
const identity = (prefix: string) => Type.String({ pattern: `^${prefix}_[a-z0-9_]{1,40}$` })
const identities = (prefix: string, most: number) =>
  Type.Array(identity(prefix), { maxItems: most, uniqueItems: true })
const merging = (prefix: string) =>
  Type.Object(
    { into: identity(prefix), from: Type.Array(identity(prefix), { minItems: 1, maxItems: 500 }) },
    { additionalProperties: false, title: 'Several made one' },
  )

const labelParts = {
  description: Type.Optional(text(500, 0)),
  colour: Type.Optional(Type.Integer({ minimum: 1, maximum: 9 })),
  family: Type.Optional(orNone('^fa_')),
  project: Type.Optional(orNone('^pr_')),
}
const NewLabel = Type.Object(
  { title: text(200), ...labelParts },
  { additionalProperties: false, title: 'A new label' },
)
const LabelChange = Type.Object(
  { title: Type.Optional(text(200)), retired: Type.Optional(Type.Boolean()), ...labelParts },
  { additionalProperties: false, title: 'Changes to a label' },
)
const MergingLabels = merging('la')
const Lifting = Type.Object(
  { family: orNone('^fa_'), copies: Type.Optional(identities('la', 500)) },
  { additionalProperties: false, title: 'A label lifted' },
)

const componentParts = {
  description: Type.Optional(text(2000, 0)),
  keeper: Type.Optional(orNone('^pe_')),
}
const MergingComponents = merging('co')
const NewComponent = Type.Object(
  { project: identity('pr'), title: text(200), ...componentParts },
  { additionalProperties: false, title: 'A new component' },
)
const ComponentChange = Type.Object(
  { title: Type.Optional(text(200)), retired: Type.Optional(Type.Boolean()), ...componentParts },
  { additionalProperties: false, title: 'Changes to a component' },
)

const time = Type.String({ pattern: '^(?:[01]\\d|2[0-3]):[0-5]\\d$|^24:00$' })
const CalendarBody = Type.Object(
  {
    title: text(80),
    hours: Type.Record(
      Type.String({ pattern: '^[1-7]$' }),
      Type.Array(Type.Array(time, { minItems: 2, maxItems: 2, description: 'from and to' }), {
        maxItems: 6,
      }),
      { additionalProperties: false },
    ),
    daysOff: Type.Array(
      Type.Object(
        { day: Type.String({ pattern: '^\\d{4}-\\d{2}-\\d{2}$' }), title: text(80, 0) },
        { additionalProperties: false },
      ),
      { maxItems: 2000 },
    ),
  },
  { additionalProperties: false, title: 'A calendar' },
)

const teamParts = {
  remit: Type.Optional(text(4000, 0)),
  calendar: Type.Optional(orNone('^ca_')),
  people: Type.Optional(identities('pe', 1000)),
}
const NewTeam = Type.Object(
  { title: text(80), ...teamParts },
  { additionalProperties: false, title: 'A new team' },
)
const TeamChange = Type.Object(
  { title: Type.Optional(text(80)), ...teamParts },
  { additionalProperties: false, title: 'Changes to a team' },
)

const NewProject = Type.Object(
  {
    title: text(80),
    code: text(10),
    description: Type.Optional(text(500, 0)),
    rulebook: identity('rb'),
    calendar: Type.Optional(orNone('^ca_')),
    open: Type.Optional(Type.Boolean()),
  },
  { additionalProperties: false, title: 'A new project' },
)
const ProjectChanges = Type.Object(
  {
    title: Type.Optional(text(80)),
    description: Type.Optional(text(500, 0)),
    calendar: Type.Optional(orNone('^ca_')),
    keepers: Type.Optional(identities('pe', 100)),
  },
  { additionalProperties: false, title: 'Changes to a project' },
)

const templateParts = {
  description: Type.Optional(text(2000, 0)),
  content: Type.Optional(TemplateContent),
}
const NewTemplate = Type.Object(
  {
    title: text(120),
    rulebook: Type.Optional(identity('rb')),
    project: Type.Optional(identity('pr')),
    description: Type.Optional(text(2000, 0)),
    content: TemplateContent,
  },
  { additionalProperties: false, title: 'A new template' },
)
const TemplateChange = Type.Object(
  { title: Type.Optional(text(120)), retired: Type.Optional(Type.Boolean()), ...templateParts },
  { additionalProperties: false, title: 'Changes to a template' },
)
const blanks = Type.Optional(Type.Record(Type.String(), Type.String({ maxLength: 300 })))
const UseIn = Type.Object(
  {
    project: Type.String(),
    blanks,
    title: Type.Optional(text(300, 0)),
    over: Type.Optional(
      Type.Record(Type.String(), Type.Unknown(), {
        description: 'what is given of the item instead of what the template says',
      }),
    ),
  },
  { additionalProperties: false, title: 'Where a template is used' },
)
const ApplyTo = Type.Object(
  { ref: Type.String(), how: Type.Enum(['fill', 'replace']), keep: Type.Boolean(), blanks },
  { additionalProperties: false, title: 'A template on an item' },
)
const From = Type.Object(
  { ref: Type.String(), children: Type.Boolean() },
  { additionalProperties: false, title: 'The item a template is made from' },
)

const idOf = (ask: Ask): string => ask.params['id']!
const template = '/api/v1/templates/{id}'

/** Living data of the definitions: changed at once, not by edition. */
export const livingEndpoints = (database: Sequelize): Endpoint[] => [
  {
    method: 'get',
    path: '/api/v1/labels',
    who: 'viewer',
    says: 'The labels.',
    answer: async (ask) => ({ body: labels(ask) }),
  },
  {
    method: 'get',
    path: '/api/v1/labels/recent',
    who: 'viewer',
    says: 'The labels one gave last.',
    answer: async (ask) => ({ body: await recentLabels(database, ask) }),
  },
  {
    method: 'post',
    path: '/api/v1/labels',
    who: 'member',
    says: 'Makes a label.',
    body: NewLabel,
    answer: async (ask) => ({
      status: 201,
      body: await makeLabel(database, ask, ask.body as LabelGiven & { title: string }),
    }),
  },
  {
    method: 'post',
    path: '/api/v1/labels/merge',
    who: 'member',
    says: 'Makes several labels one.',
    body: MergingLabels,
    answer: async (ask) => {
      const { into, from } = ask.body as { into: string; from: string[] }
      return { body: await mergeLabels(database, ask, into, from) }
    },
  },
  {
    method: 'patch',
    path: '/api/v1/labels/{id}',
    who: 'member',
    says: 'Changes a label.',
    body: LabelChange,
    answer: async (ask) => ({
      body: await changeLabel(
        database,
        ask,
        idOf(ask),
        ask.body as LabelGiven,
        matchOf(ask.request),
      ),
    }),
  },
  {
    method: 'post',
    path: '/api/v1/labels/{id}/lift',
    who: 'administrator',
    says: 'Lifts a project’s label into a shared family and merges its copies.',
    body: Lifting,
    answer: async (ask) => {
      const { family, copies = [] } = ask.body as { family: string | null; copies?: string[] }
      return { body: await liftLabel(database, ask, idOf(ask), family, copies) }
    },
  },
  {
    method: 'get',
    path: '/api/v1/components',
    who: 'viewer',
    says: 'The components of the projects one sees.',
    answer: async (ask) => ({ body: components(ask) }),
  },
  {
    method: 'post',
    path: '/api/v1/components',
    who: 'member',
    says: 'Makes a component.',
    body: NewComponent,
    answer: async (ask) => {
      const { project, ...given } = ask.body as ComponentGiven & { project: string; title: string }
      return { status: 201, body: await makeComponent(database, ask, project, given) }
    },
  },
  {
    method: 'post',
    path: '/api/v1/components/merge',
    who: 'member',
    says: 'Makes several components one.',
    body: MergingComponents,
    answer: async (ask) => {
      const { into, from } = ask.body as { into: string; from: string[] }
      return { body: await mergeComponents(database, ask, into, from) }
    },
  },
  {
    method: 'patch',
    path: '/api/v1/components/{id}',
    who: 'member',
    says: 'Changes a component.',
    body: ComponentChange,
    answer: async (ask) => ({
      body: await changeComponent(
        database,
        ask,
        idOf(ask),
        ask.body as ComponentGiven,
        matchOf(ask.request),
      ),
    }),
  },
  {
    method: 'get',
    path: '/api/v1/calendars',
    who: 'viewer',
    says: 'The calendars.',
    answer: async ({ world }) => ({ body: { calendars: world.calendars } }),
  },
  {
    method: 'post',
    path: '/api/v1/calendars',
    who: 'administrator',
    says: 'Makes a calendar.',
    body: CalendarBody,
    answer: async (ask) => ({
      status: 201,
      body: await makeCalendar(database, ask, ask.body as unknown as CalendarGiven),
    }),
  },
  {
    method: 'patch',
    path: '/api/v1/calendars/{id}',
    who: 'administrator',
    says: 'Changes a calendar.',
    body: CalendarBody,
    answer: async (ask) => ({
      body: await changeCalendar(
        database,
        ask,
        idOf(ask),
        ask.body as unknown as CalendarGiven,
        matchOf(ask.request),
      ),
    }),
  },
  {
    method: 'delete',
    path: '/api/v1/calendars/{id}',
    who: 'administrator',
    says: 'Deletes a calendar that nobody works by.',
    answer: async (ask) => (
      await discardCalendar(database, ask, idOf(ask), matchOf(ask.request)),
      {}
    ),
  },
  {
    method: 'get',
    path: '/api/v1/teams',
    who: 'viewer',
    says: 'The teams, each with its remit.',
    answer: async (ask) => ({ body: teams(ask) }),
  },
  {
    method: 'post',
    path: '/api/v1/teams',
    who: 'administrator',
    says: 'Makes a team.',
    body: NewTeam,
    answer: async (ask) => ({
      status: 201,
      body: await makeTeam(database, ask, ask.body as TeamGiven),
    }),
  },
  {
    method: 'patch',
    path: '/api/v1/teams/{id}',
    who: 'administrator',
    says: 'Changes a team.',
    body: TeamChange,
    answer: async (ask) => ({
      body: await changeTeam(database, ask, idOf(ask), ask.body as TeamGiven, matchOf(ask.request)),
    }),
  },
  {
    method: 'delete',
    path: '/api/v1/teams/{id}',
    who: 'administrator',
    says: 'Deletes a team that owns no iteration.',
    answer: async (ask) => (await discardTeam(database, ask, idOf(ask), matchOf(ask.request)), {}),
  },
  {
    method: 'post',
    path: '/api/v1/projects',
    who: 'administrator',
    says: 'Makes a project.',
    body: NewProject,
    answer: async (ask) => ({
      status: 201,
      body: await makeProject(database, ask, ask.body as ProjectGiven),
    }),
  },
  {
    method: 'patch',
    path: '/api/v1/projects/{id}',
    who: 'administrator',
    says: 'Changes a project.',
    body: ProjectChanges,
    answer: async (ask) => ({
      body: await changeProject(
        database,
        ask,
        idOf(ask),
        ask.body as ProjectChange,
        matchOf(ask.request),
      ),
    }),
  },
  {
    method: 'get',
    path: '/api/v1/templates',
    who: 'viewer',
    says: 'The templates, each with what of it no longer fits.',
    answer: async (ask) => ({ body: await templates(database, ask) }),
  },
  {
    method: 'post',
    path: '/api/v1/templates',
    who: 'member',
    says: 'Makes a template.',
    body: NewTemplate,
    answer: async (ask) => ({
      status: 201,
      ...(await makeTemplate(database, ask, ask.body as Parameters<typeof makeTemplate>[2])),
    }),
  },
  {
    method: 'post',
    path: '/api/v1/templates/from',
    who: 'member',
    says: 'What a template made from an item would hold.',
    body: From,
    answer: async (ask) => {
      const { ref, children } = ask.body as { ref: string; children: boolean }
      return { body: await contentFrom(database, ask, ref, children) }
    },
  },
  {
    method: 'get',
    path: template,
    who: 'viewer',
    says: 'One template.',
    answer: async (ask) => await readTemplate(database, ask, idOf(ask)),
  },
  {
    method: 'patch',
    path: template,
    who: 'member',
    says: 'Changes or retires a template.',
    body: TemplateChange,
    answer: async (ask) =>
      await changeTemplate(
        database,
        ask,
        idOf(ask),
        ask.body as TemplateGiven,
        matchOf(ask.request),
      ),
  },
  {
    method: 'post',
    path: `${template}/mend`,
    who: 'member',
    says: 'Takes out of a template what no longer fits.',
    answer: async (ask) => await mend(database, ask, idOf(ask), matchOf(ask.request)),
  },
  {
    method: 'post',
    path: `${template}/fill`,
    who: 'viewer',
    says: 'What a form is filled with.',
    body: UseIn,
    answer: async (ask) => ({ body: await fill(database, ask, idOf(ask), ask.body as Using) }),
  },
  {
    method: 'post',
    path: `${template}/make`,
    who: 'member',
    says: 'Makes a template’s items.',
    body: UseIn,
    answer: async (ask) => ({
      status: 201,
      body: await makeFrom(database, ask, idOf(ask), ask.body as Using),
    }),
  },
  {
    method: 'post',
    path: `${template}/apply`,
    who: 'member',
    says: 'Applies a template to an item, or tells what that would change.',
    body: ApplyTo,
    answer: async (ask) => ({
      body: await applyTo(
        database,
        ask,
        idOf(ask),
        ask.body as Applying,
        (ask.body as Applying).keep ? matchOf(ask.request) : '*',
      ),
    }),
  },
]
