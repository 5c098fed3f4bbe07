import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { contracts, type Route } from '@bluestem/core/contract'
import { serveWorkspace, type Caller, type Reply, type Served } from './workspace.ts'

/**
 * Who may do what, made from the contracts: every endpoint by every role, and every endpoint that names a thing by what the thing is
 * to the asker: their own, another's, shared, or of a closed project. The rules are written down here once more, apart from the server.
 */

/** Mara is an administrator. Tom is a member who keeps the yard and its rulebook, and makes everything below. Greta is a member of the piers and of the yard. Ida is a viewer. */
const names = ['Mara Thiel', 'Tom Okafor', 'Greta Holm', 'Ida Lund'] as const
type Name = (typeof names)[number]

let served: Served
let callers: Record<Name, Caller>
let tom: Caller
let mara: Caller

const any = { 'if-match': '*' }

beforeAll(async () => {
  served = await serveWorkspace()
  const signedIn = await Promise.all(names.map(async (name) => await served.signIn(name)))
  callers = Object.fromEntries(names.map((name, at) => [name, signedIn[at]])) as typeof callers
  tom = callers['Tom Okafor']
  mara = callers['Mara Thiel']
  await made(mara, 'POST /projects', {
    title: 'Closed dock',
    code: 'DOCK',
    rulebook: 'rb_yard',
    open: false,
    members: [await personOf('Tom Okafor')],
  })
  await callRoute(
    mara,
    'PATCH /projects/{id}',
    { id: await projectOf('DOCK') },
    { keepers: [await personOf('Tom Okafor')] },
  )
  // Greta belongs to the yard, too, and keeps nothing of it.
  const yard = (await served.worlds.now()).projects.find(({ code }) => code === 'YARD')!
  const people = (await served.worlds.now()).people
  const members = people.filter(
    ({ number, name }) => yard.members.has(number) || name === 'Greta Holm',
  )
  await callRoute(
    mara,
    'PATCH /projects/{id}',
    { id: yard.id },
    { members: members.map(({ id }) => id) },
  )
  // Something to apply a template to.
  await made(tom, 'POST /items', { project: 'DOCK', type: 'Defect', title: 'Gate leaks' })
})
afterAll(async () => await served.close())

const personOf = async (name: Name): Promise<string> =>
  (await served.worlds.now()).people.find((person) => person.name === name)!.id
const projectOf = async (code: string): Promise<string> =>
  (await served.worlds.now()).projects.find((project) => project.code === code)!.id

/** Calls a route with its parameters in their places. */
async function callRoute(caller: Caller, route: Route, params: Params, body?: unknown) {
  const [method = '', path = ''] = route.split(' ')
  const address = path.replaceAll(/\{(\w+)\}/g, (_, name: string) => params[name] ?? 'zz_none')
  return await caller(method, address, method === 'GET' ? undefined : (body ?? {}), any)
}

type Params = Readonly<Record<string, string>>

/** Makes something that a story is about. @throws where it could not be made */
async function made(caller: Caller, route: Route, body: unknown, params: Params = {}) {
  const reply = await callRoute(caller, route, params, body)
  if (reply.status >= 300) throw new Error(`${route}: ${JSON.stringify(reply.body)}`)
  return reply.body
}

