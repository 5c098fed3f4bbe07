import type { SavedKind, SavedThing } from '@bluestem/core/saved'
import { type Endpoint, endpointOf, type RequestContext } from '../http/endpoint.ts'
import { matchOf } from '../http/headers.ts'
import { invalid } from '../problems/problem.ts'
import type { ActorContext } from '../workspace/actor.ts'
import {
  change,
  discard,
  etagOfSaved,
  list,
  read,
  save,
  type NewThing,
  type SavedChange,
} from './service.ts'
import { usersOf } from './users.ts'

type Plural = 'queries' | 'views' | 'measures' | 'dashboards'

/** How a kind of kept thing differs from the others: what comes in, and what is told beside it. */
export interface SavedPlace<Content> {
  readonly kind: SavedKind
  readonly plural: Plural
  /** judges and completes what is given, for example a filter written as text */
  readonly take: (context: ActorContext, content: Content) => Content | Promise<Content>
  readonly show: (context: ActorContext, kept: SavedThing<Content>) => object
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

/** The endpoints of one kind of saved thing: list, create, read, change, delete and where it is used. */
export const savedEndpoints = <Content>(keeper: SavedPlace<Content>): readonly Endpoint[] => [
  ...readEndpoints(keeper),
  ...writeEndpoints(keeper),
]

function readEndpoints<Content>({ kind, plural, show }: SavedPlace<Content>): readonly Endpoint[] {
  return [
    endpointOf(`GET /${plural}`, {
      role: 'viewer',
      summary: `The ${plural} a person may see.`,
      answer: async (context) => {
        const found = await list<Content>(context.database, context, kind)
        return { body: { [plural]: found.map((savedThing) => show(context, savedThing)) } }
      },
    }),
    endpointOf(`GET /${plural}/{id}`, {
      role: 'viewer',
      summary: `One ${kind}.`,
      answer: async (context: RequestContext<`GET /${Plural}/{id}`>) => {
        const found = await read<Content>(context.database, context, kind, context.params.id)
        return { body: show(context, found), etag: etagOfSaved(found) }
      },
    }),
    endpointOf(`GET /${plural}/{id}/usage`, {
      role: 'viewer',
      summary: `What rests on a ${kind}.`,
      answer: async (context: RequestContext<`GET /${Plural}/{id}/usage`>) => {
        const { database, person, params } = context
        await read(database, context, kind, params.id)
        const users = await usersOf(database, kind, params.id)
        const usedBy = users
          .filter((user) => user.shared === 'everyone' || user.owner === person.number)
          .map((user) => ({ kind: user.kind, id: user.id, title: user.title }))
        return { body: { usedBy } }
      },
    }),
  ]
}

function writeEndpoints<Content>(place: SavedPlace<Content>): readonly Endpoint[] {
  const { kind, plural, take, show } = place
  return [
    endpointOf(`POST /${plural}`, {
      role: 'member',
      summary: `Keeps a new ${kind}.`,
      answer: async (context: RequestContext<`POST /${Plural}`>) => {
        // The body was judged by the contract of the place, whose content this is.
        const given = context.body as NewThing<Content>
        judgeNamed(given.content)
        const content = await take(context, given.content)
        const made = await save(context.database, context, kind, { ...given, content })
        return { status: 201, body: show(context, made), etag: etagOfSaved(made) }
      },
    }),
    endpointOf(`PATCH /${plural}/{id}`, {
      role: 'member',
      summary: `Changes a ${kind}.`,
      answer: async (context: RequestContext<`PATCH /${Plural}/{id}`>) => {
        const { database, params } = context
        // As above.
        const given = context.body as SavedChange<Content>
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
    endpointOf(`DELETE /${plural}/{id}`, {
      role: 'member',
      summary: `Deletes a ${kind} that nothing rests on.`,
      answer: async (context: RequestContext<`DELETE /${Plural}/{id}`>) => {
        const { database, params } = context
        await discard(database, context, kind, params.id, matchOf(context.request))
        return {}
      },
    }),
  ]
}
