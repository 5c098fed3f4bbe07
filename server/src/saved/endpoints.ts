import { type TUnsafe, Type } from 'typebox'
import { endpoint, type Endpoint, type RequestContext } from '../http/endpoint.ts'
import { matchOf } from '../http/headers.ts'
import { invalid } from '../problems/problem.ts'
import {
  change,
  discard,
  etagOfSaved,
  list,
  read,
  save,
  type SavedChange,
  type SavedKind,
  type SavedThing,
} from './service.ts'
import { usersOf } from './users.ts'

const shared = Type.Enum(['me', 'everyone'])
const title = Type.String({ minLength: 1, maxLength: 120 })
const description = Type.String({ maxLength: 2000 })

/** How a kind of kept thing differs from the others: what comes in, and what is told beside it. */
export interface SavedPlace<Content> {
  readonly kind: SavedKind
  readonly plural: string
  readonly content: TUnsafe<Content>
  /** judges and completes what is given, for example a filter written as text */
  readonly take: (context: RequestContext, content: Content) => Content | Promise<Content>
  readonly show: (context: RequestContext, kept: SavedThing<Content>) => object
}

/** What a person may not see stands masked in what they read; kept so, it would be lost. */
function judgeNamed(content: unknown): void {
  if (/"[a-z]{2}_hidden"/.test(JSON.stringify(content ?? null)))
    throw invalid([
      {
        pointer: '/content',
        message:
          'This names something you may not see, so you cannot keep it; take that part out, or ask somebody who sees it.',
        expected: 'only what you may see',
      },
    ])
}

/** The body of a new one, and of changes to one. */
const bodiesOf = <Content>(content: TUnsafe<Content>) => ({
  New: Type.Object(
    { title, description: Type.Optional(description), shared: Type.Optional(shared), content },
    { additionalProperties: false },
  ),
  Change: Type.Object(
    {
      title: Type.Optional(title),
      description: Type.Optional(description),
      shared: Type.Optional(shared),
      content: Type.Optional(content),
    },
    { additionalProperties: false },
  ),
})

/** The endpoints of one kind of saved thing: list, create, read, change, delete and where it is used. */
export const savedEndpoints = <Content>(keeper: SavedPlace<Content>): readonly Endpoint[] => [
  ...readEndpoints(keeper),
  ...writeEndpoints(keeper),
]

function readEndpoints<Content>({ kind, plural, show }: SavedPlace<Content>): readonly Endpoint[] {
  const path = `/api/v1/${plural}`
  return [
    endpoint({
      method: 'get',
      path,
      role: 'viewer',
      summary: `The ${plural} a person may see.`,
      answer: async (context) => {
        const found = await list<Content>(context.database, context, kind)
        return { body: { [plural]: found.map((one) => show(context, one)) } }
      },
    }),
    endpoint({
      method: 'get',
      path: `${path}/{id}`,
      role: 'viewer',
      summary: `One ${kind}.`,
      answer: async (context) => {
        const found = await read<Content>(context.database, context, kind, context.params.id)
        return { body: show(context, found), etag: etagOfSaved(found) }
      },
    }),
    endpoint({
      method: 'get',
      path: `${path}/{id}/usage`,
      role: 'viewer',
      summary: `What rests on a ${kind}.`,
      answer: async ({ database, person, params, ...context }) => {
        await read(database, { ...context, person }, kind, params.id)
        const users = await usersOf(database, kind, params.id)
        const usedBy = users
          .filter((user) => user.shared === 'everyone' || user.owner === person.number)
          .map((user) => ({ kind: user.kind, id: user.id, title: user.title }))
        return { body: { usedBy } }
      },
    }),
  ]
}

function writeEndpoints<Content>(keeper: SavedPlace<Content>): readonly Endpoint[] {
  const { kind, plural, take, show } = keeper
  const { New, Change } = bodiesOf(keeper.content)
  const path = `/api/v1/${plural}`
  return [
    endpoint({
      method: 'post',
      path,
      role: 'member',
      summary: `Keeps a new ${kind}.`,
      body: New,
      answer: async (context) => {
        const given: SavedChange<Content> & { title: string; content: Content } = context.body
        judgeNamed(given.content)
        const content = await take(context, given.content)
        const made = await save(context.database, context, kind, { ...given, content })
        return { status: 201, body: show(context, made), etag: etagOfSaved(made) }
      },
    }),
    endpoint({
      method: 'patch',
      path: `${path}/{id}`,
      role: 'member',
      summary: `Changes a ${kind}.`,
      body: Change,
      answer: async (context) => {
        const { database, params } = context
        const given: SavedChange<Content> = context.body
        judgeNamed(given.content)
        const taken =
          given.content === undefined
            ? given
            : { ...given, content: await take(context, given.content) }
        const match = matchOf(context.request)
        const changed = await change(database, context, kind, params.id, taken, match)
        return { body: show(context, changed), etag: etagOfSaved(changed) }
      },
    }),
    endpoint({
      method: 'delete',
      path: `${path}/{id}`,
      role: 'member',
      summary: `Deletes a ${kind} that nothing rests on.`,
      answer: async (context) => {
        const { database, params } = context
        await discard(database, context, kind, params.id, matchOf(context.request))
        return {}
      },
    }),
  ]
}