describe('the role that an endpoint takes', () => {
  const roles = ['viewer', 'member', 'administrator'] as const
  const people: Record<(typeof roles)[number], Name> = {
    viewer: 'Ida Lund',
    member: 'Greta Holm',
    administrator: 'Mara Thiel',
  }

  const forAdministrators: ReadonlySet<Route> = new Set<Route>([
    'POST /people',
    'PATCH /people/{id}',
    'POST /people/{id}/invitation',
    'GET /directory',
    'POST /directory',
    'GET /audit',
    'GET /jobs',
    'POST /jobs/{key}/try',
    'DELETE /jobs/{key}',
    'PATCH /definitions/rulebooks/{id}/keepers',
    'POST /labels/{id}/lift',
    'POST /calendars',
    'PATCH /calendars/{id}',
    'DELETE /calendars/{id}',
    'POST /teams',
    'PATCH /teams/{id}',
    'DELETE /teams/{id}',
    'POST /projects',
    'PATCH /projects/{id}',
  ])
  /** What is sent by POST and changes nothing of others. */
  const sentByViewers: ReadonlySet<Route> = new Set<Route>([
    'POST /session/password',
    'POST /definitions/scores/preview',
    'POST /definitions/differences',
    'POST /templates/{id}/fill',
    'POST /notices/looked',
    'POST /items/{code}/{number}/looked',
    'POST /items/{code}/{number}/followers',
    'DELETE /items/{code}/{number}/followers/{person}',
    'POST /subscriptions',
    'DELETE /subscriptions/{id}',
    'POST /items/export',
    'POST /items/search',
    'POST /queries/check',
    'POST /views/arrange',
    'POST /measures/evaluate',
  ])
  /** What only those have who change something. */
  const readByMembers: ReadonlySet<Route> = new Set<Route>([
    'GET /definitions/dropped-drafts',
    'GET /merges',
    'GET /bulk',
    'GET /bulk/{id}',
    'GET /jots',
    'GET /imports/{id}',
    'GET /imports/{id}/rest',
  ])
  function leastRole(route: Route): (typeof roles)[number] {
    if (forAdministrators.has(route)) return 'administrator'
    if (readByMembers.has(route)) return 'member'
    return route.startsWith('GET ') || sentByViewers.has(route) ? 'viewer' : 'member'
  }
  /** Signing in and out needs no role; whoever holds an invitation may open it. */
  const withoutRole = new Set<string>([
    'POST /session',
    'DELETE /session',
    'POST /invitation',
    'POST /invitation/accepted',
  ])
  const routes = (Object.keys(contracts) as Route[]).filter(
    (route) => !withoutRole.has(route) && !route.includes('/invitation'),
  )

  it.each(routes)('%s', async (route) => {
    const least = roles.indexOf(leastRole(route))
    const refused = await Promise.all(
      roles.map(async (role) => {
        const { status, body } = await callRoute(callers[people[role]], route, {})
        return status === 403 && String(body.detail).startsWith('This takes the role')
      }),
    )
    expect(refused).toEqual(roles.map((_, rank) => rank < least))
  })
})

/** What somebody is answered: it is done (or refused for another reason than permission), forbidden, or not there for them. */
type Outcome = 'may' | 'forbidden' | 'not there'

function outcomeOf({ status, body }: Reply): Outcome {
  if (status === 403) return 'forbidden'
  if (status === 404) return 'not there'
  if (status === 401 || status >= 500) throw new Error(`${status}: ${JSON.stringify(body)}`)
  return 'may'
}

/** What each of the four is answered, in the order of their names. */
type Outcomes = readonly [mara: Outcome, tom: Outcome, greta: Outcome, ida: Outcome]

const everybody: Outcomes = ['may', 'may', 'may', 'may']
const members: Outcomes = ['may', 'may', 'may', 'forbidden']
const keepers: Outcomes = ['may', 'may', 'forbidden', 'forbidden']
const insiders: Outcomes = ['may', 'may', 'not there', 'not there']
/** Insiders; a viewer is refused by the role before anything is looked up. */
const insidersWrite: Outcomes = ['may', 'may', 'not there', 'forbidden']
const makerReads: Outcomes = ['not there', 'may', 'not there', 'not there']
const makerWrites: Outcomes = ['not there', 'may', 'not there', 'forbidden']

interface Story {
  readonly thing: string
  /** makes the thing by Tom, anew for each who tries */
  readonly make: () => Promise<Params>
  readonly outcomes: Partial<Record<Route, Outcomes>>
  /** a body, or what makes one */
  readonly bodies?: Partial<Record<Route, object | (() => Promise<object>)>>
}

let count = 0
const title = (): string => `Thing ${(count += 1)}`

const contents: Record<string, object> = {
  queries: { filter: true, columns: [], order: [] },
  views: { query: 'qu_all', kind: 'list', columns: ['ref'], order: [], group: null, board: null },
  measures: {
    query: 'qu_all',
    figure: { kind: 'count' },
    unit: 'items',
    better: 'less',
    target: null,
  },
  dashboards: { widgets: [] },
}

const savedStories = (['queries', 'views', 'measures', 'dashboards'] as const).flatMap((place) => {
  const make = (shared: 'me' | 'everyone') => async (): Promise<Params> => {
    const content = contents[place]
    const { id } = await made(tom, `POST /${place}`, { title: title(), shared, content })
    return { id }
  }
  const outcomes = (read: Outcomes, write: Outcomes): Story['outcomes'] => ({
    [`GET /${place}/{id}`]: read,
    [`GET /${place}/{id}/usage`]: read,
    [`PATCH /${place}/{id}`]: write,
    [`DELETE /${place}/{id}`]: write,
  })
  return [
    {
      thing: `what Tom keeps to himself of ${place}`,
      make: make('me'),
      outcomes: outcomes(makerReads, makerWrites),
    },
    {
      thing: `what Tom shares of ${place}`,
      make: make('everyone'),
      outcomes: outcomes(everybody, keepers),
    },
  ] satisfies Story[]
})

/** An item that Tom makes, with his comment, a link, and Greta among its followers where she may see it. */
const makeItem = (code: string) => async (): Promise<Params> => {
  const item = { project: code, type: 'Defect', title: title() }
  const [entry, other] = [
    await made(tom, 'POST /items', item),
    await made(tom, 'POST /items', item),
  ]
  const number = String(entry.ref.split('/')[1])
  const place = { code, number }
  const comment = await made(tom, 'POST /items/{code}/{number}/comments', { body: 'Look.' }, place)
  const link = await made(
    tom,
    'POST /items/{code}/{number}/links',
    { kind: 'lk_waits', direction: 'out', to: other.ref },
    place,
  )
  await made(
    tom,
    'POST /items/{code}/{number}/followers',
    { person: await personOf('Tom Okafor') },
    place,
  )
  return {
    ...place,
    comment: String(comment.comments.at(-1).id),
    link: String(link.links.at(-1).id),
    person: await personOf('Tom Okafor'),
    ref: entry.ref,
  }
}

const itemOutcomes = (read: Outcomes, write: Outcomes): Story['outcomes'] => ({
  'GET /items/{code}/{number}': read,
  'GET /items/{code}/{number}/history': read,
  'GET /items/{code}/{number}/comments': read,
  'GET /items/{code}/{number}/links': read,
  'GET /items/{code}/{number}/followers': read,
  'POST /items/{code}/{number}/looked': read,
  'PATCH /items/{code}/{number}': write,
  'POST /items/{code}/{number}/comments': write,
  'POST /items/{code}/{number}/links': write,
  'DELETE /items/{code}/{number}/links/{link}': write,
  'DELETE /items/{code}/{number}': write,
})
const itemBodies: Story['bodies'] = {
  'POST /items/{code}/{number}/followers': { person: 'pe_02' },
  'POST /items/{code}/{number}/links': { kind: 'lk_belongs', direction: 'out', to: 'YARD/1' },
  'PATCH /items/{code}/{number}': { title: 'Changed' },
  'POST /items/{code}/{number}/comments': { body: 'Yes.' },
  'PATCH /items/{code}/{number}/comments/{comment}': { body: 'No.' },
}

/** A project's label, component or template, made by Tom, who keeps the projects. */
const ofProject =
  (route: Route, code: string, more: object = {}) =>
  async (): Promise<Params> => {
    const { id } = await made(tom, route, {
      title: title(),
      project: await projectOf(code),
      ...more,
    })
    return { id }
  }

const aDefect = {
  content: {
    item: { title: 'From a template', type: 'ty_defect', values: {}, fields: {} },
    children: [],
    links: [],
  },
}
const templateBodies = (code: string): Story['bodies'] => ({
  'POST /templates/{id}/fill': { project: code },
  'POST /templates/{id}/make': { project: code },
  'POST /templates/{id}/apply': { ref: `${code}/1`, how: 'fill', keep: false },
})
const templateOutcomes = (read: Outcomes, use: Outcomes, write: Outcomes): Story['outcomes'] => ({
  'GET /templates/{id}': read,
  'POST /templates/{id}/fill': read,
  'POST /templates/{id}/apply': use,
  'POST /templates/{id}/make': use,
  'PATCH /templates/{id}': write,
  'POST /templates/{id}/mend': write,
})

/** A release of a project; its days differ from those of every other. */
const makeRelease = (code: string) => async (): Promise<Params> => {
  const { id } = await made(tom, 'POST /releases', {
    title: title(),
    projects: [await projectOf(code)],
  })
  return { id }
}
const releaseOutcomes = (read: Outcomes, write: Outcomes): Story['outcomes'] => ({
  'GET /releases/{id}/plan': read,
  'PATCH /releases/{id}': write,
  'DELETE /releases/{id}': write,
  'POST /releases/{id}/start': write,
  'POST /releases/{id}/finish': write,
})

const file = { project: 'YARD', name: 'defects.csv', text: 'Title\nA defect\n' }
const reading = { columns: ['title'], key: null, days: 'YMD' }
const livingStories: readonly Story[] = [
  {
    thing: 'a label of an open project',
    make: ofProject('POST /labels', 'YARD'),
    outcomes: { 'PATCH /labels/{id}': keepers },
  },
  {
    thing: 'a label of a closed project',
    make: ofProject('POST /labels', 'DOCK'),
    outcomes: { 'PATCH /labels/{id}': insidersWrite },
  },
  {
    thing: 'a label that everybody shares',
    make: async () => ({ id: (await made(tom, 'POST /labels', { title: title() })).id }),
    outcomes: { 'PATCH /labels/{id}': ['may', 'forbidden', 'forbidden', 'forbidden'] },
  },
  {
    thing: 'a component of an open project',
    make: ofProject('POST /components', 'YARD'),
    outcomes: { 'PATCH /components/{id}': keepers },
  },
  {
    thing: 'a component of a closed project',
    make: ofProject('POST /components', 'DOCK'),
    outcomes: { 'PATCH /components/{id}': insidersWrite },
  },
  {
    thing: 'a template of an open project',
    make: ofProject('POST /templates', 'YARD', aDefect),
    bodies: templateBodies('YARD'),
    outcomes: templateOutcomes(everybody, members, keepers),
  },
  {
    thing: 'a template of a closed project',
    make: ofProject('POST /templates', 'DOCK', aDefect),
    bodies: templateBodies('DOCK'),
    outcomes: templateOutcomes(insiders, insidersWrite, insidersWrite),
  },
  {
    thing: 'a template of a rulebook',
    bodies: templateBodies('YARD'),
    make: async () => {
      const body = { title: title(), rulebook: 'rb_yard', ...aDefect }
      return { id: (await made(tom, 'POST /templates', body)).id }
    },
    outcomes: templateOutcomes(everybody, members, keepers),
  },
  {
    thing: 'a release of an open project',
    make: makeRelease('YARD'),
    bodies: { 'POST /releases/{id}/finish': { to: null } },
    outcomes: releaseOutcomes(everybody, keepers),
  },
  {
    thing: 'a release of a closed project',
    make: makeRelease('DOCK'),
    bodies: { 'POST /releases/{id}/finish': { to: null } },
    outcomes: releaseOutcomes(insiders, insidersWrite),
  },
  {
    thing: 'labels of a project that Tom made one',
    make: async () => {
      const project = await projectOf('YARD')
      const [entry, other] = [
        await made(tom, 'POST /labels', { title: title(), project }),
        await made(tom, 'POST /labels', { title: title(), project }),
      ]
      await made(tom, 'POST /labels/merge', { from: [entry.id], into: other.id })
      const { merges } = (await mara('GET', '/merges')).body
      return { number: String(Math.max(...merges.map((merge: any) => merge.id))) }
    },
    outcomes: { 'POST /merges/{number}/undo': keepers },
  },
]

const iterationOutcomes: Story['outcomes'] = {
  'GET /iterations/{id}/plan': everybody,
  'PATCH /iterations/{id}': keepers,
  'DELETE /iterations/{id}': keepers,
  'POST /iterations/{id}/start': keepers,
  'POST /iterations/{id}/finish': keepers,
}
let week = 0
/** Days of an iteration that no other one has. */
const nextWeek = (): { start: string; end: string } => {
  week += 1
  const start = new Date(Date.UTC(2030, 0, 7 * week))
  const end = new Date(start.getTime() + 6 * 86_400_000)
  return { start: start.toISOString().slice(0, 10), end: end.toISOString().slice(0, 10) }
}

const ownStories: readonly Story[] = [
  {
    thing: 'an iteration of Tom’s team',
    make: async () => {
      const team = (await served.worlds.now()).teams.find((team) => team.title === 'Yard crew')!.id
      return {
        id: (await made(tom, 'POST /iterations', { title: title(), team, ...nextWeek() })).id,
      }
    },
    bodies: { 'POST /iterations/{id}/finish': { to: null } },
    outcomes: iterationOutcomes,
  },
  {
    thing: 'days on which Tom is away',
    make: async () => {
      const body = { person: await personOf('Tom Okafor'), ...nextWeek() }
      return { absence: String((await made(tom, 'POST /absences', body)).id) }
    },
    outcomes: { 'DELETE /absences/{absence}': keepers },
  },
  {
    thing: 'what Tom jotted down',
    make: async () => {
      const { jots } = await made(tom, 'POST /jots', { text: title() })
      return { id: jots.at(-1).id }
    },
    bodies: { 'PATCH /jots/{id}': { title: 'Changed' } },
    outcomes: { 'PATCH /jots/{id}': makerWrites, 'DELETE /jots/{id}': makerWrites },
  },
  {
    thing: 'an address that Tom subscribes to',
    make: async () => {
      const body = { filter: true, format: 'atom', title: title() }
      return { id: (await made(tom, 'POST /subscriptions', body)).id }
    },
    outcomes: { 'DELETE /subscriptions/{id}': makerReads },
  },
  {
    thing: 'a file that Tom brings in',
    make: async () => ({ id: (await made(tom, 'POST /imports', file)).id }),
    bodies: {
      'POST /imports/{id}/check': reading,
      'POST /imports/{id}/carry-out': { goodOnly: false },
    },
    outcomes: {
      'GET /imports/{id}': makerWrites,
      'GET /imports/{id}/rest': makerWrites,
      'POST /imports/{id}/check': makerWrites,
      'POST /imports/{id}/carry-out': makerWrites,
      'DELETE /imports/{id}': makerWrites,
    },
  },
  {
    thing: 'a change of many items by Tom',
    make: async () => {
      const { ref } = await makeItem('YARD')()
      const change = { items: { refs: [ref] }, change: { set: { estimate: count } } }
      return { id: (await made(tom, 'POST /items/bulk', { ...change, total: 1 })).id }
    },
    outcomes: {
      // Administrators see every change of many, and may undo it.
      'GET /bulk/{id}': insidersWrite,
      'POST /bulk/{id}/undo': insidersWrite,
      'DELETE /bulk/{id}': insidersWrite,
    },
  },
]

/** A draft of Tom’s that describes the rulebook which he keeps. */
const makeDraft = (shared: boolean) => async (): Promise<Params> => {
  const path = ['rulebooks', 'rb_yard', 'description']
  const edits = [{ path, after: title() }]
  const draft = await made(tom, 'POST /definitions/drafts', { title: title(), shared, edits })
  return { id: draft.id, change: draft.changes[0].id }
}
const draftBodies: Story['bodies'] = {
  'PATCH /definitions/drafts/{id}': { title: 'Another title' },
  'POST /definitions/drafts/{id}/rebase': { choices: {} },
  'POST /definitions/drafts/{id}/publish': { note: 'Described.' },
}
const draftOutcomes = (read: Outcomes, write: Outcomes): Story['outcomes'] => ({
  'GET /definitions/drafts/{id}': read,
  'GET /definitions/drafts/{id}/impact': read,
  'GET /definitions/drafts/{id}/replay': read,
  'PATCH /definitions/drafts/{id}': write,
  'DELETE /definitions/drafts/{id}': write,
  'DELETE /definitions/drafts/{id}/changes/{change}': write,
  'POST /definitions/drafts/{id}/rebase': write,
  'POST /definitions/drafts/{id}/publish': write,
})
const draftStories: readonly Story[] = [
  {
    thing: 'a draft that Tom shares',
    make: makeDraft(true),
    bodies: draftBodies,
    outcomes: draftOutcomes(everybody, keepers),
  },
  {
    thing: 'a draft that Tom keeps to himself',
    make: makeDraft(false),
    bodies: draftBodies,
    outcomes: {
      ...draftOutcomes(makerReads, ['not there', 'may', 'forbidden', 'forbidden']),
      'DELETE /definitions/drafts/{id}': makerWrites,
    },
  },
  {
    thing: 'a draft that Tom dropped',
    make: async () => {
      const { id = '' } = await makeDraft(true)()
      await made(tom, 'DELETE /definitions/drafts/{id}', {}, { id })
      return { id }
    },
    outcomes: { 'POST /definitions/dropped-drafts/{id}/take-back': keepers },
  },
]

/** Something that is made, by what it is made for. */
const making = (
  thing: string,
  route: Route,
  body: () => Promise<object>,
  outcomes: Outcomes,
): Story => ({
  thing: `making ${thing}`,
  make: async () => await Promise.resolve({}),
  bodies: { [route]: async () => ({ title: title(), ...(await body()) }) },
  outcomes: { [route]: outcomes },
})
const projects =
  (...codes: string[]) =>
  async () => ({
    projects: await Promise.all(codes.map(projectOf)),
  })
const project =
  (code: string, more: object = {}) =>
  async () => ({ project: await projectOf(code), ...more })
const person = (name: Name) => async () => ({ person: await personOf(name), ...nextWeek() })
const administrators: Outcomes = ['may', 'forbidden', 'forbidden', 'forbidden']
/** A release that belongs to a project, changed so that it belongs to another. */
const handingOver = (from: string, to: string): Story => ({
  thing: `a release of ${from} that is to be one of ${to}`,
  make: async () => {
    const body = { title: title(), ...(await projects(from)()) }
    return { id: (await made(mara, 'POST /releases', body)).id }
  },
  bodies: { 'PATCH /releases/{id}': projects(to) },
  outcomes: { 'PATCH /releases/{id}': administrators },
})
const makingStories: readonly Story[] = [
  handingOver('PIER', 'YARD'),
  handingOver('YARD', 'PIER'),
  {
    thing: 'a draft that changes a rulebook which Tom does not keep',
    make: async () => await Promise.resolve({}),
    bodies: {
      'POST /definitions/drafts': async () =>
        await Promise.resolve({
          title: title(),
          edits: [{ path: ['rulebooks', 'rb_safety', 'description'], after: title() }],
        }),
    },
    outcomes: { 'POST /definitions/drafts': administrators },
  },
  making('a component of a closed project', 'POST /components', project('DOCK'), insidersWrite),
  making(
    'a template of a closed project',
    'POST /templates',
    project('DOCK', aDefect),
    insidersWrite,
  ),
  making('a release of a project that Tom keeps', 'POST /releases', projects('YARD'), keepers),
  making(
    'a release of another project, too',
    'POST /releases',
    projects('YARD', 'PIER'),
    administrators,
  ),
  making('a label of an open project', 'POST /labels', project('PIER'), members),
  making('a label of a closed project', 'POST /labels', project('DOCK'), insidersWrite),
  making('a component of a project that Tom keeps', 'POST /components', project('YARD'), keepers),
  making('a component of another project', 'POST /components', project('PIER'), administrators),
  making(
    'a template of a project that Tom keeps',
    'POST /templates',
    project('YARD', aDefect),
    keepers,
  ),
  making(
    'a template of another project',
    'POST /templates',
    project('PIER', aDefect),
    administrators,
  ),
  {
    thing: 'making an item',
    make: async () => await Promise.resolve({}),
    bodies: { 'POST /items': { project: 'PIER', type: 'Defect', title: 'An item' } },
    outcomes: { 'POST /items': members },
  },
  {
    thing: 'making an iteration of the whole workspace',
    make: async () => await Promise.resolve({}),
    bodies: {
      'POST /iterations': async () => await Promise.resolve({ title: title(), ...nextWeek() }),
    },
    outcomes: { 'POST /iterations': administrators },
  },
  {
    thing: 'telling that Tom is away',
    make: async () => await Promise.resolve({}),
    bodies: { 'POST /absences': person('Tom Okafor') },
    outcomes: { 'POST /absences': keepers },
  },
]

const codeStories: readonly Story[] = [
  {
    thing: 'an open project',
    make: async () => await Promise.resolve({ code: 'YARD' }),
    outcomes: { 'GET /projects/{code}/offers': everybody, 'GET /projects/{code}/tree': everybody },
  },
  {
    thing: 'a closed project',
    make: async () => await Promise.resolve({ code: 'DOCK' }),
    outcomes: { 'GET /projects/{code}/offers': insiders, 'GET /projects/{code}/tree': insiders },
  },
]

const stories: readonly Story[] = [
  ...savedStories,
  ...livingStories,
  ...ownStories,
  ...draftStories,
  ...makingStories,
  ...codeStories,
  {
    thing: 'an item of an open project',
    make: makeItem('YARD'),
    bodies: itemBodies,
    outcomes: {
      ...itemOutcomes(everybody, members),
      'PATCH /items/{code}/{number}/comments/{comment}': [
        'forbidden',
        'may',
        'forbidden',
        'forbidden',
      ],
      'DELETE /items/{code}/{number}/comments/{comment}': keepers,
      // A viewer follows for themselves alone.
      'POST /items/{code}/{number}/followers': members,
      'DELETE /items/{code}/{number}/followers/{person}': members,
    },
  },
  {
    thing: 'an item of a closed project',
    make: makeItem('DOCK'),
    bodies: itemBodies,
    outcomes: {
      ...itemOutcomes(insiders, insidersWrite),
      'PATCH /items/{code}/{number}/comments/{comment}': [
        'forbidden',
        'may',
        'not there',
        'forbidden',
      ],
      'DELETE /items/{code}/{number}/comments/{comment}': insidersWrite,
      'DELETE /items/{code}/{number}/followers/{person}': insidersWrite,
      'POST /items/{code}/{number}/followers': insidersWrite,
    },
  },
]

describe.each(stories)('$thing', ({ make, outcomes, bodies = {} }) => {
  it.each(Object.entries(outcomes) as [Route, Outcomes][])('%s', async (route, expected) => {
    const found: Outcome[] = []
    // What is only read can be read by all of them.
    let params = route.startsWith('GET ') ? await make() : undefined
    for (const name of names) {
      if (!route.startsWith('GET ')) params = await make()
      const given = bodies[route]
      const body = typeof given === 'function' ? await given() : given
      found.push(outcomeOf(await callRoute(callers[name], route, params ?? {}, body)))
    }
    expect(found).toEqual(expected)
  })
})

describe('the stories', () => {
  /** Endpoints of things that belong to nobody: the role alone decides. */
  const byRoleAlone: ReadonlySet<Route> = new Set<Route>([
    'GET /definitions/editions/{number}',
    'GET /definitions/editions/{number}/compare/{to}',
    'POST /definitions/editions/{number}/draft',
    'GET /definitions/rulebooks/{id}',
    'GET /definitions/moves/{type}',
    'GET /definitions/rulebooks/{id}/keepers',
    'PATCH /definitions/rulebooks/{id}/keepers',
    'PATCH /people/{id}',
    'POST /people/{id}/invitation',
    'POST /jobs/{key}/try',
    'DELETE /jobs/{key}',
    'POST /labels/{id}/lift',
    'PATCH /calendars/{id}',
    'DELETE /calendars/{id}',
    'PATCH /teams/{id}',
    'DELETE /teams/{id}',
    'PATCH /projects/{id}',
  ])

  it('cover every endpoint that names a thing', () => {
    const told = new Set(stories.flatMap(({ outcomes }) => Object.keys(outcomes)))
    const left = Object.keys(contracts).filter((route) => route.includes('{') && !told.has(route))
    expect(left.filter((route) => !byRoleAlone.has(route as Route))).toEqual([])
  })
})
